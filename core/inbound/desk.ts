import type { Gs1 } from '../codes/gs1';
import { comparedBy, readScan, scannedQuantity } from '../codes/meaning';
import { decimal, greatest, least, sum, zero, type Decimal } from '../decimal';
import { matchReceipt, itemMeant, type OpenLine } from './match';
import { counted, type ScanPart, type Tally } from './tally';
import type { LotEntry, Tracking } from '../stock/lots';

/** An open order line as the desk knows it. Quantities in base units. */
export interface DeskLine {
  lineId: number;
  /** Which document brings it: a purchase order by its id, a transfer by `t` and its. */
  delivery: string;
  siteId: number;
  itemId: number;
  sku: string;
  name: string;
  expectedOn: string | null;
  position: number;
  orderNumber: string;
  outstanding: string;
  tracking: Tracking;
  stocked: boolean;
  /** The bin it goes to unless somebody says another. */
  binId: number | null;
  codes: readonly { code: string; factor: string }[];
  waiting: readonly { number: string; customer: string; short: string }[];
  others: readonly { quantity: string }[];
}

/** A line of a receipt as it is sent. */
export interface ReceiptLine {
  lineId: number;
  quantity: string;
  extra: string;
  binId: number | null;
  lots: LotEntry[];
  noMore: boolean;
  toBench: boolean;
}

export type ScanResult =
  | { outcome: 'counted'; itemId: number; parts: ScanPart[]; said: string }
  | { outcome: 'over'; itemId: number; sku: string; quantity: string; said: string }
  | { outcome: 'unknown' | 'several'; said: string };

const openLine = (line: DeskLine): OpenLine => ({ ...line, outstanding: decimal(line.outstanding) });

/** What lines still want beyond what this person and others have counted already, so that nobody takes the same goods twice. */
const stillOpen = (lines: readonly DeskLine[], tally: Tally): OpenLine[] =>
  lines.map((line) => {
    const others = sum(line.others.map(({ quantity }) => counted({ quantity, binId: null })));
    const left = decimal(line.outstanding).minus(counted(tally.lines[line.lineId])).minus(others);
    return { ...openLine(line), outstanding: greatest(zero, left) };
  });

/** Gets ready for scans among these lines, so that the first one is as fast as the others. */
export const prepareScans = (lines: readonly DeskLine[]): void => void byCode(lines);

/** Lines by the codes of their items, kept for as long as the same lines are asked about: there may be ten thousand. */
const known = new WeakMap<readonly DeskLine[], Map<string, DeskLine[]>>();
function byCode(lines: readonly DeskLine[]): Map<string, DeskLine[]> {
  const before = known.get(lines);
  if (before) return before;
  const found = new Map<string, DeskLine[]>();
  for (const line of lines)
    for (const code of new Set(line.codes.map((one) => comparedBy(one.code)))) {
      const fits = found.get(code);
      if (fits) fits.push(line);
      else found.set(code, [line]);
    }
  known.set(lines, found);
  return found;
}

/**
 * Counts what a code means on the earliest due open lines that still want it, within the chosen orders: one, or the case it is on, or as many
 * as a GS1 code says; times `many`. A GS1 code's lot, use-by or serial goes with it.
 */
export function scan(lines: readonly DeskLine[], tally: Tally, chosen: readonly string[], scanned: string, many = '1'): ScanResult {
  const read = readScan(scanned);
  const { gs1 } = read;
  const fits = byCode(lines).get(read.wanted) ?? [];
  const items = [...new Set(fits.map(({ itemId }) => itemId))];
  if (items.length === 0) return { outcome: 'unknown', said: `${scanned} is on no open order.` };
  const itemId = itemMeant(items, fits.map(openLine), chosen);
  const line = fits.find((one) => one.itemId === itemId);
  if (itemId === null || !line)
    return { outcome: 'several', said: `${scanned} fits several items: ${[...new Set(fits.map(({ sku }) => sku))].join(', ')}. Scan the item's own code.` };
  const mine = lines.filter((one) => one.itemId === itemId);
  const quantity = decimal(many).times(scannedQuantity(line.codes, read) ?? 1);
  const { taken, over } = matchReceipt(stillOpen(mine, tally), itemId, quantity, chosen);
  if (over.gt(zero)) {
    const inChosen = chosen.length === 0 || mine.some(({ delivery }) => chosen.includes(delivery));
    return {
      outcome: 'over',
      itemId,
      sku: line.sku,
      quantity: quantity.toFixed(),
      said: inChosen ? `No open line wants ${quantity.eq(1) ? 'more' : `${quantity.toFixed()} more`} ${line.sku}.` : `${line.sku} is not on the chosen orders.`,
    };
  }
  const parts = taken.map(({ lineId, quantity: takes }): ScanPart => {
    const at = mine.find((one) => one.lineId === lineId) as DeskLine;
    return { lineId, binId: at.binId, quantity: takes.toFixed(), lots: gs1 && at.tracking !== 'none' ? lotOf(gs1, takes.toFixed()) : [] };
  });
  return { outcome: 'counted', itemId, parts, said: `${quantity.toFixed()} × ${line.sku} ${line.name}` };
}

