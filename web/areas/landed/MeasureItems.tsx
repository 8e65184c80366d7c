import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { CellField } from '../../kit/CellField';
import { Notice } from '../../kit/Notice';
import { useState } from 'react';
import type { LandedLine } from '@larder/contract/landed';
import { Refused } from '../../kit/states';
import { useMeasureItemMutation } from './api';

/** Asks for the weight or size of items that have none; it is kept on the item. */
export function MeasureItems({ what, lines }: { what: 'weight' | 'volume'; lines: readonly LandedLine[] }) {
  const [typed, setTyped] = useState<Record<number, string>>({});
  const [keep, { error, isLoading }] = useMeasureItemMutation();
  const items = [...new Map(lines.map((line) => [line.itemId, line])).values()];
  if (items.length === 0) return null;
  const save = (itemId: number) => {
    const text = (typed[itemId] ?? '').trim();
    const [length = '', width = '', height = ''] = text.split(/[x×*]/i).map((part) => part.trim());
    return void keep({ body: what === 'weight' ? { itemId, weightKg: text } : { itemId, sizeCm: [length, width, height] } });
  };
  return (
    <Notice role="note">
      <span>{what === 'weight' ? 'What does one weigh?' : 'How large is one?'} It is kept on the item.</span>
      <Refused error={error} />
      {items.map(({ itemId, sku, name, unit }) => (
        <Box
          component="form"
          key={itemId}
          sx={{ display: 'flex', gap: 8, alignItems: 'center' }}
          onSubmit={(event) => {
            event.preventDefault();
            save(itemId);
          }}
        >
          <Box component="span" sx={{ flex: 1 }}>
            <span className="code">{sku}</span> {name}, {unit}
          </Box>
          <CellField
            width={160}
            label={`${what === 'weight' ? 'Weight' : 'Size'} of ${sku}`}
            placeholder={what === 'weight' ? 'kg' : 'cm x cm x cm'}
            value={typed[itemId] ?? ''}
            onChange={(text) => setTyped({ ...typed, [itemId]: text })}
            tall
          />
          <Button type="submit" size="small" disabled={isLoading}>
            Keep
          </Button>
        </Box>
      ))}
    </Notice>
  );
}
