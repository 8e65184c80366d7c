import { useEffect } from 'react';
import { decimal } from '@larder/core/decimal';
import type { LotEntry } from '@larder/contract/values';
import { useSeesCosts } from './may';
import { useSite } from './site';
import { plainPrice } from '../kit/format';
import { LineEntry } from './LineEntry';
import { useItemQuery } from './items';
import { useBinsQuery } from './reference';
import { LotFields } from './LotFields';

/** Goods that come in without an order, as they are typed. A bin or worth that is null is proposed as soon as the item is known. */
export interface Entry {
  itemId: number;
  binId: number | null;
  quantity: string;
  unitValue: string | null;
  lots: LotEntry[];
}

const isNumber = (text: string): boolean => /^\d{1,9}(\.\d{1,6})?$/.test(text.trim());
export const newEntry = (itemId: number, quantity = '', binId: number | null = null): Entry => ({ itemId, binId, quantity, unitValue: null, lots: [] });
/** A worth that is null is the item's purchase price, which need not be shown to whoever enters it. */
export const isReady = ({ binId, quantity, unitValue }: Entry): boolean => binId !== null && isNumber(quantity) && (unitValue === null || isNumber(unitValue));

/** The entries as they are sent. */
export const sentEntries = (entries: readonly Entry[]) =>
  entries.map(({ itemId, binId, quantity, unitValue, lots }) => ({
    itemId,
    binId: binId as number,
    quantity: quantity.trim(),
    unitValue: unitValue === null ? null : unitValue.trim(),
    lots: lots.filter(({ code }) => code.trim() !== ''),
  }));

interface IncomingSheetProps {
  label: string;
  /** What the last column asks: what one is worth, or what it cost. */
  worth: string;
  entries: readonly Entry[];
  /** Rows fill themselves in one after the other, so a change is told as what it makes of the entries there are. */
  change: (update: (entries: Entry[]) => Entry[]) => void;
  /** The sentence for a field of the nth entry that is ready. */
  errorAt: (field: string) => string | undefined;
  /** The bin that new lines go to, when one was said. */
  binId?: number | null;
}

/** A sheet of goods coming in: item, bin, quantity, worth, and lots or serials right there. */
export function IncomingSheet({ label, worth, entries, change, errorAt, binId = null }: IncomingSheetProps) {
  const ready = entries.filter(isReady);
  return (
    <div className="card scroll">
      <table aria-label={label} className="floor">
        <thead>
          <tr>
            <th>Item</th>
            <th>Bin</th>
            <th className="number">Quantity</th>
            <th className="number">{worth}</th>
            <th />
          </tr>
        </thead>
        {entries.map((entry, index) => {
          const place = ready.indexOf(entry);
          return (
            <EntryRow
              key={`${entry.itemId} ${index}`}
              entry={entry}
              worth={worth}
              change={(part) => change((now) => now.map((one, n) => (n === index ? { ...one, ...part } : one)))}
              remove={() => change((now) => now.filter((_, n) => n !== index))}
              errorAt={(field) => (place < 0 ? undefined : errorAt(`lines.${place}.${field}`))}
            />
          );
        })}
        <tbody>
          <tr>
            <td colSpan={5}>
              <LineEntry
                add={(item, many, unitId) => {
                  const factor = item.units.find((unit) => unit.unitId === unitId)?.factor ?? '1';
                  change((now) => [
                    ...now,
                    newEntry(item.id, many === '1' && unitId === null && binId === null ? '' : decimal(many).times(factor).toFixed(), binId),
                  ]);
                }}
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}

interface EntryRowProps {
  entry: Entry;
  worth: string;
  change: (part: Partial<Entry>) => void;
  remove: () => void;
  errorAt: (field: string) => string | undefined;
}

function EntryRow({ entry, worth: asked, change, remove, errorAt }: EntryRowProps) {
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
          <CellFault said={oddNumber(entry.quantity, 'How many is a number above zero.') ?? errorAt('quantity')} />
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
          <CellFault said={oddNumber(entry.unitValue ?? '', 'Give an amount such as 4.20.') ?? errorAt('unitValue')} />
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

const oddNumber = (text: string, sentence: string): string | undefined => (text.trim() === '' || isNumber(text) ? undefined : sentence);

const CellFault = ({ said }: { said: string | undefined }) =>
  said === undefined ? null : (
    <small className="late cellerror" role="alert">
      {said}
    </small>
  );
