import PDFDocument from 'pdfkit';
import { registerFonts } from './fonts';

/** Papers of the business on A4: a margin, facts side by side, and tables that go on over pages. Lengths are points. */

export const margin = 50;
const [width, bottom] = [496, 760];

/** A column of a table: where it begins, and how wide it is. */
export interface PaperColumn {
  name: string;
  x: number;
  width: number;
  align: 'left' | 'right';
}

/** An empty paper with the product's fonts. */
export function a4(title: string, author: string): PDFKit.PDFDocument {
  const paper = new PDFDocument({ size: 'A4', margin, info: { Title: title, Author: author, Producer: 'Tidy Larder' } });
  registerFonts(paper);
  return paper;
}

/** Ends a paper and gives it whole. */
export async function bytesOf(paper: PDFKit.PDFDocument): Promise<Buffer> {
  const parts: Buffer[] = [];
  const ended = new Promise<void>((done) => paper.on('data', (part: Buffer) => parts.push(part)).on('end', () => done()));
  paper.end();
  await ended;
  return Buffer.concat(parts);
}

/** A name in small letters, and under it what it is, line by line; empty lines are left out. */
export function facts(paper: PDFKit.PDFDocument, x: number, y: number, name: string, lines: readonly string[]): void {
  paper.font('text').fontSize(8).fillColor('#555').text(name, x, y);
  paper.fontSize(10.5).fillColor('black');
  for (const line of lines.filter((one) => one.trim() !== '')) paper.text(line, x, paper.y, { width: 170 });
}

/** Rows under their heads; the heads are on each page that the table goes on to. */
export function table(paper: PDFKit.PDFDocument, columns: readonly PaperColumn[], rows: readonly (readonly (string | number)[])[]): void {
  heading(paper, columns);
  for (const cells of rows) {
    if (paper.y > bottom) {
      paper.addPage();
      heading(paper, columns);
    }
    row(paper, columns, cells);
  }
}

/** Sums at the right, one under the other, and what they come to. */
export function totals(
  paper: PDFKit.PDFDocument,
  rows: readonly (readonly [name: string, amount: string])[],
  last: readonly [name: string, amount: string],
): void {
  const line = ([name, amount]: readonly [string, string]) => {
    if (paper.y > bottom) paper.addPage();
    const y = paper.y;
    paper.text(name, 230, y, { width: 236, align: 'right' });
    const below = paper.y;
    paper.text(amount, 470, y, { width: 76, align: 'right' });
    paper.y = Math.max(below, paper.y);
  };
  paper.moveDown(0.4).font('text').fontSize(10);
  rows.forEach(line);
  paper.font('bold').fontSize(11.5);
  paper.y += 3;
  line(last);
  paper.moveDown(1.4);
}

function heading(paper: PDFKit.PDFDocument, columns: readonly PaperColumn[]): void {
  paper.fillColor('#555');
  row(
    paper,
    columns,
    columns.map(({ name }) => name),
    8,
  );
  paper
    .moveTo(margin, paper.y - 3)
    .lineTo(margin + width, paper.y - 3)
    .lineWidth(0.6)
    .stroke('#999');
  paper.fillColor('black');
}

function row(paper: PDFKit.PDFDocument, columns: readonly PaperColumn[], cells: readonly (string | number)[], size = 10): void {
  const y = paper.y;
  paper.font('text').fontSize(size);
  const ends = columns.map(({ x, width: wide, align }, index) => {
    paper.text(String(cells[index] ?? ''), x, y, { width: wide, align });
    return paper.y;
  });
  paper.x = margin;
  paper.y = Math.max(...ends) + 6;
}
