import type { LotEntry } from '@larder/contract/values';
import type { WorkOrder } from '@larder/contract/workOrders';
import type { RecordForm } from '@larder/contract/workRecords';
import { decimal, greatest, least, quantityText, sum, zero, type Decimal } from '@larder/core/decimal';
import { inSteps, notTaken, proposedUse } from '@larder/core/making/work';
import { isNumber } from '@larder/core/number';
import { sentRow } from '../../kit/row';

/** A component as it is recorded; of what is kept by lots or serials a row for each that is at the work. */
export interface UsedRow {
  key: string;
  lineId: number;
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  step: string;
  tracking: 'none' | 'lot' | 'serial';
  needed: string;
  taken: string;
  /** Recorded before. */
  used: string;
  /** At the work, of this lot. */
  atWork: string;
  lotId: number | null;
  lot: string | null;
  useBy: string | null;
  /** Null until somebody says: what is proposed. */
  quantity: string | null;
}
export interface MadeRow {
  lineId: number;
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  step: string;
  tracking: 'none' | 'lot' | 'serial';
  quantity: string;
  /** Made or scrapped before. */
  done: string;
  good: string | null;
  scrapped: string;
  binId: number;
  bin: string;
  /** It goes to quarantine: it is looked over before it is sold. */
  inspected: boolean;
  /** Of the one lot there is how many is empty while it is all that is good. */
  lots: LotEntry[];
}
export interface ChargeRow {
  name: string;
  per: 'hour' | 'piece';
  /** For the whole of the order, and recorded before. */
  planned: string;
  charged: string;
  quantity: string | null;
  rate: string;
  accountId: number | null;
}
export interface RecordDraft {
  used: UsedRow[];
  made: MadeRow[];
  charges: ChargeRow[];
  workerId: number | null;
  note: string;
  rest: 'goes on' | 'new order' | 'given up';
  untakenReason: string;
}

export const recordRowKeys = {
  used: { key: ({ key }: UsedRow): string => key, typed: ['quantity'] as const },
  made: { key: ({ lineId }: MadeRow): string => String(lineId), typed: ['good', 'scrapped', 'binId', 'bin', 'lots'] as const },
  charges: { key: ({ name }: ChargeRow): string => name, typed: ['quantity', 'rate', 'accountId'] as const },
};

/** What stands in the form of an order that something is recorded of. */
export const recordDraft = (order: WorkOrder): RecordDraft => ({
  used: order.lines
    .filter(({ stocked }) => stocked)
    .flatMap((line): UsedRow[] => {
      const { id: lineId, itemId, sku, name, unit, step, tracking, needed, taken, used, atWork } = line;
      const row = { lineId, itemId, sku, name, unit, step, tracking, needed, taken, used, quantity: null };
      if (tracking === 'none' || line.lots.length === 0) return [{ ...row, key: `${lineId}/`, atWork, lotId: null, lot: null, useBy: null }];
      return line.lots.map((one) => ({ ...row, key: `${lineId}/${one.lotId ?? ''}`, atWork: one.quantity, lotId: one.lotId, lot: one.lot, useBy: one.useBy }));
    }),
  made: order.products.map(({ id, itemId, sku, name, unit, step, tracking, quantity, made, scrapped, binId, bin, inspected, nextLot }) => ({
    ...{ lineId: id, itemId, sku, name, unit, step, tracking, quantity, binId, bin, inspected },
    done: decimal(made).plus(scrapped).toFixed(),
    good: null,
    scrapped: '',
    lots: nextLot === null ? [] : [{ ...nextLot, quantity: '' }],
  })),
  charges: order.costs.map(({ name, per, quantity, charged, rate, accountId }) => ({ name, per, planned: quantity, charged, quantity: null, rate, accountId })),
  workerId: null,
  note: '',
  rest: 'goes on',
  untakenReason: '',
});

/** What was typed as a quantity; nothing while it is none. */
const many = (text: string | null): Decimal => (text !== null && isNumber(text, 'quantity') ? decimal(text.trim()) : zero);

const mainOf = ({ made }: RecordDraft): MadeRow => made[0] as MadeRow;

/** How many of an output are proposed as good: of what the order is for all that is left; of what else comes of it as many as belong to that. */
export function proposedGood(draft: RecordDraft, index: number): string {
  const row = draft.made[index] as MadeRow;
  const main = mainOf(draft);
  if (index === 0) return quantityText(greatest(decimal(row.quantity).minus(row.done).minus(many(row.scrapped)), zero));
  const madeThen = decimal(main.done).plus(goodOf(draft, 0)).plus(many(main.scrapped));
  const due = inSteps(
    decimal(row.quantity)
      .times(least(madeThen, decimal(main.quantity)))
      .div(main.quantity),
    decimal(row.step),
  );
  return quantityText(greatest(due.minus(row.done), zero));
}
export const goodOf = (draft: RecordDraft, index: number): Decimal => many(draft.made[index]?.good ?? proposedGood(draft, index));

/** How many of what the order is for are made with this record, good or not. */
const madeNow = (draft: RecordDraft): Decimal => goodOf(draft, 0).plus(many(mainOf(draft).scrapped));

/** How many of what the order is for are still to be made then. */
export const leftOf = (draft: RecordDraft): Decimal => greatest(decimal(mainOf(draft).quantity).minus(mainOf(draft).done).minus(madeNow(draft)), zero);

