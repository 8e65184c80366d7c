import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { counted } from '@larder/core/inbound/tally';
import { parseLineEntry } from '@larder/core/catalog/lineEntry';
import { extraParts, receiptLines, scan, waitingWords } from '@larder/core/inbound/desk';
import { beyond } from '@larder/core/inbound/extra';
import { decimal } from '@larder/core/decimal';
import type { DeskLine, ReceiptForm } from '@larder/contract/receiving';
import { problemOf } from '../../kit/problem';
import { useSite } from '../../shared/site';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { TeachCode } from '../../shared/TeachCode';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useBinsQuery } from '../../shared/reference';
import { useDeskQuery, useForeseeReceiptQuery, useReceiveMutation } from './api';
import { Delivery } from './Delivery';
import { DeskLog } from './DeskLog';
import { DeskSaid, type Said } from './DeskSaid';
import { OtherDeliveries } from './OtherDeliveries';
import { useTally } from './useTally';

/** Order lines that goods are received on; what is damaged of one is no line more. */
const linesOf = (body: ReceiptForm): number => new Set(body.lines.map(({ lineId }) => lineId)).size;

/** Deliveries drawn at once, beside those that something is counted on. */
const mostDrawn = 40;

/** The receiving desk over all open orders: scan or type what is there; each goes to the earliest due line that wants it. */
export function DeskPage() {
  useTitle('Receiving desk');
  const { siteId } = useSite();
  const [search, setSearch] = useSearchParams();
  const chosen = search.getAll('order').map(Number);
  const { data, error, refetch } = useDeskQuery({ query: { siteId } }, { pollingInterval: 30_000, skipPollingIfUnfocused: true });
  const { data: me } = useMeQuery({});
  const { data: bins } = useBinsQuery({ query: {} });
  const { tally, now, unsent, change, settle } = useTally(me?.id, data, refetch);
  const [said, setSaid] = useState<Said | null>(null);
  const [teaching, setTeaching] = useState('');
  /** What the person has said is right though it was asked about. */
  const [agreed, setAgreed] = useState<string[]>([]);
  const [receive, { isLoading, error: refused, reset }] = useReceiveMutation();

  const lines = useMemo(() => data?.rows ?? [], [data]);
  /** The lines of each open order, in the order they are due. */
  const orders = useMemo(() => {
    const found = new Map<number, DeskLine[]>();
    for (const line of lines) {
      const of = found.get(line.orderId);
      if (of) of.push(line);
      else found.set(line.orderId, [line]);
    }
    return found;
  }, [lines]);
  const quarantine = (at: number) => bins?.rows.find((bin) => bin.siteId === at && !bin.sellable)?.id;
  // Held to some orders, nothing else is touched: what was counted on others waits.
  const heldTo = chosen.length === 0 ? lines : lines.filter(({ orderId }) => chosen.includes(orderId));
  const body: ReceiptForm = {
    packingNote: tally.packingNote,
    effectiveOn: tally.cameOn ?? undefined,
    pastUseBy: agreed.includes('past-use-by'),
    countedSince: agreed.includes('counted-since'),
    fromDesk: true,
    lines: receiptLines(heldTo, tally, quarantine),
  };
  const asked = useDelayed(body, 250);
  const { currentData, error: foreseen } = useForeseeReceiptQuery({ body: asked }, { skip: asked.lines.length === 0 });

  const take = (code: string): boolean => {
    if (!data) return false;
    const sofar = now();
    const whole = scan(lines, sofar, chosen, code);
    const entry = parseLineEntry(code);
    const result = whole.outcome === 'unknown' && entry && entry.words !== code ? scan(lines, sofar, chosen, entry.words, entry.quantity) : whole;
    if (result.outcome === 'counted') {
      change({ what: 'scan', said: result.said, parts: result.parts });
      const line = lines.find(({ itemId }) => itemId === result.itemId);
      setSaid({ kind: 'done', text: result.said, ...(line && line.waiting.length > 0 ? { waits: waitingWords(line) } : {}) });
    } else if (result.outcome === 'over') setSaid({ kind: 'ask', text: result.said, extra: result });
    else setSaid({ kind: 'refused', text: result.said, ...(result.outcome === 'unknown' ? { unknown: code } : {}) });
    return true;
  };
  useScan(take);
  const takeExtra = ({ itemId, sku, quantity: many }: NonNullable<Said['extra']>) => {
    change({ what: 'scan', said: `${many} × ${sku}, more than ordered`, parts: extraParts(lines, chosen, itemId, many) });
    setSaid({ kind: 'done', text: 'Taken as extra.' });
  };
  /** More than ordered is agreed to for the line that was asked about, and for as many as it was asked for. */
  const agreeToExtra = () => {
    const found = beyond(body.lines, (lineId) => decimal(lines.find((line) => line.lineId === lineId)?.outstanding ?? 0));
    const lineId = found ? body.lines[found.index]?.lineId : undefined;
    if (found && lineId !== undefined) change({ what: 'put', lines: [{ lineId, put: { extra: found.over.toFixed() } }] });
    reset();
  };
  const post = async () => {
    if (!(await settle())) {
      setSaid({ kind: 'refused', text: 'The connection is lost. What you counted is kept on this machine; receive it when the connection is back.' });
      return;
    }
    const result = await receive({ body });
    if (result.error) return;
    const items = body.lines.map(({ lineId }) => lines.find((line) => line.lineId === lineId)?.itemId ?? 0);
    setSaid({ kind: 'done', text: `Received ${count(linesOf(body), 'line')}.`, came: [...new Set(items)] });
    setAgreed([]);
  };
  const hold = useCallback(
    (orderId: number) =>
      setSearch(
        (now) => {
          const held = now.getAll('order').map(Number);
          const next = held.includes(orderId) ? held.filter((id) => id !== orderId) : [...held, orderId];
          now.delete('order');
          next.forEach((id) => now.append('order', String(id)));
          return now;
        },
        { replace: true },
      ),
    [setSearch],
  );
  const begunIds = lines.filter(({ lineId }) => tally.lines[lineId] && counted(tally.lines[lineId]).gt(0)).map(({ orderId }) => orderId);
  const begun = new Set(begunIds);
  const wanted = [...orders.keys()].filter((orderId) => chosen.length === 0 || chosen.includes(orderId));
  const shown = wanted.filter((orderId, index) => index < mostDrawn || begun.has(orderId));
  const shownKey = shown.join();
  const waitingKey = [...begun].filter((id) => !shown.includes(id)).join();
  const others = useMemo(() => {
    const [drawn, begunThere] = [shownKey, waitingKey].map((key) => new Set(key.split(',').map(Number))) as [Set<number>, Set<number>];
    return [...orders].flatMap(([id, [line]]) => (line === undefined || drawn.has(id) ? [] : [{ line, begun: begunThere.has(id) }]));
  }, [orders, shownKey, waitingKey]);
  if (!data || !me) return <Waiting error={error} />;
  const asking = [problemOf(refused), problemOf(foreseen)].find((problem) => problem?.asks.some((ask) => !agreed.includes(ask)));
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Receiving desk</h1>
          <span className="quiet">
            {chosen.length > 0 ? `held to ${count(chosen.length, 'order')}` : `${count(orders.size, 'open order')}: scan, or type quantities`}
          </span>
          {chosen.length > 0 ? (
            <button type="button" className="button small" onClick={() => setSearch({})}>
              Show all orders
            </button>
          ) : null}
        </div>
        {said ? (
          <DeskSaid
            said={said}
            takeExtra={takeExtra}
            setAside={({ itemId, sku, quantity: many }) => {
              change({ what: 'set-aside', itemId, sku, quantity: many });
              setSaid({ kind: 'done', text: `${many} × ${sku} put aside.` });
            }}
            teach={setTeaching}
          />
        ) : null}
        {teaching ? <TeachCode code={teaching} close={() => setTeaching('')} /> : null}
        {asking ? (
          <Asking
            question={asking.title}
            answers={[
              asking.asks.includes('over-receipt')
                ? { label: 'Take them all', run: agreeToExtra }
                : { label: 'Take it all the same', run: () => setAgreed([...agreed, ...asking.asks]) },
            ]}
          />
        ) : (
          <Refused error={refused} />
        )}
        {shown.map((orderId) => (
          <Delivery
            key={orderId}
            lines={orders.get(orderId) ?? []}
            today={me.company.today}
            tally={tally}
            put={(puts) => change({ what: 'put', lines: puts })}
            held={chosen.includes(orderId)}
            hold={() => hold(orderId)}
          />
        ))}
        <OtherDeliveries orders={others} today={me.company.today} held={chosen.length > 0} hold={hold} />
        {orders.size === 0 ? <p className="card state">Nothing is on order here. Place a purchase order under Inbound and it will wait on this desk.</p> : null}
      </div>
      <div className="stack">
        <section className="card pad fields">
          <Field
            label="Packing note"
            value={tally.packingNote}
            onChange={(packingNote) => change({ what: 'head', packingNote: packingNote.slice(0, 100), cameOn: tally.cameOn })}
            placeholder="its number, if there is one"
          />
          <DayField
            label="Came on"
            lies="behind"
            value={tally.cameOn ?? me.company.today}
            today={me.company.today}
            onChange={(cameOn) => change({ what: 'head', packingNote: tally.packingNote, cameOn })}
            error={problemOf(foreseen)?.errors.find(({ field }) => field === 'effectiveOn')?.sentence}
          />
        </section>
        <DeskLog
          tally={tally}
          takeBack={(key) => {
            change({ what: 'take-back', scan: key });
            setSaid({ kind: 'done', text: 'The last scan is taken back.' });
          }}
          canTake={({ itemId, quantity }) => extraParts(lines, chosen, itemId, quantity).length > 0}
          take={(aside) => {
            takeExtra(aside);
            change({ what: 'settle-aside', aside: aside.key });
          }}
          wentBack={({ key }) => change({ what: 'settle-aside', aside: key })}
        />
        <EffectPanel
          title="What receiving will change"
          effects={asked.lines.length > 0 ? currentData?.effects : undefined}
          error={asked.lines.length > 0 && !asking ? foreseen : undefined}
          idle="Nothing is counted yet. Scan a code, or type a quantity beside a line."
        />
      </div>
      <BottomBar
        hint={unsent > 0 ? `${count(unsent, 'change')} not sent yet; kept on this machine` : 'Each scan counts one; 12 and a code counts twelve'}
        next={{ label: `Receive ${count(linesOf(body), 'line')}`, run: () => void post(), disabled: body.lines.length === 0 || isLoading }}
      >
        <button
          type="button"
          className="button"
          disabled={body.lines.length === 0}
          onClick={() => {
            change({ what: 'start-over' });
            setAgreed([]);
          }}
        >
          Start over
        </button>
      </BottomBar>
    </div>
  );
}
