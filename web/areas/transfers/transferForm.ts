import type { Transfer, transferFigures } from '@larder/contract/transfers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { addDays } from '@larder/core/day';
import { decimal, least } from '@larder/core/decimal';
import { sentRow } from '../../kit/row';

/** A line of a transfer while it is typed. */
export interface LineDraft {
  /** Null while it is new. */
  id: number | null;
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  quantity: string;
  fromBinId: number | null;
  toBinId: number | null;
  salesLineId: number | null;
  /** The order that waits for it. */
  order: string;
  /** So many are picked already. */
  picked: string;
}

export interface TransferDraft {
  fromSiteId: number | null;
  toSiteId: number | null;
  sendBy: string;
  /** Undefined until somebody says another than the day after. */
  expectedOn: string | null | undefined;
  carrierId: number | null;
  tracking: string;
  note: string;
  lines: LineDraft[];
}

export type Figures = ResponseOf<typeof transferFigures>['rows'][number];

export const rowKeys = { lines: ({ id, itemId, salesLineId }: LineDraft): string => (id === null ? `new ${itemId} ${salesLineId ?? ''}` : String(id)) };

export const newLine = (item: { id: number; sku: string; name: string; unit: string }, quantity: string): LineDraft => ({
  id: null,
  itemId: item.id,
  sku: item.sku,
  name: item.name,
  unit: item.unit,
  quantity,
  fromBinId: null,
  toBinId: null,
  salesLineId: null,
  order: '',
  picked: '0',
});

/** A line for goods that a page asked for: what is short is asked for, as far as it is free; else how many is still to be said. */
export const proposedLine = (row: Figures): LineDraft => ({
  ...newLine({ id: row.itemId, sku: row.sku, name: row.name, unit: row.unit }, quantityBy('short', row)),
  salesLineId: row.salesLineId,
  order: row.order ?? '',
});

/** A rule by which all lines are filled: all that is free where it comes from, what is short where it goes, or what lacks there of its level; never more than is free. */
export type Rule = 'free' | 'short' | 'level';
export function quantityBy(rule: Rule, { free, short, upTo }: Pick<Figures, 'free' | 'short' | 'upTo'>): string {
  const wanted = rule === 'short' ? short : rule === 'level' ? upTo : (free ?? '0');
  const many = free === null ? decimal(wanted) : least(decimal(wanted), decimal(free));
  return many.gt(0) ? many.toFixed() : '';
}

export const isGoing = ({ quantity }: LineDraft): boolean => quantity.trim() !== '' && quantity.trim() !== '0';

/** What stands in the form of a transfer that was written. */
export const draftOf = (one: Transfer): TransferDraft => ({
  fromSiteId: one.fromSiteId,
  toSiteId: one.toSiteId,
  sendBy: one.sendBy,
  expectedOn: one.expectedOn,
  carrierId: one.carrierId,
  tracking: one.tracking,
  note: one.note,
  lines: one.lines
    .filter(({ quantity }) => Number(quantity) > 0)
    .map((line) => ({
      id: line.id,
      itemId: line.itemId,
      sku: line.sku,
      name: line.name,
      unit: line.unit,
      quantity: line.quantity,
      fromBinId: line.fromBinId,
      toBinId: line.toBinId,
      salesLineId: null,
      order: line.sale?.number ?? '',
      picked: line.picked,
    })),
});

/** The day it is proposed to arrive. */
export const arrivesAfter = (sendBy: string): string => addDays(sendBy, 1);

/** What is sent of a transfer. */
export const transferBody = ({ lines, ...head }: TransferDraft) => ({
  ...head,
  expectedOn: head.expectedOn === undefined ? arrivesAfter(head.sendBy) : head.expectedOn,
  lines: lines.filter(isGoing).map(({ id, itemId, quantity, fromBinId, toBinId, salesLineId }) => ({
    id,
    itemId,
    quantity: quantity.trim(),
    fromBinId,
    toBinId,
    salesLineId,
  })),
});
export type TransferBody = ReturnType<typeof transferBody>;

/** The field of the form that something sent stands in. */
export function transferField(path: string, { lines }: TransferDraft): string {
  const row = sentRow(path, 'lines', lines, isGoing);
  if (!row) return path;
  return `lines.${row.at}.${['fromBinId', 'toBinId'].includes(row.part) ? row.part : 'quantity'}`;
}
