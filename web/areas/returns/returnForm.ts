import type { CustomerReturn, Held, ReturnForm } from '@larder/contract/returns';
import { decimal, quantityText } from '@larder/core/decimal';
import { readNumber } from '@larder/core/number';
import { needsBin, type Condition } from '@larder/core/outbound/comingBack';
import { sentRow } from '../../kit/row';

/** Goods that come back while it is typed. */
export interface BackLine {
  /** Null: sold before these records. */
  salesLineId: number | null;
  order: string;
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  tracking: 'none' | 'lot' | 'serial';
  lotId: number | null;
  lot: string;
  /** How many of it the customer has; empty where nobody knows. */
  held: string;
  /** Of those, came straight from a supplier; empty where nobody knows. */
  straight: string;
  unitValue: string;
  quantity: string;
  condition: Condition;
  /** Null until one is proposed or chosen. */
  binId: number | null;
  reasonId: number | null;
  note: string;
}

export interface ReturnDraft {
  customer: { id: number; name: string } | null;
  siteId: number | null;
  cameOn: string;
  reference: string;
  note: string;
  lines: BackLine[];
}

/** What tells lines apart: the order line and the lot, or what was sold before these records. */
export const rowKeys = { lines: ({ salesLineId, itemId, lotId, lot }: BackLine): string => `${salesLineId ?? ''} ${itemId} ${lotId ?? ''} ${lot}` };

export const isSame = (line: BackLine, { salesLineId, lotId }: Held): boolean => line.salesLineId === salesLineId && line.lotId === lotId;

/** A line for goods that a customer has; why, and in which condition, as on the line before. */
export const lineOf = (held: Held, before: BackLine | undefined): BackLine => ({
  salesLineId: held.salesLineId,
  order: held.order,
  itemId: held.itemId,
  sku: held.sku,
  name: held.name,
  unit: held.unit,
  tracking: held.lotId === null ? 'none' : 'lot',
  lotId: held.lotId,
  lot: held.lot ?? '',
  held: held.held,
  straight: held.straight,
  unitValue: '',
  quantity: '1',
  condition: before === undefined || (before.condition === 'supplier' && Number(held.straight) === 0) ? 'shelf' : before.condition,
  binId: null,
  reasonId: before?.reasonId ?? null,
  note: '',
});

/** A line for goods that were sold before these records. */
export const olderLine = (
  item: { id: number; sku: string; name: string; unit: string; tracking: BackLine['tracking'] },
  quantity: string,
  before: BackLine | undefined,
): BackLine => ({
  salesLineId: null,
  order: '',
  itemId: item.id,
  sku: item.sku,
  name: item.name,
  unit: item.unit,
  tracking: item.tracking,
  lotId: null,
  lot: '',
  held: '',
  straight: '0',
  unitValue: '',
  quantity: quantity === '' ? '1' : quantity,
  condition: before?.condition === 'quarantine' ? 'quarantine' : 'shelf',
  binId: null,
  reasonId: before?.reasonId ?? null,
  note: '',
});

/** One more of a line, as far as the customer has so many. */
export function oneMore({ quantity, held }: BackLine): string {
  const now = readNumber(quantity, 'quantity');
  if (now === null) return '1';
  const more = now.plus(1);
  return quantityText(held !== '' && more.gt(held) ? decimal(held) : more);
}

/** What stands in the form of a return that was written down. */
export const draftOf = (one: CustomerReturn, today: string): ReturnDraft => ({
  customer: { id: one.customerId, name: one.customer },
  siteId: one.siteId,
  // What was expected comes today.
  cameOn: today,
  reference: one.reference,
  note: one.note,
  lines: one.lines.map((line) => ({
    salesLineId: line.salesLineId,
    order: line.order,
    itemId: line.itemId,
    sku: line.sku,
    name: line.name,
    unit: line.unit,
    tracking: line.tracking,
    lotId: line.lotId,
    lot: line.lot,
    held: '',
    straight: '',
    unitValue: line.unitValue ?? '',
    quantity: line.quantity,
    condition: line.condition,
    binId: line.binId,
    reasonId: line.reasonId,
    note: line.note,
  })),
});

export const isBack = ({ quantity }: BackLine): boolean => quantity.trim() !== '' && quantity.trim() !== '0';

/** What is sent of a return. */
export const returnBody = ({ customer, siteId, cameOn, reference, note, lines }: ReturnDraft, receive: boolean, countedSince: boolean): ReturnForm => ({
  customerId: customer?.id ?? 0,
  siteId: siteId ?? 0,
  cameOn,
  reference,
  note,
  receive,
  countedSince,
  lines: lines.filter(isBack).map((line) => ({
    salesLineId: line.salesLineId,
    itemId: line.itemId,
    lotId: line.lotId,
    lotCode: line.salesLineId === null ? line.lot.trim() : '',
    unitValue: line.salesLineId === null && line.unitValue.trim() !== '' ? line.unitValue.trim() : null,
    quantity: line.quantity.trim(),
    condition: line.condition,
    binId: needsBin(line.condition) ? line.binId : null,
    reasonId: line.reasonId,
    note: line.note,
  })),
});

/** The field of the form that something sent stands in. */
export function returnField(path: string, { lines }: ReturnDraft): string {
  if (path === 'customerId') return 'customer';
  const row = sentRow(path, 'lines', lines, isBack);
  if (!row) return path;
  const part = ['lots', 'lotCode', 'lotId'].includes(row.part.split('.')[0] ?? '') ? 'lot' : row.part === 'itemId' ? 'quantity' : row.part;
  return `lines.${row.at}.${part}`;
}

interface BinRow {
  id: number;
  siteId: number;
  sellable: boolean;
  unplaced: boolean;
  retired: boolean;
}

/** Bins that goods in a condition may go into at a site. */
export const binsFor = <B extends BinRow>(bins: readonly B[], condition: Condition, siteId: number | null): B[] =>
  !needsBin(condition) ? [] : bins.filter((bin) => !bin.retired && bin.siteId === siteId && bin.sellable === (condition === 'shelf'));

/** The bin that is proposed: the item's own, else one that it lies in, else the one for goods without a bin; in quarantine the first. */
export const proposedBin = (bins: readonly BinRow[], own: number | null, liesIn: readonly number[]): number | null =>
  (bins.find(({ id }) => id === own) ?? bins.find(({ id }) => liesIn.includes(id)) ?? bins.find(({ unplaced }) => unplaced) ?? bins[0])?.id ?? null;
