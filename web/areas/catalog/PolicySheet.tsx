import Box from '@mui/material/Box';
import { useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf, orNone, wholeOrNone } from '../../kit/formFields';
import { Card, Fields, Stack, inRow } from '../../kit/layout';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import type { Written } from './written';

const { Choice, Field } = fieldsOf<Written>();

/** How an item is kept and topped up at each site. Without a reorder point it is not reordered there. */
export function PolicySheet() {
  const { control } = useFormContext<Written>();
  const rows = useWatch({ control, name: 'policies', compute: (policies) => policies.map(({ siteId }) => siteId) });
  const { data: reference } = useReferenceQuery({});
  const suppliers = useWatch({ control, name: 'suppliers' });
  const { data: bins } = useBinsQuery({ query: {} });
  return (
    <Card aria-label="At each site">
      <h2>
        At each site<span>without a reorder point it is not reordered there</span>
      </h2>
      <Stack pad>
        {rows.map((siteId, index) => (
          <Fields key={siteId} sx={inRow('minmax(100px, 1fr) minmax(110px, 1fr) repeat(4, minmax(64px, 0.6fr)) minmax(150px, 1.4fr)')}>
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
            <Field label="Days of cover" name={`policies.${index}.coverDays`} read={wholeOrNone} />
            <Field label="Pack" name={`policies.${index}.packSize`} read={orNone} />
            <Choice
              label="More comes"
              name={`policies.${index}.way`}
              options={[
                { value: 'best', label: 'By what is best' },
                { value: 'make', label: 'Made here' },
                { value: 'buy', label: 'From its first supplier' },
                ...suppliers.flatMap(({ supplierId, supplier }) => [{ value: `buy ${supplierId}`, label: `From ${supplier}` }]),
                ...(reference?.sites ?? []).flatMap(({ id, name }) => (id === siteId ? [] : [{ value: `bring ${id}`, label: `From ${name}` }])),
              ]}
            />
          </Fields>
        ))}
      </Stack>
    </Card>
  );
}
