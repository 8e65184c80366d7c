import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useController } from 'react-hook-form';
import { sentenceIn } from '../../kit/form';
import { useReadOnly } from '../../kit/formFields';
import { Card, Stack } from '../../kit/layout';
import { LineEntry } from '../../shared/LineEntry';
import type { Written } from './written';

/** What may be given instead of an item, best first. */
export function Substitutes() {
  const { field, fieldState } = useController<Written, 'substitutes'>({ name: 'substitutes' });
  const isRead = useReadOnly();
  const rows = field.value;
  if (isRead && rows.length === 0) return null;
  const error = sentenceIn(fieldState.error);
  return (
    <Card aria-label="Substitutes">
      <h2>
        Substitutes<span>what may be given instead, best first</span>
      </h2>
      <Stack pad>
        {rows.map((one) => (
          <Box component="span" key={one.itemId} sx={{ display: 'flex', gap: 10, alignItems: 'center' }}>
            <span className="code">{one.sku}</span> {one.name}
            {isRead ? null : (
              <Button size="small" sx={{ marginLeft: 'auto' }} onClick={() => field.onChange(rows.filter(({ itemId }) => itemId !== one.itemId))}>
                Remove
              </Button>
            )}
          </Box>
        ))}
        {isRead ? null : (
          <LineEntry
            label="Add a substitute"
            takesScans={false}
            add={(item) =>
              rows.some(({ itemId }) => itemId === item.id) ? undefined : field.onChange([...rows, { itemId: item.id, sku: item.sku, name: item.name }])
            }
          />
        )}
        {error ? <small className="late">{error}</small> : null}
      </Stack>
    </Card>
  );
}
