import { gs1Text } from '@larder/core/codes/gs1';
import { gtinFault } from '@larder/core/codes/gtin';
import { codeFor } from '@larder/core/labels/codeFor';
import type { Label } from '@larder/core/labels/layout';
import { ownSheet, sheets, type Sheet } from '@larder/core/labels/sheets';
import type * as contract from '@larder/contract/printing';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { printer } from '../../standins/printer';
import { labelsPdf, labelsSvg } from './paper';

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
  const rows = await tx.rows<{ sku: string; name: string; code: string }>(
    `SELECT i.sku, i.name, coalesce((SELECT b.code FROM barcode b WHERE b.item_id = i.id AND b.unit_id IS NULL ORDER BY b.position LIMIT 1), i.sku) AS code
     FROM item i LEFT JOIN unnest($1::int[]) WITH ORDINALITY x(id, at) ON x.id = i.id WHERE x.id IS NOT NULL OR (i.category_id = $2 AND i.retired_at IS NULL) ORDER BY x.at, lower(i.sku)`,
    [form.items, form.itemsOfCategory],
  );
  return rows.map(({ sku, name, code }) => ({ title: name, detail: code === sku ? '' : sku, code, ...codeFor(form.symbology, code, 'code128') }));
}

async function binLabels({ tx }: Act, form: contract.LabelForm): Promise<Label[]> {
  const rows = await tx.rows<{ code: string; site: string; zone: string }>(
    `SELECT p.code, s.name AS site, p.zone FROM place p JOIN site s ON s.id = p.site_id LEFT JOIN unnest($1::int[]) WITH ORDINALITY x(id, at) ON x.id = p.id
     WHERE p.kind = 'bin' AND (x.id IS NOT NULL OR (p.site_id = $2 AND p.retired_at IS NULL AND NOT p.unplaced)) ORDER BY x.at, p.walk, p.code`,
    [form.bins, form.binsOfSite],
  );
  return rows.map(({ code, site, zone }) => ({
    title: code,
    detail: [site, zone].filter((part) => part !== '').join(', '),
    code: '',
    ...codeFor(form.symbology, code, 'code128'),
  }));
}

/** A lot's label says item, lot and use-by in one GS1 code, when the item has a GTIN; a serial's its serial. */
async function lotLabels({ tx }: Act, form: contract.LabelForm): Promise<Label[]> {
  const rows = await tx.rows<{ kind: string; code: string; useBy: string | null; tag: string | null; sku: string; name: string; gtin: string | null }>(
    `SELECT l.kind, l.code, l.use_by AS "useBy", l.tag, i.sku, i.name, (SELECT b.code FROM barcode b WHERE b.item_id = i.id AND b.code ~ '^(\\d{8}|\\d{12,14})$' ORDER BY b.position LIMIT 1) AS gtin
     FROM lot l JOIN item i ON i.id = l.item_id JOIN unnest($1::int[]) WITH ORDINALITY x(id, at) ON x.id = l.id ORDER BY x.at`,
    [form.lots],
  );
  return rows.map(({ kind, code, useBy, tag, sku, name, gtin }) => {
    const detail = [sku, useBy === null ? '' : `use by ${useBy}`, tag ?? ''].filter((part) => part !== '').join(', ');
    const said =
      gtin !== null && gtinFault(gtin) === null
        ? gs1Text({ gtin, ...(kind === 'serial' ? { serial: code } : { lot: code, ...(useBy === null ? {} : { useBy }) }) })
        : null;
    const whole = (form.symbology === 'best' || form.symbology === 'gs1datamatrix') && said !== null;
    return { title: name, detail, code, ...(whole ? { symbology: 'gs1datamatrix' as const, payload: said } : codeFor(form.symbology, code, 'qr')) };
  });
}

export const prints = ({ tx }: Act): Promise<ResponseOf<typeof contract.listPrints>['rows']> =>
  tx.rows('SELECT j.id, j.at, p.name AS person, j.title, j.pages FROM print_job j JOIN person p ON p.id = j.person_id ORDER BY j.id DESC LIMIT 50');

export async function printFile({ tx }: Act, id: number): Promise<{ type: string; name: string; bytes: Uint8Array }> {
  const [row] = await tx.rows<{ title: string; pdf: Buffer }>('SELECT title, pdf FROM print_job WHERE id = $1', [id]);
  if (!row) throw new Refusal(404, 'not-found', 'Nothing was printed under this number.');
  return { type: 'application/pdf', name: `labels-${id}.pdf`, bytes: row.pdf };
}