/** How many of a component are proposed as used: what the order says for all that is made by then, less what was recorded before; of lots those that are at the work, one after the other. */
export function proposedUsed(draft: RecordDraft, index: number): string {
  const row = draft.used[index] as UsedRow;
  const main = mainOf(draft);
  const order = { quantity: decimal(main.quantity), madeBefore: decimal(main.done) };
  const now = { needed: decimal(row.needed), step: decimal(row.step), drawn: decimal(row.taken), used: decimal(row.used) };
  let left = proposedUse(now, order, madeNow(draft));
  const alike = draft.used.filter(({ lineId }) => lineId === row.lineId);
  for (const one of alike) {
    const last = one === alike.at(-1);
    const takes = last ? left : least(left, decimal(one.atWork));
    if (one === row) return quantityText(takes);
    left = left.minus(takes);
  }
  return '0';
}
const usedOf = (draft: RecordDraft, index: number): Decimal => many(draft.used[index]?.quantity ?? proposedUsed(draft, index));

/** Hours or pieces that are proposed: what the order says for all that is made by then, less what was recorded before. */
export function proposedCharge(draft: RecordDraft, index: number): string {
  const { planned, charged } = draft.charges[index] as ChargeRow;
  const main = mainOf(draft);
  const madeThen = least(decimal(main.done).plus(madeNow(draft)), decimal(main.quantity));
  return quantityText(greatest(decimal(planned).times(madeThen).div(main.quantity).minus(charged), zero).toDecimalPlaces(4));
}

/** What was used and never taken from a shelf, line by line. */
export function untakenOf(draft: RecordDraft): { lineId: number; sku: string; quantity: string }[] {
  const lines = new Map(draft.used.map((row) => [row.lineId, row]));
  return [...lines.values()].flatMap((row) => {
    const recorded = sum(draft.used.map((one, index) => (one.lineId === row.lineId ? usedOf(draft, index) : zero)));
    const missing = notTaken({ drawn: decimal(row.taken), used: decimal(row.used) }, recorded);
    return missing.gt(zero) ? [{ lineId: row.lineId, sku: row.sku, quantity: quantityText(missing) }] : [];
  });
}

const textOf = (typed: string | null, proposed: string): string => typed?.trim() ?? proposed;

/** What is sent of it. Whatever nobody has typed is what is proposed. */
export const recordBody = (draft: RecordDraft, version: number): RecordForm => ({
  version,
  workerId: draft.workerId,
  note: draft.note,
  used: draft.used.map((row, index) => ({ lineId: row.lineId, lotId: row.lotId, quantity: textOf(row.quantity, proposedUsed(draft, index)) || '0' })),
  made: draft.made.map((row, index) => {
    const quantity = textOf(row.good, proposedGood(draft, index)) || '0';
    const lots = lotsOf(row, quantity);
    return { lineId: row.lineId, quantity, scrapped: row.scrapped.trim() || '0', binId: row.binId, lots: quantity === '0' ? [] : lots };
  }),
  charges: draft.charges
    .map((row, index) => ({
      name: row.name,
      per: row.per,
      quantity: textOf(row.quantity, proposedCharge(draft, index)) || '0',
      // Planned ones are at the rate of the order, whoever may see it.
      rate: row.planned === '0' ? row.rate : null,
      accountId: row.planned === '0' ? row.accountId : null,
    }))
    .filter(isCharged),
  rest: leftOf(draft).gt(zero) ? draft.rest : 'goes on',
  untakenReason: draft.untakenReason,
});
/** The lots of an output as they are shown and sent: one of which nobody said how many is all of them. */
export const lotsOf = ({ lots }: Pick<MadeRow, 'lots'>, all: string): LotEntry[] =>
  lots.length === 1 ? lots.map((lot) => ({ ...lot, quantity: lot.quantity === '' ? all : lot.quantity })) : lots;
/** What is kept of lots as they were typed: of one that is all of them not how many, so that it follows. */
export const lotsKept = (lots: LotEntry[], all: string): LotEntry[] =>
  lots.length === 1 ? lots.map((lot) => ({ ...lot, quantity: lot.quantity === all ? '' : lot.quantity })) : lots;

const isCharged = ({ quantity }: { quantity: string }): boolean => quantity !== '0';

/** In which field stands what was refused of something sent. */
export function recordField(path: string, draft: RecordDraft): string {
  const [list, at, ...part] = path.split('.');
  if (list === 'made' && at !== undefined) return ['made', at, part[0] === 'quantity' ? 'good' : part.join('.')].join('.');
  if (list === 'charges' && at !== undefined) {
    const charged = draft.charges.map((row, index) => ({ ...row, index, quantity: textOf(row.quantity, proposedCharge(draft, index)) || '0' }));
    const row = sentRow(path, 'charges', charged, isCharged);
    return row ? ['charges', row.at, ...part].join('.') : path;
  }
  return path;
}

/** Counts one more of what was scanned: of a component, of its lot when the code is of one, or of what is made. Null when it is neither. */
export function withScanned(draft: RecordDraft, itemId: number, lotId: number | null, factor: string): { draft: RecordDraft; said: string } | null {
  const at = draft.used.findIndex((row) => row.itemId === itemId && (lotId === null || row.lotId === null || row.lotId === lotId));
  const used = draft.used[at];
  if (used) {
    const quantity = quantityText(many(used.quantity).plus(factor));
    return { draft: { ...draft, used: draft.used.map((row, index) => (index === at ? { ...row, quantity } : row)) }, said: `${quantity} of ${used.sku} used.` };
  }
  const made = draft.made.findIndex((row) => row.itemId === itemId);
  const output = draft.made[made];
  if (!output) return null;
  const good = quantityText(many(output.good).plus(factor));
  return { draft: { ...draft, made: draft.made.map((row, index) => (index === made ? { ...row, good } : row)) }, said: `${good} of ${output.sku} made.` };
}
