import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { parseLineEntry } from '@larder/core/catalog/lineEntry';
import type { DeskLine, ReceiptForm } from '@larder/contract/inbound';
import { problemOf } from '../../app/api';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { Field } from '../../kit/Field';
import { count, due, quantity } from '../../kit/format';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { TeachCode } from '../../kit/TeachCode';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../people/api';
import { useBinsQuery } from '../setup/api';
import { LotFields } from '../stock/LotFields';
import { useDeskQuery, useForeseeReceiptQuery, useReceiveMutation } from './api';
import { scan, takeExtra, type Counted } from './deskSheet';

/** What the desk says of the last thing done. */
interface Said {
  kind: 'done' | 'refused' | 'ask';
  text: string;
  extra?: { itemId: number; quantity: string };
  unknown?: string;
  /** It was a scan, which can be taken back. */
  scanned?: boolean;
  /** Items that came in just now. */
  came?: number[];
}

/** The receiving desk over all open orders: scan or type what is there; each goes to the earliest due line that wants it. */
export function DeskPage() {
  useTitle('Receiving desk');
  const { siteId } = useSite();
  const [search, setSearch] = useSearchParams();
  const chosen = search.getAll('order').map(Number);
  const { data, error } = useDeskQuery({ query: { siteId } });
  const { data: me } = useMeQuery({});
  const [counted, setCounted] = useState<Counted>({});
  const [packingNote, setPackingNote] = useState('');
  const [said, setSaid] = useState<Said | null>(null);
  /** What was counted before each scan, the last one first: a scan too many is taken back. */
  const [before, setBefore] = useState<Counted[]>([]);
  const [teaching, setTeaching] = useState('');
  const [extra, setExtra] = useState(false);
  const [receive, { isLoading, error: refused }] = useReceiveMutation();

  const lines = data?.rows ?? [];
  const body = receiptOf(lines, counted, packingNote, extra);
  const asked = useDelayed(body, 250);
  const { currentData, error: foreseen } = useForeseeReceiptQuery({ body: asked }, { skip: asked.lines.length === 0 });

  /** What is typed stands; only scans after it are taken back. */
  const typed = (next: Counted) => {
    setCounted(next);
    setBefore([]);
  };
  const take = (code: string): boolean => {
    if (!data) return false;
    const whole = scan(lines, counted, chosen, code);
    const entry = parseLineEntry(code);
    const result = whole.outcome === 'unknown' && entry && entry.words !== code ? scan(lines, counted, chosen, entry.words, entry.quantity) : whole;
    if (result.outcome === 'counted') {
      setBefore([counted, ...before].slice(0, 500));
      setCounted(result.counted);
      setSaid({ kind: 'done', text: result.said, scanned: true });
    } else if (result.outcome === 'over') setSaid({ kind: 'ask', text: result.said, extra: result });
    else setSaid({ kind: 'refused', text: result.said, ...(result.outcome === 'unknown' ? { unknown: code } : {}) });
    return true;
  };
  useScan(take);
  const post = async () => {
    const result = await receive({ body });
    if (result.error) return;
    const items = body.lines.map(({ lineId }) => lines.find((line) => line.lineId === lineId)?.itemId ?? 0);
    setSaid({ kind: 'done', text: `Received ${count(body.lines.length, 'line')}.`, came: [...new Set(items)] });
    setCounted({});
    setBefore([]);
    setExtra(false);
    setPackingNote('');
  };
  const hold = (orderId: number) =>
    setSearch(
      (now) => {
        const next = chosen.includes(orderId) ? chosen.filter((id) => id !== orderId) : [...chosen, orderId];
        now.delete('order');
        next.forEach((id) => now.append('order', String(id)));
        return now;
      },
      { replace: true },
    );
  if (!data || !me) return <Waiting error={error} />;
  const orders = [...new Set(lines.map(({ orderId }) => orderId))];
  const shown = orders.filter((orderId) => chosen.length === 0 || chosen.includes(orderId));
  const problem = problemOf(refused);
  const over = problem?.asks.includes('over-receipt') || problemOf(foreseen)?.asks.includes('over-receipt');
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Receiving desk</h1>
          <span className="quiet">
            {chosen.length > 0 ? `held to ${count(chosen.length, 'order')}` : `${count(orders.length, 'open order')}: scan, or type quantities`}
          </span>
          {chosen.length > 0 ? (
            <button type="button" className="button small" onClick={() => setSearch({})}>
              Show all orders
            </button>
          ) : null}
        </div>
        {said ? (
          <div
            className={`notice ${said.kind === 'done' ? 'done' : said.kind === 'refused' ? 'refused' : ''}`}
            role={said.kind === 'done' ? 'status' : 'alert'}
          >
            {said.text}
            {said.scanned && before[0] ? (
              <button
                type="button"
                className="button small"
                onClick={() => {
                  setCounted(before[0] ?? {});
                  setBefore(before.slice(1));
                  setSaid({ kind: 'done', text: 'The last scan is taken back.', scanned: true });
                }}
              >
                Take the scan back
              </button>
            ) : null}
            {said.came ? (
              <Link className="button small" to={`/labels?items=${said.came.join(',')}`}>
                Labels for what came in
              </Link>
            ) : null}
            {said.kind === 'refused' ? (
              <Link className="button small" to="/inbound/loose">
                Receive it without an order
              </Link>
            ) : null}
            {said.unknown ? (
              <button type="button" className="button small" onClick={() => setTeaching(said.unknown ?? '')}>
                Teach it to an item
              </button>
            ) : null}
            {said.extra ? (
              <button
                type="button"
                className="button small"
                onClick={() => {
                  typed(takeExtra(lines, counted, chosen, said.extra?.itemId ?? 0, said.extra?.quantity ?? '0'));
                  setExtra(true);
                  setSaid({ kind: 'done', text: 'Taken as extra.' });
                }}
              >
                Take {said.extra.quantity === '1' ? 'it' : `all ${said.extra.quantity}`} as extra
              </button>
            ) : null}
          </div>
        ) : null}
        {teaching ? <TeachCode code={teaching} close={() => setTeaching('')} /> : null}
        {over && !extra ? (
          <div className="notice" role="alert">
            {problem?.title ?? problemOf(foreseen)?.title}
            <button type="button" className="button small" onClick={() => setExtra(true)}>
              Take them all
            </button>
          </div>
        ) : (
          <Refused error={refused} />
        )}
        {shown.map((orderId) => (
          <Delivery
            key={orderId}
            lines={lines.filter((line) => line.orderId === orderId)}
            today={me.company.today}
            counted={counted}
            change={typed}
            held={chosen.includes(orderId)}
            hold={() => hold(orderId)}
          />
        ))}
        {orders.length === 0 ? (
          <p className="card state">Nothing is on order here. Place a purchase order under Inbound and it will wait on this desk.</p>
        ) : null}
      </div>
      <div className="stack">
        <section className="card pad">
          <Field label="Packing note" value={packingNote} onChange={setPackingNote} placeholder="its number, if there is one" />
        </section>
        <EffectPanel
          title="What receiving will change"
          effects={asked.lines.length > 0 ? currentData?.effects : undefined}
          error={asked.lines.length > 0 && !over ? foreseen : undefined}
          idle="Nothing is counted yet. Scan a code, or type a quantity beside a line."
        />
      </div>
      <BottomBar
        hint="Each scan counts one; 12 and a code counts twelve"
        next={{ label: `Receive ${count(body.lines.length, 'line')}`, run: () => void post(), disabled: body.lines.length === 0 || isLoading }}
      >
        <button type="button" className="button" disabled={body.lines.length === 0} onClick={() => typed({})}>
          Start over
        </button>
      </BottomBar>
    </div>
  );
}

