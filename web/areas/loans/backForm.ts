import type { BackForm, LoanLine } from '@larder/contract/loans';
import { decimal, least } from '@larder/core/decimal';
import { isNumber } from '@larder/core/number';
import type { Condition } from '@larder/core/stock/loans';
import { sentRow } from '../../kit/row';

/** A line that is out, and how much of it comes back, in which condition, into which bin. */
export interface BackRow extends Pick<LoanLine, 'sku' | 'name' | 'unit' | 'lot' | 'number' | 'out' | 'siteId'> {
  lineId: number;
  quantity: string;
  binId: number | null;
  condition: Condition;
  note: string;
}
export interface BackDraft {
  rows: BackRow[];
}

export const backRowKeys = { rows: { key: ({ lineId }: BackRow): string => String(lineId), typed: ['quantity', 'binId', 'condition', 'note'] as const } };

/** What is out, all of it proposed to go where it came from. */
export const backRows = (lines: readonly LoanLine[]): BackRow[] =>
  lines
    .filter(({ out }) => Number(out) > 0)
    .map(({ id, sku, name, unit, lot, number, out, siteId, fromBinId }) => ({
      lineId: id,
      sku,
      name,
      unit,
      lot,
      number,
      out,
      siteId,
      quantity: '',
      binId: fromBinId,
      condition: 'as it was',
      note: '',
    }));

export const comesBack = ({ quantity }: BackRow): boolean => isNumber(quantity, 'quantity');

export const backBody = ({ rows }: BackDraft): BackForm => ({
  lines: rows.filter(comesBack).map(({ lineId, quantity, binId, condition, note }) => ({ lineId, quantity: quantity.trim(), binId, condition, note })),
});

export function backField(path: string, { rows }: BackDraft): string {
  const row = sentRow(path, 'lines', rows, comesBack);
  return row ? `rows.${row.at}.${row.part === 'binId' ? 'binId' : 'quantity'}` : path;
}

/** One more of what a code means: a serial that is out, or the first line of an item by its SKU. Null where nothing of the list is meant. */
export function withBack(rows: readonly BackRow[], code: string): { rows: BackRow[]; row: BackRow } | null {
  const same = (text: string | null) => text?.toLowerCase() === code.trim().toLowerCase();
  const had = (row: BackRow) => decimal(comesBack(row) ? row.quantity.trim() : '0');
  const at = rows.findIndex((row) => (same(row.lot) || same(row.sku)) && had(row).lt(row.out));
  const row = rows[at];
  if (!row) return null;
  const more = { ...row, quantity: least(had(row).plus(1), decimal(row.out)).toFixed() };
  return { rows: rows.map((one, index) => (index === at ? more : one)), row: more };
}
