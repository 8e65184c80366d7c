import type * as contract from '@larder/contract/shipping';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import PDFDocument from 'pdfkit';
import type { Act } from '../../act';
import { company, party, salesOrder } from '../../db/schema/index';
import { barcodeOn } from '../../documents/barcodes';
import { registerFonts } from '../../documents/fonts';
import { letterheadOf, letterPaper, letterTop, paperWordsOf, wordsOn, type Letterhead } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, type PaperColumn } from '../../documents/paper';
import { printer } from '../../standins/printer';
import { getPacking } from './packing';

type Packing = ResponseOf<typeof contract.getPacking>;
type Parcel = Packing['parcels'][number];

/** What stands on the papers of an order's parcels beside the parcels themselves. */
async function headOf({ tx: { db } }: Act, orderId: number) {
  const [row] = await db
    .select({
      company: company.name,
      number: salesOrder.number,
      reference: salesOrder.reference,
      customer: party.name,
      address: sql<string>`coalesce(nullif(${salesOrder.shipTo}, ''), ${party.address}, '')`,
    })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(company, sql`true`)
    .where(eq(salesOrder.id, orderId));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  return row;
}
type Head = Awaited<ReturnType<typeof headOf>>;

/** What the business puts on its papers. */
interface Own {
  letterhead: Letterhead;
  opening: string;
  closing: string;
}

/** Prints a label or a packing slip for each of these parcels. */
export async function printParcels(
  act: Act,
  orderId: number,
  { parcelIds, paper }: BodyOf<typeof contract.printParcels>,
): Promise<ResponseOf<typeof contract.printParcels>> {
  const packing = await getPacking(act, orderId);
  const chosen = packing.parcels.filter(({ id }) => parcelIds.includes(id));
  if (chosen.length === 0) throw new Refusal(422, 'nothing-to-print', 'Choose parcels of this order.');
  const head = await headOf(act, orderId);
  const title = `${paper === 'label' ? 'Parcel labels' : 'Packing slips'} of ${head.number}`;
  const own: Own = { letterhead: await letterheadOf(act), ...(await paperWordsOf(act, paper === 'label' ? 'parcel label' : 'packing slip')) };
  const pdf = paper === 'label' ? await labels(title, head, packing, chosen, own) : await slips(head, packing, chosen, own);
  return { id: await printer.print(act, { title, pages: chosen.length, pdf }), pages: chosen.length };
}

const kilograms = ({ weight, reckoned }: Parcel): string => {
  const known = weight ?? reckoned;
  return known === null ? '' : `${known} kg`;
};
/** "2 of 3": which of those that go together it is. */
const placeOf = ({ parcels }: Packing, { id, siteId, shipmentId }: Parcel): string => {
  const together = parcels.filter((one) => one.siteId === siteId && one.shipmentId === shipmentId);
  return `${together.findIndex((one) => one.id === id) + 1} of ${together.length}`;
};
const shipmentOf = ({ shipments }: Packing, { shipmentId }: Parcel) => shipments.find(({ id }) => id === shipmentId);
const addressLines = ({ customer, address }: Head): string[] => {
  const lines = address.split('\n');
  return lines[0]?.trim() === customer.trim() ? lines : [customer, ...lines];
};

const millimetre = 72 / 25.4;

/** A label of 100 by 150 mm for each parcel: to whom, by whom, with the business's picture and words, which of how many, and its number and tracking number as codes. */
async function labels(title: string, head: Head, packing: Packing, parcels: readonly Parcel[], { letterhead, opening, closing }: Own): Promise<Buffer> {
  const paper = new PDFDocument({ autoFirstPage: false, info: { Title: title, Author: head.company, Producer: 'Tidy Larder' } });
  registerFonts(paper);
  const mm = (value: number) => value * millimetre;
  const text = (words: string, y: number, size: number, font: 'text' | 'bold' | 'mono' = 'text', height = 8) =>
    paper
      .font(font)
      .fontSize(size)
      .fillColor('black')
      .text(words, mm(6), mm(y), { width: mm(88), height: mm(height), ellipsis: true });
  const code = (payload: string, y: number, height: number) => barcodeOn(paper, { kind: 'code', symbology: 'code128', payload, x: 6, y, width: 88, height });
  const line = (y: number) => paper.moveTo(mm(6), mm(y)).lineTo(mm(94), mm(y)).lineWidth(0.8).stroke('black');
  for (const parcel of parcels) {
    const sent = shipmentOf(packing, parcel);
    paper.addPage({ size: [mm(100), mm(150)], margin: 0 });
    if (letterhead.logo) paper.image(letterhead.logo, mm(70), mm(5), { fit: [mm(24), mm(11)], align: 'right' });
    text(`From ${head.company}`, 6, 8, 'text', 4);
    text([sent?.carrier, sent?.service].filter(Boolean).join(', ') || 'Packed for', 10, 11, 'bold');
    line(17);
    text(addressLines({ ...head, address: sent?.address || head.address }).join('\n'), 20, 13, 'bold', 32);
    text(opening, 53, 8);
    line(62);
    text(`Parcel ${placeOf(packing, parcel)}   ${kilograms(parcel)}`, 65, 12);
    text(`${head.number}${head.reference === '' ? '' : `   your order ${head.reference}`}`, 72, 9);
    line(79);
    code(parcel.number, 84, 18);
    text(parcel.number, 103, 10, 'mono');
    if (parcel.tracking !== '') {
      code(parcel.tracking, 112, 22);
      text(parcel.tracking, 135, 12, 'mono');
    }
    text(closing, 141, 8);
  }
  return bytesOf(paper);
}

const columns = [
  { name: 'Item', x: 50, width: 110, align: 'left' },
  { name: 'Name', x: 164, width: 210, align: 'left' },
  { name: 'Lot or serial', x: 378, width: 90, align: 'left' },
  { name: 'Quantity', x: 472, width: 74, align: 'right' },
] satisfies PaperColumn[];

/** A packing slip on A4 for each parcel: what is in it, lot by lot. */
async function slips(head: Head, packing: Packing, parcels: readonly Parcel[], { letterhead, opening, closing }: Own): Promise<Buffer> {
  const titleOf = (parcel: Parcel | undefined) => `Packing slip ${parcel?.number ?? ''}`;
  const paper = letterPaper(titleOf(parcels[0]), letterhead);
  for (const [index, parcel] of parcels.entries()) {
    if (index > 0) letterTop(paper.addPage(), titleOf(parcel), letterhead);
    const sent = shipmentOf(packing, parcel);
    const top = paper.y;
    facts(paper, margin, top, 'To', addressLines(head));
    facts(paper, 230, top, 'Order', [head.number, head.reference === '' ? '' : `your order ${head.reference}`]);
    facts(paper, 410, top, 'Parcel', [placeOf(packing, parcel), kilograms(parcel), [sent?.carrier, sent?.service].filter(Boolean).join(', '), parcel.tracking]);
    paper.y = Math.max(paper.y, top + 84) + 14;
    wordsOn(paper, opening);
    table(
      paper,
      columns,
      parcel.contents.map(({ sku, name, lot, quantity, unit }) => [sku, name, lot ?? '', `${quantity} ${unit}`]),
    );
    paper.moveDown(0.6);
    wordsOn(paper, closing);
  }
  return bytesOf(paper);
}
