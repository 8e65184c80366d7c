import type { CustomerReturn } from '@larder/contract/returns';
import { dayInWords } from '@larder/core/day';
import { quantityText } from '@larder/core/decimal';
import type { Condition } from '@larder/core/outbound/comingBack';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { party } from '../../db/schema/index';
import { letterheadOf, letterPaper, paperWordsOf, wordsOn } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, type PaperColumn } from '../../documents/paper';
import { oneReturn } from './queries';

const columns = [
  { name: 'Item', x: 50, width: 90, align: 'left' },
  { name: 'What', x: 144, width: 172, align: 'left' },
  { name: 'Your order', x: 320, width: 70, align: 'left' },
  { name: 'Why', x: 394, width: 92, align: 'left' },
  { name: 'Quantity', x: 490, width: 56, align: 'right' },
] satisfies PaperColumn[];

const conditionWords: Record<Condition, string> = {
  shelf: 'as new',
  quarantine: 'to be looked at',
  scrap: 'not usable',
  supplier: 'straight on to the supplier',
};

/** The receipt of a return on A4: who brought it, what it was, why and in which condition. */
export async function paperOfReturn(act: Act, id: number): Promise<{ type: string; name: string; bytes: Uint8Array }> {
  const one = await oneReturn(act, id);
  const { opening, closing } = await paperWordsOf(act, 'return receipt');
  const [to] = await act.tx.db.select({ address: party.address }).from(party).where(eq(party.id, one.customerId));
  const paper = letterPaper(`${one.state === 'received' ? 'Return receipt' : 'Return'} ${one.number}`, await letterheadOf(act));
  const top = paper.y;
  facts(paper, margin, top, 'From', [one.customer, ...(to?.address ?? '').split('\n').filter((row) => row.trim() !== one.customer)]);
  const below = paper.y;
  facts(paper, 400, top, one.state === 'received' ? 'Came back on' : 'Expected', [dayInWords(one.cameOn)]);
  if (one.reference !== '') facts(paper, 400, paper.y + 6, 'Your number', [one.reference]);
  paper.y = Math.max(below, paper.y) + 18;
  wordsOn(paper, opening);
  table(paper, columns, one.lines.map(paperRow));
  if (one.note !== '') wordsOn(paper, one.note);
  wordsOn(paper, closing);
  return { type: 'application/pdf', name: `${one.number}.pdf`, bytes: await bytesOf(paper) };
}

const paperRow = (line: CustomerReturn['lines'][number]): string[] => [
  line.sku,
  [line.name, line.lot === '' ? '' : line.lot, conditionWords[line.condition]].filter(Boolean).join('\n'),
  line.order,
  [line.reason, line.note].filter(Boolean).join('\n'),
  `${quantityText(line.quantity)}${line.unit === 'each' ? '' : ` ${line.unit}`}`,
];
