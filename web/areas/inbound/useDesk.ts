import { useSay } from '../../shared/say';
import { useEffect, useMemo, useState } from 'react';
import { parseLineEntry } from '@larder/core/catalog/lineEntry';
import { decimal } from '@larder/core/decimal';
import { extraParts, prepareScans, receiptLines, scan, waitingWords } from '@larder/core/inbound/desk';
import { beyond } from '@larder/core/inbound/extra';
import { counted, type Tally } from '@larder/core/inbound/tally';
import type { DeskLine, ReceiptForm } from '@larder/contract/receiving';
import { isFloorDevice } from '../../kit/floor';
import { count } from '../../kit/format';
import { problemOf } from '../../kit/problem';
import { useScan, type Heard } from '../../kit/scan';
import { useMeQuery } from '../../shared/me';
import { useBinsQuery } from '../../shared/reference';
import { connection } from '../../shared/floor/connection';
import { doneOrKept, type KeptAs } from '../../shared/floor/kept';
import { waiting as kept } from '../../shared/floor/waiting';
import { useSite } from '../../shared/site';
import { useDelayed, useIsRested } from '../../kit/delayed';
import { useDeskQuery, useDeskQuerySubscription, useForeseeReceiptQuery, useReceiveMutation } from './api';
import type { Said } from './DeskSaid';
import { useTally } from './useTally';

/** Order lines that goods are received on; what is damaged of one is no line more. */
const linesOf = (body: ReceiptForm): number => new Set(body.lines.map(({ lineId }) => lineId)).size;

/** What goes on at the receiving desk, held to the `chosen` orders if there are any: counting, being asked, receiving. */
export function useDesk(chosen: readonly string[]) {
  const { siteId } = useSite();
  const { data, error, refetch } = useDeskQuery({ query: { siteId } });
  const { data: me } = useMeQuery({});
  const { data: bins } = useBinsQuery({ query: {} });
  const counting = useTally(me?.id, data, refetch);
  const { tally, now, change, handIn } = counting;
  // What others count is asked for again and again, but not in the middle of scanning: there may be thousands of lines to read.
  const isResting = useIsRested({ last: tally.scans[0]?.key }, 3000);
  useDeskQuerySubscription({ query: { siteId } }, { pollingInterval: isResting ? 30_000 : 0, skipPollingIfUnfocused: true });
  const say = useSay();
  const [said, setSaid] = useState<Said | null>(null);
  /** What the person has said is right though it was asked about. */
  const [agreed, setAgreed] = useState<string[]>([]);
  const [receive, { isLoading, error: refused, reset }] = useReceiveMutation();

  const lines = useMemo(() => data?.rows ?? [], [data]);
  const orders = useMemo(() => byOrder(lines), [lines]);
  useEffect(() => prepareScans(lines), [lines]);
  const quarantine = (at: number) => bins?.rows.find((bin) => bin.siteId === at && !bin.sellable)?.id;
  // Held to some orders, nothing else is touched: what was counted on others waits.
  const tallied = useTallied(lines, tally);
  const heldTo = chosen.length === 0 ? tallied : tallied.filter(({ delivery }) => chosen.includes(delivery));
  const body: ReceiptForm = {
    packingNote: tally.packingNote,
    effectiveOn: tally.cameOn ?? undefined,
    pastUseBy: agreed.includes('past-use-by'),
    countedSince: agreed.includes('counted-since'),
    fromDesk: true,
    lines: receiptLines(heldTo, tally, quarantine),
  };
  const asked = useDelayed(body, 250);
  const foreseeing = asked.lines.length > 0;
  const { currentData, error: foreseen } = useForeseeReceiptQuery({ body: asked }, { skip: !foreseeing });

  const take = (code: string): Heard => {
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
    // Without a connection nobody can say what it is: it stands with what is to be looked at later.
    if (result.outcome === 'unknown' && me && connection.lostSince() !== null)
      void kept.note(me.id, code, '/inbound/desk', 'Not known here: say what it is now that there is a connection, or put it aside.');
    return result.outcome === 'counted' ? true : 'refused';
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
    if (!(await handIn()) && !isFloorDevice()) {
      setSaid({ kind: 'refused', text: 'The connection is lost. What you counted is kept on this machine; receive it when the connection is back.' });
      return;
    }
    const result = await receive({ body, kept: keptAs(body, lines) });
    if (result.error) return;
    const items = body.lines.map(({ lineId }) => lines.find((line) => line.lineId === lineId)?.itemId ?? 0);
    const received = count(linesOf(body), 'line');
    setSaid(null);
    say({
      made: { to: `/labels?items=${[...new Set(items)].join(',')}`, name: 'Labels for what came in' },
      ...doneOrKept(result.data, `Received ${received}.`, `the receipt of ${received}`),
    });
    setAgreed([]);
  };
  const begun = new Set(tallied.filter(({ lineId }) => counted(tally.lines[lineId]).gt(0)).map(({ delivery }) => delivery));
  return {
    isReady: data !== undefined,
    error,
    today: me?.company.today,
    ...counting,
    orders,
    /** Orders on which something is counted. */
    begun,
    said,
    setSaid,
    takeExtra,
    canTakeExtra: (itemId: number, many: string) => extraParts(lines, chosen, itemId, many).length > 0,
    /** What the server asks before it goes on. */
    asking: [problemOf(refused), problemOf(foreseen)].find((problem) => problem?.asks.some((ask) => !agreed.includes(ask))),
    agree: (asks: readonly string[]) => setAgreed([...agreed, ...asks]),
    agreeToExtra,
    refused,
    effects: foreseeing ? currentData?.effects : undefined,
    unforeseen: foreseeing ? foreseen : undefined,
    received: linesOf(body),
    isPosting: isLoading,
    post,
    startOver: () => {
      change({ what: 'start-over' });
      setAgreed([]);
    },
  };
}
export type Desk = ReturnType<typeof useDesk>;

/** How a receipt is told while it waits. Lots that are new have no number yet: where those lie is known once it is posted. */
function keptAs(body: ReceiptForm, lines: readonly DeskLine[]): KeptAs {
  const of = (lineId: number) => lines.find((line) => line.lineId === lineId);
  const numbers = [...new Set(body.lines.flatMap(({ lineId }) => of(lineId)?.orderNumber ?? []))];
  return {
    words: `Receive ${count(linesOf(body), 'line')} of ${numbers.join(', ')}`,
    to: '/inbound/desk',
    moves: body.lines.flatMap(({ lineId, quantity, binId, toBench }) => {
      const line = of(lineId);
      return line?.tracking !== 'none' || binId === null || toBench ? [] : [{ itemId: line.itemId, lotId: null, quantity, fromBinId: null, toBinId: binId }];
    }),
  };
}

/** The lines that anything was counted on, in the order of all of them, of which there may be thousands. */
function useTallied(lines: readonly DeskLine[], tally: Tally): DeskLine[] {
  const places = useMemo(() => new Map(lines.map(({ lineId }, index) => [lineId, index])), [lines]);
  return Object.keys(tally.lines)
    .flatMap((lineId) => places.get(Number(lineId)) ?? [])
    .sort((a, b) => a - b)
    .map((index) => lines[index] as DeskLine);
}

/** The lines of each open order, in the order they are due. */
function byOrder(lines: readonly DeskLine[]): Map<string, DeskLine[]> {
  const found = new Map<string, DeskLine[]>();
  for (const line of lines) {
    const of = found.get(line.delivery);
    if (of) of.push(line);
    else found.set(line.delivery, [line]);
  }
  return found;
}
