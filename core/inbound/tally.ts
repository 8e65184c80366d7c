import { decimal, zero } from '../decimal';
import type { Day } from '../day';
import { readNumber } from '../number';
import type { LotEntry } from '../stock/lots';

/** What was counted of one open line so far. Quantities are as typed. */
export interface TallyLine {
  quantity: string;
  binId: number | null;
  lots?: LotEntry[] | undefined;
  /** Of the quantity: more than was ordered, and agreed to. */
  extra?: string | undefined;
  /** Of the quantity: goes into quarantine. */
  damaged?: string | undefined;
  /** What is left of the line will not come any more. */
  noMore?: boolean | undefined;
  /** Goes straight to the bench for the orders that wait for it. */
  toBench?: boolean | undefined;
}

/** What one scan counted on a line. */
export interface ScanPart {
  lineId: number;
  binId: number | null;
  quantity: string;
  lots: LotEntry[];
  /** Of the quantity: more than was ordered, and agreed to. */
  extra?: string | undefined;
}

/** Goods set aside: they came, and nobody has decided on them yet. */
export interface Aside {
  key: string;
  itemId: number;
  sku: string;
  quantity: string;
}

/** What somebody has counted at the receiving desk and not received yet. */
export interface Tally {
  lines: Record<number, TallyLine>;
  /** Scans, the last one first; what is typed stands, and ends what can be taken back. */
  scans: { key: string; said: string; parts: ScanPart[] }[];
  aside: Aside[];
  packingNote: string;
  cameOn: Day | null;
}

/** One thing done at the desk. Its key makes sure that it counts once, however often it is sent. */
export type DeskChange = { key: string } & (
  | { what: 'scan'; said: string; parts: ScanPart[] }
  | { what: 'take-back'; scan: string }
  | { what: 'put'; lines: { lineId: number; put: Partial<TallyLine> }[] }
  | { what: 'set-aside'; itemId: number; sku: string; quantity: string }
  | { what: 'settle-aside'; aside: string }
  | { what: 'head'; packingNote: string; cameOn: Day | null }
  | { what: 'start-over' }
);

export const emptyTally: Tally = { lines: {}, scans: [], aside: [], packingNote: '', cameOn: null };
const keptScans = 200;

/** What was done, in a few words. */
export function changeWords(change: DeskChange): string {
  switch (change.what) {
    case 'scan':
      return change.said;
    case 'take-back':
      return 'A scan taken back';
    case 'put':
      return change.lines.length === 1 ? 'What was typed on a line' : `What was typed on ${change.lines.length} lines`;
    case 'set-aside':
      return `${change.quantity} × ${change.sku} put aside`;
    case 'settle-aside':
      return 'What was done with goods put aside';
    case 'head':
      return 'The packing note, or the day it came';
    case 'start-over':
      return 'Starting over';
  }
}

/** The tally after one thing done. Nothing is refused: taking back what is gone already changes nothing, nor does a scan or goods put aside that it has already. */
export function afterChange(tally: Tally, change: DeskChange): Tally {
  switch (change.what) {
    case 'scan':
      if (tally.scans.some(({ key }) => key === change.key)) return tally;
      return {
        ...tally,
        lines: change.parts.reduce((lines, part) => addPart(lines, part, 1), tally.lines),
        scans: [{ key: change.key, said: change.said, parts: change.parts }, ...tally.scans].slice(0, keptScans),
      };
    case 'take-back': {
      const scan = tally.scans.find(({ key }) => key === change.scan);
      if (!scan) return tally;
      return { ...tally, lines: scan.parts.reduce((lines, part) => addPart(lines, part, -1), tally.lines), scans: tally.scans.filter((one) => one !== scan) };
    }
    case 'put':
      return {
        ...tally,
        lines: change.lines.reduce((lines, { lineId, put }) => ({ ...lines, [lineId]: { ...lineOf(lines, lineId), ...put } }), tally.lines),
        scans: [],
      };
    case 'set-aside':
      if (tally.aside.some(({ key }) => key === change.key)) return tally;
      return { ...tally, aside: [...tally.aside, { key: change.key, itemId: change.itemId, sku: change.sku, quantity: change.quantity }] };
    case 'settle-aside':
      return { ...tally, aside: tally.aside.filter(({ key }) => key !== change.aside) };
    case 'head':
      return { ...tally, packingNote: change.packingNote, cameOn: change.cameOn };
    case 'start-over':
      return { ...emptyTally, aside: tally.aside };
  }
}

/** The tally once some lines were received: what was counted on them is taken off it, and what was set aside stays. */
export const afterReceipt = (tally: Tally, lineIds: readonly number[]): Tally => ({
  ...emptyTally,
  lines: Object.fromEntries(Object.entries(tally.lines).filter(([id]) => !lineIds.includes(Number(id)))),
  aside: tally.aside,
});

const lineOf = (lines: Tally['lines'], lineId: number): TallyLine => lines[lineId] ?? { quantity: '', binId: null };

function addPart(lines: Tally['lines'], part: ScanPart, sign: 1 | -1): Tally['lines'] {
  const was = lineOf(lines, part.lineId);
  const quantity = counted(was).plus(decimal(part.quantity).times(sign));
  const lots = part.lots.reduce((known, lot) => addLot(known, lot, sign), was.lots ?? []);
  const extra = decimal(was.extra ?? 0).plus(decimal(part.extra ?? 0).times(sign));
  const line = {
    ...was,
    binId: was.binId ?? part.binId,
    quantity: quantity.lte(zero) ? '' : quantity.toFixed(),
    ...(lots.length > 0 || was.lots ? { lots } : {}),
    ...(was.extra === undefined && part.extra === undefined ? {} : { extra: extra.lt(zero) ? '0' : extra.toFixed() }),
  };
  return { ...lines, [part.lineId]: line };
}

/** The same lot again adds to its quantity; one of which nothing is left goes. */
function addLot(lots: readonly LotEntry[], lot: LotEntry, sign: 1 | -1): LotEntry[] {
  const known = lots.find(({ code }) => code === lot.code);
  const quantity = decimal(known?.quantity ?? 0).plus(decimal(lot.quantity).times(sign));
  const others = lots.filter((one) => one !== known);
  if (quantity.lte(zero)) return others;
  return known ? lots.map((one) => (one === known ? { ...one, quantity: quantity.toFixed() } : one)) : [...others, { ...lot, quantity: quantity.toFixed() }];
}

/** How many are counted; what is typed and is no number counts for nothing. */
export const counted = (line: TallyLine | undefined) => readNumber(line?.quantity ?? '', 'quantity') ?? zero;
