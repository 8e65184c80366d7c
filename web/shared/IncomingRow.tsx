import { useEffect } from 'react';
import { useSeesCosts } from './may';
import { useSite } from './site';
import { plainPrice } from '../kit/format';
import { useItemQuery } from './items';
import { useBinsQuery } from './reference';
import { LotFields } from './LotFields';
import { isNumber, numberSentence, type NumberKind } from '@larder/core/number';
import type { Entry } from './entries';

interface EntryRowProps {
  entry: Entry;
  worth: string;
  change: (part: Partial<Entry>) => void;
  remove: () => void;
  errorAt: (field: string) => string | undefined;
}

export function EntryRow({ entry, worth: asked, change, remove, errorAt }: EntryRowProps) {
  const { siteId } = useSite();
  const isShown = useSeesCosts();
  const { data: item } = useItemQuery({ params: { id: entry.itemId } });
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const rows = bins?.rows ?? [];
  const proposed =
    item?.policies.find((policy) => policy.binId !== null && (siteId === undefined || policy.siteId === siteId))?.binId ??
    rows.find(({ unplaced }) => unplaced)?.id ??
    null;
  const open = item !== undefined && bins !== undefined && ((entry.binId === null && proposed !== null) || (entry.unitValue === null && isShown));
  useEffect(() => {
    if (!open) return;
    change({ binId: entry.binId ?? proposed, unitValue: entry.unitValue ?? (isShown ? (item.purchasePrice ? plainPrice(item.purchasePrice) : '') : null) });
  });
  const sku = item?.sku ?? 'the item';
  return (
    <tbody>
      <tr>
        <td>
          <span className="code">{item?.sku}</span>
          <span className="name">{item?.name}</span>
        </td>
        <td>
          <select className="plain" aria-label={`Bin of ${sku}`} value={entry.binId ?? ''} onChange={(event) => change({ binId: Number(event.target.value) })}>
            {rows.map((bin) => (
              <option key={bin.id} value={bin.id}>
                {bin.code} ({bin.siteName})
              </option>
            ))}
          </select>
        </td>
        <td className="number">
          <input
            className="plain number"
            style={{ width: 84 }}
            inputMode="decimal"
            placeholder="how many"
            aria-label={`Quantity of ${sku}`}
            value={entry.quantity}
            onChange={(event) => change({ quantity: event.target.value })}
          />{' '}
          <span className="quiet">{item && item.unit !== 'each' ? item.unit : ''}</span>
          <CellFault said={oddNumber(entry.quantity, 'quantity') ?? errorAt('quantity')} />
        </td>
        <td className="number">
          <input
            className="plain number"
            style={{ width: 84 }}
            inputMode="decimal"
            placeholder={isShown ? 'each' : 'as bought'}
            aria-label={`${asked}: ${sku}`}
            value={entry.unitValue ?? ''}
            onChange={(event) => change({ unitValue: event.target.value === '' && !isShown ? null : event.target.value })}
          />
          <CellFault said={oddNumber(entry.unitValue ?? '', 'price') ?? errorAt('unitValue')} />
        </td>
        <td>
          <button type="button" className="button small" onClick={remove} aria-label={`Take ${sku} out`}>
            Take out
          </button>
        </td>
      </tr>
      {item && item.tracking !== 'none' ? (
        <tr>
          <td colSpan={5} className="under">
            <LotFields
              item={{ itemId: item.id, sku: item.sku, tracking: item.tracking }}
              wanted={entry.quantity}
              lots={entry.lots}
              change={(lots) => change({ lots })}
              error={errorAt('lots')}
            />
          </td>
        </tr>
      ) : null}
    </tbody>
  );
}

const oddNumber = (text: string, kind: NumberKind): string | undefined => (text.trim() === '' || isNumber(text, kind) ? undefined : numberSentence(kind));

const CellFault = ({ said }: { said: string | undefined }) =>
  said === undefined ? null : (
    <small className="late cellerror" role="alert">
      {said}
    </small>
  );
