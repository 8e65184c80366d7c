import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { decimal } from '@larder/core/decimal';
import type { OpeningForm } from '@larder/contract/stock';
import type { LotEntry } from '@larder/contract/values';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { EffectPanel } from '../../kit/EffectPanel';
import { count, plainPrice } from '../../kit/format';
import { LineEntry } from '../../kit/LineEntry';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useItemQuery } from '../items/api';
import { useBinsQuery } from '../setup/api';
import { useForeseeOpeningQuery, useOpenStockMutation } from './api';
import { LotFields } from './LotFields';

interface Entry {
  itemId: number;
  binId: number | null;
  quantity: string;
  unitValue: string;
  lots: LotEntry[];
}

const isNumber = (text: string): boolean => /^\d{1,9}(\.\d{1,6})?$/.test(text.trim());
const first = (itemId: number, many = ''): Entry => ({ itemId, binId: null, quantity: many, unitValue: '', lots: [] });

/** The stock a business begins with, item by item or on a sheet: bin, quantity, worth, lots and serials. Posts through the ledger, effect first. */
export function OpeningPage() {
  useTitle('Opening stock');
  const [search] = useSearchParams();
  const [entries, setEntries] = useState<Entry[]>(() => search.getAll('item').map((id) => first(Number(id))));
  const [done, setDone] = useState('');
  const [open, opening] = useOpenStockMutation();
  const { refused, busy, at } = refusalOf(opening);
  const ready = entries.filter((entry) => entry.binId !== null && isNumber(entry.quantity) && isNumber(entry.unitValue));
  const body: OpeningForm = {
    note: '',
    lines: ready.map(({ itemId, binId, quantity: many, unitValue, lots }) => ({
      itemId,
      binId: binId as number,
      quantity: many.trim(),
      unitValue: unitValue.trim(),
      lots: lots.filter(({ code }) => code.trim() !== ''),
    })),
  };
  const asked = useDelayed(body, 300);
  const { currentData, error } = useForeseeOpeningQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const foreseen = refusalOf({ error, isLoading: false });
  const put = (index: number, part: Partial<Entry>) => setEntries((now) => now.map((entry, n) => (n === index ? { ...entry, ...part } : entry)));
  const post = async () => {
    if ((await open({ body })).error) return;
    setDone(`Brought in ${count(ready.length, 'line')}. Undo it from the trail if it was wrong.`);
    setEntries([]);
  };
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Opening stock</h1>
          <span className="quiet">what lies there as you begin, and what it is worth</span>
        </div>
        {done ? (
          <p className="notice done" role="status">
            {done}
          </p>
        ) : null}
        <Refused error={refused} />
        <div className="card">
          <table aria-label="Opening stock" className="floor">
            <thead>
              <tr>
                <th>Item</th>
                <th>Bin</th>
                <th className="number">Quantity</th>
                <th className="number">One is worth</th>
                <th />
              </tr>
            </thead>
            {entries.map((entry, index) => {
              const place = ready.indexOf(entry);
              const errorAt = (field: string) => (place < 0 ? undefined : (at(`lines.${place}.${field}`) ?? foreseen.at(`lines.${place}.${field}`)));
              return (
                <OpeningRow
                  key={`${entry.itemId} ${index}`}
                  entry={entry}
                  change={(part) => put(index, part)}
                  remove={() => setEntries(entries.filter((_, n) => n !== index))}
                  errorAt={errorAt}
                />
              );
            })}
            <tbody>
              <tr>
                <td colSpan={5}>
                  <LineEntry
                    add={(item, many, unitId) => {
                      const factor = item.units.find((unit) => unit.unitId === unitId)?.factor ?? '1';
                      setDone('');
                      setEntries([...entries, first(item.id, many === '1' && unitId === null ? '' : decimal(many).times(factor).toFixed())]);
                    }}
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </div>
      <EffectPanel
        title="What this will change"
        effects={asked.lines.length > 0 ? currentData?.effects : undefined}
        error={asked.lines.length > 0 ? error : undefined}
        idle="Say for each item in which bin it lies, how many there are and what one is worth."
      />
      <BottomBar
        hint="Words, a code or a scan, with the quantity in front or behind"
        next={{
          label: `Bring in ${count(ready.length, 'line')}`,
          run: () => void post(),
          disabled: busy || ready.length === 0 || Boolean(error) || asked.lines.length !== ready.length,
        }}
      />
    </div>
  );
}

interface OpeningRowProps {
  entry: Entry;
  change: (part: Partial<Entry>) => void;
  remove: () => void;
  errorAt: (field: string) => string | undefined;
}

function OpeningRow({ entry, change, remove, errorAt }: OpeningRowProps) {
  const { siteId } = useSite();
  const { data: item } = useItemQuery({ params: { id: entry.itemId } });
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const rows = bins?.rows ?? [];
  const proposed =
    item?.policies.find((policy) => policy.binId !== null && (siteId === undefined || policy.siteId === siteId))?.binId ??
    rows.find(({ unplaced }) => unplaced)?.id ??
    null;
  const binId = entry.binId ?? proposed;
  const worth = entry.unitValue || (item?.purchasePrice ? plainPrice(item.purchasePrice) : '');
  const write = (part: Partial<Entry>) => change({ binId, unitValue: worth, ...part });
  const sku = item?.sku ?? 'the item';
  return (
    <tbody>
      <tr>
        <td>
          <span className="code">{item?.sku}</span>
          <span className="name">{item?.name}</span>
        </td>
        <td>
          <select className="plain" aria-label={`Bin of ${sku}`} value={binId ?? ''} onChange={(event) => write({ binId: Number(event.target.value) })}>
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
            onChange={(event) => write({ quantity: event.target.value })}
          />{' '}
          <span className="quiet">{item && item.unit !== 'each' ? item.unit : ''}</span>
          {errorAt('quantity') ? <small className="late cellerror">{errorAt('quantity')}</small> : null}
        </td>
        <td className="number">
          <input
            className="plain number"
            style={{ width: 84 }}
            inputMode="decimal"
            placeholder="worth each"
            aria-label={`One ${sku} is worth`}
            value={worth}
            onChange={(event) => write({ unitValue: event.target.value })}
          />
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
              change={(lots) => write({ lots })}
              error={errorAt('lots')}
            />
          </td>
        </tr>
      ) : null}
    </tbody>
  );
}
