import { dayInWords } from '@larder/core/day';
import { askedLines } from '@larder/core/post/asked';
import type { PurchaseOrder } from '@larder/contract/inbound';
import PDFDocument from 'pdfkit';
import { registerFonts } from '../../documents/fonts';

/** Who the paper is from and to. */
export interface PaperHead {
  company: string;
  supplierAddress: string;
}

const margin = 50;
const columns = [
  { name: 'Line', x: 50, width: 30, align: 'left' },
  { name: 'Your code', x: 84, width: 76, align: 'left' },
  { name: 'Item', x: 164, width: 176, align: 'left' },
  { name: 'Quantity', x: 344, width: 80, align: 'right' },
  { name: 'Price', x: 428, width: 54, align: 'right' },
  { name: 'Amount', x: 486, width: 60, align: 'right' },
] as const;

/** A purchase order on A4: who, where to, when, and every line; what was called off is left out of what is asked for. */
export async function orderPaper(order: PurchaseOrder, { company, supplierAddress }: PaperHead): Promise<Buffer> {
  const paper = new PDFDocument({ size: 'A4', margin, info: { Title: `Purchase order ${order.number}`, Author: company, Producer: 'Tidy Larder' } });
  registerFonts(paper);
  const parts: Buffer[] = [];
  const ended = new Promise<void>((done) => paper.on('data', (part: Buffer) => parts.push(part)).on('end', () => done()));
  paper.font('bold').fontSize(20).text(`Purchase order ${order.number}`, margin, margin);
  paper.font('text').fontSize(10).text(`from ${company}`);
  const top = paper.y + 18;
  facts(paper, margin, top, 'To', [order.supplier, ...supplierAddress.split('\n')]);
  facts(paper, 230, top, 'Deliver to', placeAsked(order));
  facts(paper, 410, top, 'Wanted by', [order.expectedOn ? dayInWords(order.expectedOn) : 'as soon as you can']);
  paper.y = Math.max(paper.y, top + 60) + 14;
  heading(paper);
  for (const line of askedLines(order.lines)) {
    if (paper.y > 760) {
      paper.addPage();
      heading(paper);
    }
    row(paper, [line.position, line.code, line.name, line.quantity, line.price, line.amount]);
  }
  paper.moveDown(0.6);
  sums(paper, order);
  if (order.note) paper.moveDown().font('text').fontSize(10).text(order.note, margin, paper.y, { width: 496 });
  paper.end();
  await ended;
  return Buffer.concat(parts);
}

/** Where it is to be delivered: a site of ours, or straight to a customer with the address. */
export const placeAsked = (order: PurchaseOrder): string[] => (order.shipsTo === null ? [order.site] : [order.shipsTo, ...order.shipsToAddress.split('\n')]);

/** Goods, charges, tax and all of it, one under the other. */
function sums(paper: PDFKit.PDFDocument, order: PurchaseOrder): void {
  const rows: [string, string][] = [
    ['Goods', order.amount],
    ...order.charges.map(({ label, amount }): [string, string] => [label, amount]),
    ['Tax', order.tax],
  ];
  paper.font('text').fontSize(10);
  for (const [name, amount] of rows) paper.text(`${name}  ${amount}`, margin, paper.y, { align: 'right', width: 496 });
  paper
    .font('bold')
    .fontSize(11)
    .text(`In all ${order.total} ${order.currency}`, margin, paper.y + 2, { align: 'right', width: 496 });
}

function facts(paper: PDFKit.PDFDocument, x: number, y: number, name: string, lines: readonly string[]): void {
  paper.font('text').fontSize(8).fillColor('#555').text(name, x, y);
  paper.fontSize(10.5).fillColor('black');
  for (const line of lines.filter((one) => one.trim() !== '')) paper.text(line, x, paper.y, { width: 170 });
}

function heading(paper: PDFKit.PDFDocument): void {
  paper.fillColor('#555');
  row(
    paper,
    columns.map(({ name }) => name),
    8,
  );
  paper
    .moveTo(margin, paper.y - 3)
    .lineTo(546, paper.y - 3)
    .lineWidth(0.6)
    .stroke('#999');
  paper.fillColor('black');
}

function row(paper: PDFKit.PDFDocument, cells: readonly string[], size = 10): void {
  const y = paper.y;
  paper.font('text').fontSize(size);
  const bottom = columns.map(({ x, width, align }, index) => {
    paper.text(cells[index] ?? '', x, y, { width, align });
    return paper.y;
  });
  paper.x = margin;
  paper.y = Math.max(...bottom) + 6;
}
