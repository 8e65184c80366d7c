import { eq, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { company, logo } from '../db/schema/index';
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

/** A paper begun: what it is, large, on the left; the business on the right. Writing goes on below both. Lengths are points. */
export function letterPaper(title: string, { name, address, taxNumber, logo: picture }: Letterhead): PDFKit.PDFDocument {
  const paper = a4(title, name);
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
  paper.font('bold').fontSize(20).fillColor('black').text(title, margin, margin, { width: right - margin - 20 });
  paper.y = Math.max(paper.y, below) + 18;
  paper.x = margin;
  return paper;
}
