import type { LoanLine } from '@larder/contract/loans';
import type { FileAnswer } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import type { Act } from '../../act';
import { barcodeOn } from '../../documents/barcodes';
import { letterheadOf, letterPaper, wordsOn } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, type PaperColumn } from '../../documents/paper';
import { getHolder } from './holders';
import { getLoan } from './queries';

const columns = [
  { name: 'Item', x: 50, width: 100, align: 'left' },
  { name: 'What', x: 156, width: 164, align: 'left' },
  { name: 'Loan', x: 326, width: 56, align: 'left' },
  { name: 'Due', x: 386, width: 98, align: 'left' },
  { name: 'Quantity', x: 490, width: 56, align: 'right' },
] satisfies PaperColumn[];
const millimetre = 72 / 25.4;

const rowOf = (line: LoanLine, quantity: string): string[] => [
  line.sku,
  [line.name, line.lot ?? ''].filter(Boolean).join('\n'),
  line.number,
  line.dueOn === null ? '' : dayInWords(line.dueOn),
  `${quantity}${line.unit === 'each' ? '' : ` ${line.unit}`}`,
];

/** A loan on A4, to be signed by whoever takes the things. */
export async function loanPaper(act: Act, id: number): Promise<FileAnswer> {
  const one = await getLoan(act, id);
  const paper = letterPaper(`Loan ${one.number}`, await letterheadOf(act));
  const top = paper.y;
  facts(paper, margin, top, 'Lent to', [one.holder]);
  facts(paper, margin + 130, top, 'From', [one.site]);
  facts(paper, margin + 230, top, 'Lent', [dayInWords(one.lentOn)]);
  facts(paper, 400, top, 'To be back', [one.dueOn === null ? 'no day said' : dayInWords(one.dueOn)]);
  paper.y = Math.max(paper.y, top + 34) + 8;
  barcodeOn(paper, {
    kind: 'code',
    symbology: 'code128',
    payload: one.number,
    x: margin / millimetre,
    y: paper.y / millimetre,
    width: 116 / millimetre,
    height: 10,
  });
  paper.y += 44;
  table(
    paper,
    columns,
    one.lineRows.map((line) => rowOf(line, line.lent)),
  );
  wordsOn(paper, one.note);
  wordsOn(paper, '\n\nReceived: ______________________________     Day: ______________');
  return { type: 'application/pdf', name: `loan ${one.number}.pdf`, bytes: await bytesOf(paper) };
}

/** All that a holder has, on A4. */
export async function holderPaper(act: Act, id: number): Promise<FileAnswer> {
  const one = await getHolder(act, id);
  const paper = letterPaper(`Held by ${one.name}`, await letterheadOf(act));
  facts(paper, margin, paper.y, 'As of', [dayInWords(act.today)]);
  paper.y += 12;
  const held = one.lines.filter(({ out }) => decimal(out).gt(0));
  if (held.length === 0) wordsOn(paper, 'Nothing.');
  else
    table(
      paper,
      columns,
      held.map((line) => rowOf(line, line.out)),
    );
  return { type: 'application/pdf', name: `held by ${one.name}.pdf`, bytes: await bytesOf(paper) };
}
