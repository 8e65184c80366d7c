import { gs1Text } from '@larder/core/codes/gs1';
import { gtinFault } from '@larder/core/codes/gtin';
import { codeFor } from '@larder/core/printing/codeFor';
import type { Label } from '@larder/core/printing/layout';
import { ownSheet, sheets, type Sheet } from '@larder/core/printing/sheets';
import type * as contract from '@larder/contract/printing';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, desc, eq, isNull, not, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { printer } from '../../standins/printer';
import { labelsPdf, labelsSvg } from './paper';
import { among, inOrderOf } from '../../db/given';
import { scalar } from '../../db/json';
import { barcode, item, lot, person, place, printJob, site as siteTable } from '../../db/schema/index';
import { lower } from '../../db/text';

const mostLabels = 5000;

export async function previewLabels(act: Act, form: contract.LabelForm): Promise<ResponseOf<typeof contract.previewLabels>> {
  const { sheet, labels } = await wanted(act, form);
  return { ...drawn(() => labelsSvg(sheet, labels, form.startAt)), labels: labels.length };
}

export async function printLabels(act: Act, form: contract.LabelForm): Promise<ResponseOf<typeof contract.printLabels>> {
  const { sheet, labels } = await wanted(act, form);
  drawn(() => labelsSvg(sheet, labels, form.startAt));
  const title = `${labels.length} ${labels.length === 1 ? 'label' : 'labels'}, ${sheet.name}`;
  const { pdf, pages } = await labelsPdf(sheet, labels, form.startAt, title, act.tell);
  return { id: await printer.print(act, { title, pages, pdf }), pages, labels: labels.length };
}

/** What an encoder refuses is told as something wrong with the choice of code. */
function drawn<T>(draw: () => T): T {
  try {
    return draw();
  } catch (error) {
    throw refuseField(
      422,
      'code-not-drawn',
      'symbology',
      `This kind of code cannot hold one of the codes: ${(error as Error).message.replace(/^bwip[^:]*: ?/i, '')}`,
    );
  }
}

async function wanted(act: Act, form: contract.LabelForm): Promise<{ sheet: Sheet; labels: Label[] }> {
  const sheet = form.sheet === 'own' && form.own ? ownSheet(form.own) : sheets.find(({ key }) => key === form.sheet);
  if (sheet === undefined) throw refuseField(422, 'no-such-sheet', 'sheet', 'Choose a sheet or roll.');
  if (typeof sheet === 'string') throw refuseField(422, 'sheet-does-not-fit', 'own', sheet);
  if (form.startAt > sheet.columns * sheet.rows) throw refuseField(422, 'no-such-place', 'startAt', `This sheet has ${sheet.columns * sheet.rows} labels.`);
  const each = [...(await itemLabels(act, form)), ...(await binLabels(act, form)), ...(await lotLabels(act, form))];
  if (each.length === 0) throw new Refusal(422, 'nothing-to-print', 'Choose what to print labels for.');
  if (each.length * form.copies > mostLabels) throw refuseField(422, 'too-many', 'copies', `That is more than ${mostLabels} labels at once.`);
  return { sheet, labels: each.flatMap((label) => Array.from({ length: form.copies }, () => label)) };
}

async function itemLabels({ tx }: Act, form: contract.LabelForm): Promise<Label[]> {
  const own = tx.db
    .select({ code: barcode.code })
    .from(barcode)
    .where(and(eq(barcode.itemId, item.id), isNull(barcode.unitId)))
    .orderBy(barcode.position)
    .limit(1);
  const ofCategory = form.itemsOfCategory === null ? undefined : and(eq(item.categoryId, form.itemsOfCategory), isNull(item.retiredAt));
  const rows = await tx.db
    .select({ sku: item.sku, name: item.name, code: sql<string>`coalesce((${own}), ${item.sku})` })
    .from(item)
    .where(or(among(item.id, form.items), ofCategory))
    .orderBy(inOrderOf(item.id, form.items), lower(item.sku));
  return rows.map(({ sku, name, code }) => ({ title: name, detail: code === sku ? '' : sku, code, ...codeFor(form.symbology, code, 'code128') }));
}

async function binLabels({ tx }: Act, form: contract.LabelForm): Promise<Label[]> {
  const ofSite = form.binsOfSite === null ? undefined : and(eq(place.siteId, form.binsOfSite), isNull(place.retiredAt), not(place.unplaced));
  const rows = await tx.db
    .select({ code: place.code, site: siteTable.name, zone: place.zone })
    .from(place)
    .innerJoin(siteTable, eq(siteTable.id, place.siteId))
    .where(and(eq(place.kind, 'bin'), or(among(place.id, form.bins), ofSite)))
    .orderBy(inOrderOf(place.id, form.bins), place.walk, place.code);
  return rows.map(({ code, site, zone }) => ({
    title: code,
    detail: [site, zone].filter((part) => part !== '').join(', '),
    code: '',
    ...codeFor(form.symbology, code, 'code128'),
  }));
}

/** A lot's label says item, lot and use-by in one GS1 code, when the item has a GTIN; a serial's its serial. */
async function lotLabels({ tx }: Act, form: contract.LabelForm): Promise<Label[]> {
  const gtin = tx.db
    .select({ code: barcode.code })
    .from(barcode)
    .where(and(eq(barcode.itemId, item.id), sql`${barcode.code} ~ '^(\\d{8}|\\d{12,14})$'`))
    .orderBy(barcode.position)
    .limit(1);
  const rows = await tx.db
    .select({ kind: lot.kind, code: lot.code, useBy: lot.useBy, tag: lot.tag, sku: item.sku, name: item.name, gtin: scalar(gtin) })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .where(among(lot.id, form.lots))
    .orderBy(inOrderOf(lot.id, form.lots));
  return rows.map(({ kind, code, useBy, tag, sku, name, gtin: known }) => {
    const detail = [sku, useBy === null ? '' : `use by ${useBy}`, tag ?? ''].filter((part) => part !== '').join(', ');
    const said =
      known !== null && gtinFault(known) === null
        ? gs1Text({ gtin: known, ...(kind === 'serial' ? { serial: code } : { lot: code, ...(useBy === null ? {} : { useBy }) }) })
        : null;
    const whole = (form.symbology === 'best' || form.symbology === 'gs1datamatrix') && said !== null;
    return { title: name, detail, code, ...(whole ? { symbology: 'gs1datamatrix' as const, payload: said } : codeFor(form.symbology, code, 'qr')) };
  });
}

export const prints = async ({ tx }: Act): Promise<ResponseOf<typeof contract.listPrints>['rows']> =>
  tx.db
    .select({ id: printJob.id, at: printJob.at, person: person.name, title: printJob.title, pages: printJob.pages })
    .from(printJob)
    .innerJoin(person, eq(person.id, printJob.personId))
    .orderBy(desc(printJob.id))
    .limit(50);

export async function printFile({ tx }: Act, id: number): Promise<{ type: string; name: string; bytes: Uint8Array }> {
  const [row] = await tx.db.select({ pdf: printJob.pdf }).from(printJob).where(eq(printJob.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'Nothing was printed under this number.');
  return { type: 'application/pdf', name: `labels-${id}.pdf`, bytes: row.pdf };
}
