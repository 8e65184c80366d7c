import { eq, sql } from 'drizzle-orm';
import type { PaperKind } from '@larder/contract/papers';
import type { Act } from '../act';
import { company, logo, paperWords } from '../db/schema/index';
import { a4, margin } from './paper';

/** What stands on every paper of the business: its name and picture, where it is, and how it is paid. */
export interface Letterhead {
  name: string;
  address: string;
  taxNumber: string;
  payTo: string;
  logo: Buffer | null;
}

export async function letterheadOf({ tx: { db } }: Act): Promise<Letterhead> {
  const [row] = await db
    .select({ name: company.name, address: company.address, taxNumber: company.taxNumber, payTo: company.payTo, logo: logo.bytes })
    .from(company)
    .leftJoin(logo, sql`true`)
    .where(eq(company.id, 1));
  if (!row) throw new Error('the business has not been founded');
  return row;
}

const right = 380;
const [logoWidth, logoHeight] = [166, 56];

/** A paper begun on the letterhead of the business. */
export function letterPaper(title: string, letterhead: Letterhead): PDFKit.PDFDocument {
  const paper = a4(title, letterhead.name);
  letterTop(paper, title, letterhead);
  return paper;
}

/** The top of a page: what it is, large, on the left; the business on the right. Writing goes on below both. Lengths are points. */
export function letterTop(paper: PDFKit.PDFDocument, title: string, { name, address, taxNumber, logo: picture }: Letterhead): void {
  let top = margin;
  if (picture) {
    paper.image(picture, right, top, { fit: [logoWidth, logoHeight], align: 'right' });
    top += logoHeight + 8;
  }
  paper.font('bold').fontSize(10).fillColor('black').text(name, right, top, { width: logoWidth, align: 'right' });
  paper.font('text').fontSize(9).fillColor('#444');
  for (const line of [...address.split('\n'), taxNumber === '' ? '' : `Tax number ${taxNumber}`].filter((one) => one.trim() !== ''))
    paper.text(line, right, paper.y, { width: logoWidth, align: 'right' });
  const below = paper.y;
  paper
    .font('bold')
    .fontSize(20)
    .fillColor('black')
    .text(title, margin, margin, { width: right - margin - 20 });
  paper.y = Math.max(paper.y, below) + 18;
  paper.x = margin;
}

/** Words across the page; nothing where there are none. */
export function wordsOn(paper: PDFKit.PDFDocument, text: string): void {
  if (text.trim() === '') return;
  paper.font('text').fontSize(10).fillColor('black').text(text, margin, paper.y, { width: 496 });
  paper.moveDown(0.8);
}

/** The business's own words on a kind of paper: above its lines and below them. */
export async function paperWordsOf({ tx: { db } }: Act, kind: PaperKind): Promise<{ opening: string; closing: string }> {
  const [own] = await db.select({ opening: paperWords.opening, closing: paperWords.closing }).from(paperWords).where(eq(paperWords.kind, kind));
  return own ?? { opening: '', closing: '' };
}