const receiptOf = (lines: readonly DeskLine[], counted: Counted, packingNote: string, overReceipt: boolean): ReceiptForm => ({
  packingNote,
  overReceipt,
  lines: lines.flatMap((line) => {
    const at = counted[line.lineId];
    return at && at.quantity.trim() !== '' && Number(at.quantity) !== 0
      ? [
          {
            lineId: line.lineId,
            quantity: at.quantity.trim(),
            binId: at.binId ?? line.binId ?? 0,
            lots: (at.lots ?? []).filter(({ code }) => code.trim() !== ''),
          },
        ]
      : [];
  }),
});

interface DeliveryProps {
  lines: readonly DeskLine[];
  today: string;
  counted: Counted;
  change: (counted: Counted) => void;
  held: boolean;
  hold: () => void;
}

function Delivery({ lines, today, counted, change, held, hold }: DeliveryProps) {
  const first = lines[0] as DeskLine;
  const { data: bins } = useBinsQuery({ query: { siteId: first.siteId } });
  const put = (line: DeskLine, part: Partial<Counted[number]>) =>
    change({
      ...counted,
      [line.lineId]: { ...counted[line.lineId], quantity: counted[line.lineId]?.quantity ?? '', binId: counted[line.lineId]?.binId ?? line.binId, ...part },
    });
  const takeAll = () =>
    change({
      ...counted,
      ...Object.fromEntries(lines.map((line) => [line.lineId, { quantity: line.outstanding, binId: counted[line.lineId]?.binId ?? line.binId }])),
    });
  const late = first.expectedOn !== null && first.expectedOn < today;
  return (
    <section className="card" aria-label={`${first.orderNumber} ${first.supplier}`}>
      <h2 style={{ display: 'flex', alignItems: 'center', gap: 10 }}>
        <label style={{ display: 'flex', gap: 6, alignItems: 'center' }}>
          <input type="checkbox" checked={held} onChange={hold} aria-label={`Hold to ${first.orderNumber}`} />
          {first.orderNumber} {first.supplier}
        </label>
        <span style={{ margin: 0 }}>
          to {first.site},{' '}
          <span className={late ? 'late' : ''}>
            {late ? '' : 'due '}
            {due(first.expectedOn, today)}
          </span>
        </span>
        <button type="button" className="button small" style={{ marginLeft: 'auto' }} onClick={takeAll} aria-label={`Take all of ${first.orderNumber}`}>
          Take all
        </button>
      </h2>
      <table className="floor">
        <tbody>
          {lines.flatMap((line) => [
            <tr key={line.lineId} aria-selected={Number(counted[line.lineId]?.quantity ?? 0) > 0}>
              <td>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
                {Number(line.short) > 0 ? <small className="low">{quantity(line.short)} wanted by orders that wait</small> : null}
              </td>
              <td className="number">
                <span className="quiet">of {quantity(line.outstanding)}</span>{' '}
                <input
                  className="plain number"
                  style={{ width: 84, height: 32 }}
                  inputMode="decimal"
                  aria-label={`Quantity of ${line.sku} on ${line.orderNumber}`}
                  value={counted[line.lineId]?.quantity ?? ''}
                  onChange={(event) => put(line, { quantity: event.target.value })}
                />
              </td>
              <td className="under" style={{ width: 150 }}>
                <select
                  className="plain"
                  style={{ width: '100%', height: 32 }}
                  aria-label={`Bin for ${line.sku} on ${line.orderNumber}`}
                  value={counted[line.lineId]?.binId ?? line.binId ?? ''}
                  onChange={(event) => put(line, { binId: Number(event.target.value) })}
                >
                  {(bins?.rows ?? []).map((bin) => (
                    <option key={bin.id} value={bin.id}>
                      {bin.code}
                    </option>
                  ))}
                </select>
              </td>
            </tr>,
            line.tracking !== 'none' && Number(counted[line.lineId]?.quantity ?? 0) > 0 ? (
              <tr key={`${line.lineId} lots`}>
                <td colSpan={3} className="under">
                  <LotFields
                    item={line}
                    wanted={counted[line.lineId]?.quantity ?? ''}
                    lots={counted[line.lineId]?.lots ?? []}
                    change={(lots) => put(line, { lots })}
                  />
                </td>
              </tr>
            ) : null,
          ])}
        </tbody>
      </table>
    </section>
  );
}
