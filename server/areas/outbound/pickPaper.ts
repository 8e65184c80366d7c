import type { FileAnswer } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import type { Act } from '../../act';
import { pickRow, pickSheets } from '../../documents/pickPaper';
import { pickList } from './pickList';
import { sale } from './queries';
import { getRound } from './rounds';

/** What to take from which bin for an order. */
export async function pickPaper(act: Act, id: number): Promise<FileAnswer> {
  const { rows, missing, made } = await pickList(act, id);
  const order = await sale(act, id);
  const manySites = new Set(rows.map(({ siteId }) => siteId)).size > 1;
  const bytes = await pickSheets(act, [
    {
      title: `Pick list ${order.number}`,
      code: order.number,
      head: [
        ['For', [order.customer, order.reference === '' ? '' : `their order ${order.reference}`]],
        ['Ships by', [dayInWords(order.shipBy), order.whole ? 'whole, not in parts' : '']],
      ],
      forWhom: 'Line',
      rows: rows.map((row) => pickRow(row, manySites, String(order.lines.find((line) => line.id === row.lineId)?.position ?? ''))),
      missing: missing.map(({ sku, quantity }) => `${quantity} ${sku}${putTogether(made.filter((work) => work.sku === sku))}`),
    },
  ]);
  return { type: 'application/pdf', name: `pick list ${order.number}.pdf`, bytes };
}

const putTogether = (made: readonly { number: string }[]): string =>
  made.length === 0 ? '' : ` (put together on ${made.map(({ number }) => number).join(', ')})`;

/** What to take from which bin for the orders of a round, each into its slot. */
export async function roundPaper(act: Act, id: number): Promise<FileAnswer> {
  const round = await getRound(act, id);
  const bytes = await pickSheets(act, [
    {
      title: `Pick list of round ${id}`,
      head: [
        ['Picked by', [round.picker, round.site]],
        ['Slots', round.slots.map(({ slot, number }) => `${slot}  ${number}`)],
      ],
      forWhom: 'Into slot',
      rows: round.rows.map((row) => pickRow(row, false, `${row.slot}  ${row.number}`)),
      missing: round.missing.map(({ sku, quantity, number }) => `${quantity} ${sku} of ${number}`),
    },
  ]);
  return { type: 'application/pdf', name: `pick list of round ${id}.pdf`, bytes };
}
