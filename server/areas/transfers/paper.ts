import type { Transfer } from '@larder/contract/transfers';
import type { FileAnswer } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import type { Act } from '../../act';
import { barcodeOn } from '../../documents/barcodes';
import { letterheadOf, letterPaper, paperWordsOf, wordsOn } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, type PaperColumn } from '../../documents/paper';
import { getTransfer } from './queries';

const columns = [
  { name: 'Item', x: 50, width: 100, align: 'left' },
  { name: 'What', x: 156, width: 190, align: 'left' },
  { name: 'Into bin', x: 352, width: 70, align: 'left' },
  { name: 'Sent', x: 426, width: 56, align: 'right' },
  { name: 'Counted', x: 490, width: 56, align: 'right' },
] satisfies PaperColumn[];

const millimetre = 72 / 25.4;

/** What goes with the goods on A4: from where to where, how, and what it is, lot by lot, with room for what was counted there. Before anything has left it is what is to go. */
export async function transferPaper(act: Act, id: number): Promise<FileAnswer> {
  const one = await getTransfer(act, id);
  const { opening, closing } = await paperWordsOf(act, 'transfer note');
  const paper = letterPaper(`Transfer ${one.number}`, await letterheadOf(act));
  const top = paper.y;
  facts(paper, margin, top, 'From', [one.from]);
  facts(paper, margin + 120, top, 'To', [one.to]);
  facts(paper, margin + 240, top, 'Goes by', [one.carrier ?? 'our own van', one.tracking].filter(Boolean));
  facts(paper, 400, top, one.since === null ? 'To be sent by' : 'Sent', [dayInWords(one.since ?? one.sendBy)]);
  if (one.expectedOn !== null) facts(paper, 400, paper.y + 6, 'Should arrive', [dayInWords(one.expectedOn)]);
  paper.y = Math.max(paper.y, top + 44) + 8;
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
  wordsOn(paper, opening);
  table(paper, columns, rowsOf(one));
  if (one.note !== '') wordsOn(paper, one.note);
  wordsOn(paper, closing);
  return { type: 'application/pdf', name: `transfer ${one.number}.pdf`, bytes: await bytesOf(paper) };
}

/** What is in transit, lot by lot; of what has not left, what is to go. */
function rowsOf({ lines, underWay, since }: Transfer): string[][] {
  return lines.flatMap((line) => {
    const row = (quantity: string, lot: string | null): string[] => [
      line.sku,
      [line.name, lot ?? ''].filter(Boolean).join('\n'),
      line.toBin ?? '',
      `${quantity}${line.unit === 'each' ? '' : ` ${line.unit}`}`,
      '______',
    ];
    if (since === null) return decimal(line.quantity).gt(0) ? [row(line.quantity, null)] : [];
    return underWay.filter(({ lineId }) => lineId === line.id).map(({ quantity, lot }) => row(quantity, lot));
  });
}
