import { decimal, sum, zero, type Decimal } from '../decimal';
import { isOwned, type PlaceKind } from '../ledger/types';

export interface TraceEnd {
  placeId: number;
  kind: PlaceKind;
}

/** A movement line of one lot or serial, in the order it happened; `document` tells apart what one party got on several orders. */
export interface TraceLine {
  quantity: string;
  from: TraceEnd;
  to: TraceEnd;
  document: string;
}

/** What one place outside gave or got on one document. Base units. */
export interface TraceRow {
  placeId: number;
  document: string;
  quantity: Decimal;
  /** Of that, what went the other way again. */
  back: Decimal;
}

export interface Trace {
  came: TraceRow[];
  went: TraceRow[];
  /** What holders got on loan, and what of that ended. It is ours, and part of what is here. */
  held: TraceRow[];
  /** What of it is still ours. */
  here: Decimal;
}

/** What comes from there and what goes there are alike: by which there is more of it is told which it is. */
const eitherWay: ReadonlySet<PlaceKind> = new Set(['found-or-lost', 'made']);
const sources: ReadonlySet<PlaceKind> = new Set(['supplier', 'opening', 'relabel', 'nowhere', 'before-records']);

/**
 * Where a lot came from and where it went, whole: what came less what went back and out is what is here.
 * Goods found count as come, goods lost as gone, by which there is more of; so do goods that were made, and those that went into what was made.
 */
export function traceOf(lines: readonly TraceLine[]): Trace {
  const outside = new Map<string, { end: TraceEnd; document: string; into: Decimal; out: Decimal }>();
  const count = (end: TraceEnd, document: string, way: 'into' | 'out', quantity: Decimal) => {
    const key = `${end.placeId} ${document}`;
    const at = outside.get(key) ?? { end, document, into: zero, out: zero };
    outside.set(key, { ...at, [way]: at[way].plus(quantity) });
  };
  for (const { quantity, from, to, document } of lines) {
    if (!isOwned(from.kind)) count(from, document, 'into', decimal(quantity));
    if (!isOwned(to.kind)) count(to, document, 'out', decimal(quantity));
    if (from.kind === 'holder') count(from, document, 'into', decimal(quantity));
    if (to.kind === 'holder') count(to, document, 'out', decimal(quantity));
  }
  const [lent, all] = [[...outside.values()].filter(({ end }) => end.kind === 'holder'), [...outside.values()].filter(({ end }) => end.kind !== 'holder')];
  const isSource = ({ end, into, out }: (typeof all)[number]) => (eitherWay.has(end.kind) ? into.gte(out) : sources.has(end.kind));
  const came = all.filter(isSource).map(({ end, document, into, out }) => ({ placeId: end.placeId, document, quantity: into, back: out }));
  const went = all.filter((one) => !isSource(one)).map(({ end, document, into, out }) => ({ placeId: end.placeId, document, quantity: out, back: into }));
  const held = lent.map(({ end, document, into, out }) => ({ placeId: end.placeId, document, quantity: out, back: into }));
  const net = (rows: readonly TraceRow[]) => sum(rows.map(({ quantity, back }) => quantity.minus(back)));
  const rest = (rows: readonly TraceRow[]) => rows.filter(({ quantity, back }) => !(quantity.isZero() && back.isZero()));
  return { came: rest(came), went: rest(went), held, here: net(came).minus(net(went)) };
}
