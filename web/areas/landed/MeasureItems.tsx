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
    <div className="notice stack" style={{ gap: 6 }}>
      <span>{what === 'weight' ? 'What does one weigh?' : 'How large is one?'} It is kept on the item.</span>
      <Refused error={error} />
      {items.map(({ itemId, sku, name, unit }) => (
        <form
          key={itemId}
          style={{ display: 'flex', gap: 8, alignItems: 'center' }}
          onSubmit={(event) => {
            event.preventDefault();
            save(itemId);
          }}
        >
          <span style={{ flex: 1 }}>
            <span className="code">{sku}</span> {name}, {unit}
          </span>
          <input
            className="plain"
            style={{ width: 160 }}
            aria-label={`${what === 'weight' ? 'Weight' : 'Size'} of ${sku}`}
            placeholder={what === 'weight' ? 'kg' : 'cm x cm x cm'}
            value={typed[itemId] ?? ''}
            onChange={(event) => setTyped({ ...typed, [itemId]: event.target.value })}
          />
          <button type="submit" className="button small" disabled={isLoading}>
            Keep
          </button>
        </form>
      ))}
    </div>
  );
}
