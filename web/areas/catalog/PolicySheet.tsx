import Box from '@mui/material/Box';
import { Card, Fields, Stack } from '../../kit/layout';
import type { ItemForm } from '@larder/contract/catalog';
import { Choice, Field } from '../../kit/Field';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';

type Policy = ItemForm['policies'][number];

interface PolicySheetProps {
  rows: Policy[];
  change: (rows: Policy[]) => void;
  errorAt: (field: string) => string | undefined;
}

/** How an item is kept at each site: default bin, reorder point, order-up-to level. Empty means: not reordered there. */
export function PolicySheet({ rows, change, errorAt }: PolicySheetProps) {
  const { data: reference } = useReferenceQuery({});
  const { data: bins } = useBinsQuery({ query: {} });
  return (
    <Card aria-label="At each site">
      <h2>At each site</h2>
      <Stack pad>
        {(reference?.sites ?? []).map((site) => {
          const index = rows.findIndex(({ siteId }) => siteId === site.id);
          const row = rows[index] ?? { siteId: site.id, binId: null, reorderPoint: null, orderUpTo: null };
          const put = (part: Partial<Policy>) =>
            change(index < 0 ? [...rows, { ...row, ...part }] : rows.map((one, at) => (at === index ? { ...one, ...part } : one)));
          const text = (value: string) => (value.trim() === '' ? null : value.trim());
          return (
            <Fields key={site.id} sx={{ gridTemplateColumns: 'minmax(110px, 1fr) minmax(130px, 1fr) 1fr 1fr', alignItems: 'end' }}>
              <Box component="b" sx={{ paddingBottom: 8 }}>
                {site.name}
              </Box>
              <Choice
                label="Default bin"
                value={String(row.binId ?? '')}
                none="None"
                onChange={(value) => put({ binId: Number(value) || null })}
                options={(bins?.rows ?? []).filter((bin) => bin.siteId === site.id && !bin.unplaced).map((bin) => ({ value: String(bin.id), label: bin.code }))}
              />
              <Field
                label="Reorder point"
                value={row.reorderPoint ?? ''}
                onChange={(value) => put({ reorderPoint: text(value) })}
                error={index < 0 ? undefined : errorAt(`policies.${index}.reorderPoint`)}
              />
              <Field
                label="Order up to"
                value={row.orderUpTo ?? ''}
                onChange={(value) => put({ orderUpTo: text(value) })}
                error={index < 0 ? undefined : errorAt(`policies.${index}.orderUpTo`)}
              />
            </Fields>
          );
        })}
      </Stack>
    </Card>
  );
}
