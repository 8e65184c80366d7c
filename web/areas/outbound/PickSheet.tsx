import { useState } from 'react';
import { decimal } from '@larder/core/decimal';
import type { SalesOrder } from '@larder/contract/outbound';
import { problemOf } from '../../kit/problem';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { Field } from '../../kit/Field';
import { count, quantity } from '../../kit/format';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { pickScan, type PickRow } from './pickScan';
import { useForeseePickQuery, usePickListQuery, usePickMutation } from './api';

/** The pick list of one order in walking order. Quantities are what is asked; less is a short pick, with a reason. A scan counts one. */
export function PickSheet({ order, done }: { order: SalesOrder; done: () => void }) {
  const { data, error } = usePickListQuery({ params: { id: order.id } });
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [scanned, setScanned] = useState<string | null>(null);
  const [shortReason, setShortReason] = useState('');
  const [pick, { isLoading, error: refused }] = usePickMutation();
  const rows = data?.rows ?? [];
  const key = (row: { lineId: number; binId: number; lotId: number | null }) => `${row.lineId}/${row.binId}/${row.lotId ?? ''}`;
  const picked = (row: (typeof rows)[number]) => typed[key(row)] ?? (scanned === null ? row.take : '0');
  const lines = rows.flatMap((row) =>
    Number(picked(row)) !== 0 ? [{ lineId: row.lineId, binId: row.binId, lotId: row.lotId, quantity: picked(row).trim() }] : [],
  );
  const body = { orderId: order.id, lines, shortReason };
  const asked = useDelayed(body, 250);
  const { currentData, error: foreseen } = useForeseePickQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const isShort = rows.some((row) => Number(picked(row)) < Number(row.take));
  const problem = problemOf(refused);
  useScan((code) => {
    const counted = (row: PickRow) => (scanned === null ? '0' : picked(row));
    const { said, ...found } = pickScan(rows, counted, code);
    if (found.row)
      setTyped({
        ...typed,
        [key(found.row)]: decimal(counted(found.row) || 0)
          .plus(found.quantity)
          .toFixed(),
      });
    setScanned(said);
    return true;
  });
  const post = async () => {
    const result = await pick({ body });
    if (!result.error) done();
  };
  if (!data) return <Waiting error={error} />;
  return (
    <div className="split">
      <div className="stack">
        {scanned === null ? null : (
          <p className="notice" role="status">
            {scanned}
          </p>
        )}
        <Refused error={refused} />
        <div className="card">
          <table aria-label="Pick list" className="floor">
            <thead>
              <tr>
                <th>Bin</th>
                <th>Item</th>
                <th className="number">There</th>
                <th className="number">Take</th>
                <th className="number">Picked</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={key(row)}>
                  <td className="code strong">{row.bin}</td>
                  <td>
                    <span className="code">{row.sku}</span>
                    <span className="name">{row.name}</span>
                    {row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}
                    {problem?.errors
                      .filter(({ field }) => field.startsWith(`lines.${lines.findIndex((line) => key(line) === key(row))}.`))
                      .map(({ sentence }) => (
                        <small key={sentence} className="late">
                          {sentence}
                        </small>
                      ))}
                  </td>
                  <td className="number quiet">{quantity(row.inBin)}</td>
                  <td className="number strong">{quantity(row.take)}</td>
                  <td className="number">
                    <input
                      className="plain number"
                      style={{ width: 84 }}
                      inputMode="decimal"
                      aria-label={`Picked of ${row.sku} from ${row.bin}`}
                      value={picked(row)}
                      onChange={(event) => setTyped({ ...typed, [key(row)]: event.target.value })}
                      onFocus={(event) => event.target.select()}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {data.missing.map((line) => (
          <p key={line.lineId} className="late">
            {quantity(line.quantity)} of {line.sku} cannot be picked yet; they stay on the order.
          </p>
        ))}
        {isShort ? <Field label="Why fewer than asked" value={shortReason} onChange={setShortReason} placeholder="such as: two were cracked" /> : null}
      </div>
      <EffectPanel
        title="What picking will change"
        effects={asked.lines.length > 0 ? currentData?.effects : undefined}
        error={asked.lines.length > 0 ? foreseen : undefined}
        idle="Nothing is picked yet."
      />
      <BottomBar
        hint="Scan each piece, or type what you took"
        next={{ label: `Put ${count(lines.length, 'line')} on the bench`, run: () => void post(), disabled: lines.length === 0 || isLoading }}
      >
        <button type="button" className="button" onClick={done}>
          Back to the order
        </button>
      </BottomBar>
    </div>
  );
}
