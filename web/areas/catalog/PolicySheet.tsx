import Box from '@mui/material/Box';
import { useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf, orNone } from '../../kit/formFields';
import { Card, Fields, Stack, inRow } from '../../kit/layout';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import type { Written } from './written';

const { Choice, Field } = fieldsOf<Written>();

/** How an item is kept at each site: default bin, reorder point, order-up-to level. Empty means: not reordered there. */
export function PolicySheet() {
  const { control } = useFormContext<Written>();
  const rows = useWatch({ control, name: 'policies', compute: (policies) => policies.map(({ siteId }) => siteId) });
  const { data: reference } = useReferenceQuery({});
  const { data: bins } = useBinsQuery({ query: {} });
  return (
    <Card aria-label="At each site">
      <h2>
        At each site<span>without a reorder point it is not reordered there</span>
      </h2>
      <Stack pad>
        {rows.map((siteId, index) => (
          <Fields key={siteId} sx={inRow('minmax(110px, 1fr) minmax(130px, 1fr) 1fr 1fr')}>
            <Box component="b" sx={{ paddingBottom: 8 }}>
              {reference?.sites.find(({ id }) => id === siteId)?.name}
            </Box>
            <Choice
              label="Default bin"
              name={`policies.${index}.binId`}
              none="None"
              ids
              options={(bins?.rows ?? []).filter((bin) => bin.siteId === siteId && !bin.unplaced).map((bin) => ({ value: String(bin.id), label: bin.code }))}
            />
            <Field label="Reorder point" name={`policies.${index}.reorderPoint`} read={orNone} />
            <Field label="Order up to" name={`policies.${index}.orderUpTo`} read={orNone} />
          </Fields>
        ))}
      </Stack>
    </Card>
  );
}