/** The lot or serial a GS1 code names. */
function lotOf(gs1: Gs1, quantity: string): LotEntry[] {
  const code = gs1.serial ?? gs1.lot;
  return code === undefined ? [] : [{ code, useBy: gs1.useBy ?? gs1.bestBefore ?? null, quantity }];
}

/** So many on the last line that wanted the item, beyond what was ordered: the person has said that it is right. */
export function extraParts(lines: readonly DeskLine[], chosen: readonly string[], itemId: number, quantity: string): ScanPart[] {
  const at = lines.filter((line) => line.itemId === itemId && (chosen.length === 0 || chosen.includes(line.delivery))).at(-1);
  return at ? [{ lineId: at.lineId, binId: at.binId, quantity, lots: [], extra: quantity }] : [];
}

/** The lines that are to be received: damaged goods are a line of their own, into a bin of quarantine. */
export function receiptLines(lines: readonly DeskLine[], tally: Tally, quarantine: (siteId: number) => number | undefined): ReceiptLine[] {
  return lines.flatMap((line) => {
    const at = tally.lines[line.lineId];
    if (!at) return [];
    const typed = at.quantity.trim();
    if (typed === '' || Number(typed) === 0) return [];
    const damaged = least(counted({ quantity: at.damaged ?? '', binId: null }), counted(at));
    const apart = damaged.isZero() ? undefined : quarantine(line.siteId);
    const good: ReceiptLine = {
      lineId: line.lineId,
      quantity: typed,
      extra: at.extra ?? '0',
      binId: line.stocked ? (at.binId ?? line.binId ?? 0) : null,
      lots: (at.lots ?? []).filter(({ code }) => code.trim() !== ''),
      noMore: at.noMore ?? false,
      toBench: at.toBench ?? false,
    };
    if (!line.stocked || damaged.isZero() || apart === undefined) return [good];
    const rest = counted(at).minus(damaged);
    const lots = lotsApart(good.lots, damaged);
    const spoilt = { ...good, quantity: damaged.toFixed(), binId: apart, toBench: false, lots: lots.apart };
    return rest.isZero()
      ? [spoilt]
      : [
          { ...good, quantity: rest.toFixed(), lots: lots.kept },
          { ...spoilt, extra: '0' },
        ];
  });
}

/** Lots or serials parted: the last ones given are what lies apart, as many as that is; the others are kept. */
export function lotsApart<L extends Pick<LotEntry, 'quantity'>>(lots: readonly L[], quantity: Decimal): { kept: L[]; apart: L[] } {
  let open = quantity;
  const parted = lots.toReversed().map((lot) => {
    const here = counted({ quantity: lot.quantity, binId: null });
    const apart = least(open, here);
    open = open.minus(apart);
    return { lot, kept: here.minus(apart), apart };
  });
  const of = (part: 'kept' | 'apart') => parted.flatMap((one) => (one[part].isZero() ? [] : [{ ...one.lot, quantity: one[part].toFixed() }])).toReversed();
  return { kept: of('kept'), apart: of('apart') };
}

/** "3 wait for SO-1042 of Copse Lane School, 2 for SO-1051 of ...", or nothing when nobody waits. */
export const waitingWords = (line: Pick<DeskLine, 'waiting'>): string =>
  line.waiting.map(({ number, customer, short }, index) => `${short} ${index === 0 ? 'wait ' : ''}for ${number}, ${customer}`).join('; ');
