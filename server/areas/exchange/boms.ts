import { toBase } from '@larder/core/catalog/units';
import { decimal } from '@larder/core/decimal';
import { lower, type CheckedRow, type Row } from '@larder/core/exchange/rows';
import { circleOf, wayInWords } from '@larder/core/making/bill';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { oneAfterTheOther } from '../../db/functions';
import { among, insertRows } from '../../db/given';
import { bom, bomPart, item } from '../../db/schema/index';
import { plain } from '../../db/text';
import { lineFacts, type ItemFacts } from '../../documents/lines';
import { contentsOf } from '../making/queries';
import { recordAll, type Importer } from './importer';
import { itemsMeant, missing, partsWritten } from './references';

const most = 1000;
const versionOf = (row: Row): string => row.version || '1';
const bomKey = (row: Row): string => `${lower(row.sku)}/${versionOf(row)}`;
const keyOf = (row: Row): string => `${bomKey(row)}/${lower(row.part)}`;

interface Placed {
  bomId: number;
  position: number;
  row: Row;
}

/** The versions of items that are not retired, and their parts, as a file writes them. */
async function there({ tx: { db } }: Act, itemIds: readonly number[]) {
  const [heads, parts] = await Promise.all([
    db
      .select({
        id: bom.id,
        sku: item.sku,
        version: sql<string>`${bom.number}::text`,
        startsOn: bom.startsOn,
        makes: plain(bom.makes),
        isRetired: sql<boolean>`${bom.retiredAt} is not null`,
      })
      .from(bom)
      .innerJoin(item, eq(item.id, bom.itemId))
      .where(among(bom.itemId, itemIds)),
    partsWritten(db, and(among(bom.itemId, itemIds), isNull(bom.retiredAt))),
  ]);
  return {
    heads: new Map(heads.map((head) => [bomKey(head as unknown as Row), head])),
    parts: new Map(parts.map(({ bomId, position, ...row }) => [keyOf(row), { bomId, position, row } satisfies Placed])),
  };
}

/** Of items, those that are goods: what is done for somebody, or charged, is no part of anything. */
async function goodsAmong({ tx: { db } }: Act, itemIds: readonly number[]): Promise<Set<number>> {
  const rows = await db
    .select({ id: item.id })
    .from(item)
    .where(and(among(item.id, itemIds), among(item.kind, ['stocked', 'not-stocked'])));
  return new Set(rows.map(({ id }) => id));
}

/** What goes into what is made: the parts that the file names, of versions that are there or are made by it. Others stay as they are, and so do work and by-products. */
export const boms: Importer = {
  right: 'making.write',
  async prepare(act, rows) {
    await oneAfterTheOther(act.tx, 'bills of materials');
    const items = await itemsMeant(
      act,
      rows.flatMap((row) => [row.sku ?? '', row.part ?? '']),
    );
    const idOf = (sku: string | undefined) => items.get(lower(sku)) ?? 0;
    const [{ items: facts }, { heads, parts }, contents] = await Promise.all([
      lineFacts(act, [...items.values()]),
      there(act, [...items.values()]),
      contentsOf(act, null),
    ]);
    const goods = await goodsAmong(act, [...items.values()]);
    const skus = new Map([...items].map(([sku, id]) => [id, facts.get(id)?.sku ?? sku]));
    for (const row of rows) if (idOf(row.sku) && idOf(row.part)) contents.set(idOf(row.sku), [...(contents.get(idOf(row.sku)) ?? []), idOf(row.part)]);
    const said = headsSaid(rows);
    const counts = new Map<string, number>();
    for (const key of new Set([...parts.keys(), ...rows.map(keyOf)])) {
      const of = key.slice(0, key.lastIndexOf('/'));
      counts.set(of, (counts.get(of) ?? 0) + 1);
    }
    const circle = (row: Row): string[] => {
      const way = circleOf(idOf(row.sku), [idOf(row.part)], contents);
      return way && idOf(row.sku) ? [wayInWords(way.map((id) => skus.get(id) ?? '…'))] : [];
    };
    return {
      current: (row) => parts.get(keyOf(row))?.row,
      spelled: (row) => {
        const head = heads.get(bomKey(row));
        const made = facts.get(idOf(row.sku));
        return {
          sku: made?.sku ?? row.sku ?? '',
          part: facts.get(idOf(row.part))?.sku ?? row.part ?? '',
          version: versionOf(row),
          startsOn: row.startsOn || head?.startsOn || act.today,
          makes: row.makes || String(head?.makes ?? '1'),
          unit: row.unit || parts.get(keyOf(row))?.row.unit || (facts.get(idOf(row.part))?.unit ?? ''),
          ...(row.waste === '' ? { waste: '0' } : {}),
        };
      },
      faults: (row) => [
        ...missing(items, row.sku, 'item'),
        ...missing(items, row.part, 'item'),
        ...headFaults(row, facts.get(idOf(row.sku)), heads.get(bomKey(row))?.isRetired ?? false),
        ...partFaults(row, facts.get(idOf(row.part)), goods.has(idOf(row.part))),
        ...(said.has(bomKey(row)) ? ['Rows of this version say different days, or different numbers that it is for.'] : []),
        ...((counts.get(bomKey(row)) ?? 0) > most ? ['At most 1,000 parts.'] : []),
        ...circle(row),
      ],
    };
  },
  async write(act, checked) {
    const { db } = act.tx;
    const rows = checked.map(({ row }) => row);
    const items = await itemsMeant(
      act,
      rows.flatMap((row) => [row.sku ?? '', row.part ?? '']),
    );
    const { items: facts } = await lineFacts(act, [...items.values()]);
    const was = await there(act, [...items.values()]);
    const heads = new Map(rows.map((row) => [bomKey(row), row]));
    for (const [key, row] of heads) {
      const head = was.heads.get(key);
      const values = { startsOn: row.startsOn ?? act.today, makes: row.makes ?? '1' };
      if (head)
        await db
          .update(bom)
          .set({ ...values, version: sql`${bom.version} + 1` })
          .where(eq(bom.id, head.id));
      else
        await db.insert(bom).values({
          ...values,
          itemId: items.get(lower(row.sku)) as number,
          number: Number(versionOf(row)),
          createdAt: act.now.toISOString(),
          createdBy: act.by.id,
        });
    }
    const is = await there(act, [...items.values()]);
    const idOf = (row: Row) => is.heads.get(bomKey(row))?.id as number;
    const last = new Map<number, number>();
    for (const { bomId, position } of was.parts.values()) last.set(bomId, Math.max(last.get(bomId) ?? 0, position));
    for (const row of rows) {
      const had = was.parts.get(keyOf(row));
      if (had) await db.delete(bomPart).where(and(eq(bomPart.bomId, had.bomId), eq(bomPart.position, had.position)));
    }
    await insertRows(
      act.tx,
      bomPart,
      rows.map((row) => {
        const had = was.parts.get(keyOf(row));
        const bomId = idOf(row);
        const position = had?.position ?? (last.get(bomId) ?? 0) + 1;
        if (!had) last.set(bomId, position);
        const of = facts.get(items.get(lower(row.part)) as number) as ItemFacts;
        const other = of.units.find((one) => lower(one.unit) === lower(row.unit));
        return {
          bomId,
          position,
          itemId: of.id,
          quantity: row.quantity as string,
          unitId: other?.unitId ?? null,
          baseQuantity: (other ? toBase(decimal(row.quantity as string), other) : decimal(row.quantity as string)).toFixed(),
          waste: row.waste ?? had?.row.waste ?? '0',
          note: row.note ?? had?.row.note ?? '',
        };
      }),
    );
    await recordAll(
      act,
      'bill of materials',
      checked.map((one): CheckedRow => ({ ...one, changes: [{ field: 'part', was: inWords(was.parts.get(keyOf(one.row))?.row), is: inWords(one.row) }] })),
      idOf,
    );
  },
};

const inWords = (row: Row | undefined): string => (row === undefined ? '' : `${row.quantity ?? ''} ${row.unit ?? ''} ${row.part ?? ''}`);

/** Versions of which rows of the file say different things. */
function headsSaid(rows: readonly Row[]): Set<string> {
  const first = new Map<string, Row>();
  const different = new Set<string>();
  for (const row of rows) {
    const key = bomKey(row);
    const one = first.get(key) ?? row;
    first.set(key, one);
    if ((one.startsOn ?? '') !== (row.startsOn ?? '') || (one.makes ?? '') !== (row.makes ?? '')) different.add(key);
  }
  return different;
}

function headFaults(row: Row, made: ItemFacts | undefined, isRetired: boolean): string[] {
  const faults: string[] = [];
  if (!/^[1-9]\d{0,5}$/.test(versionOf(row))) faults.push('Versions are counted 1, 2, 3.');
  if (isRetired) faults.push(`Version ${versionOf(row)} of ${row.sku ?? ''} is retired.`);
  if (made?.stocked === false) faults.push(`${made.sku} is not kept in stock, so nothing of it can be made.`);
  const makes = row.makes ?? '';
  if (makes !== '' && (!decimal(makes).gt(0) || (made && !decimal(makes).mod(made.step).isZero())))
    faults.push('For so many: whole steps of what is made, more than zero.');
  return faults;
}

function partFaults(row: Row, of: ItemFacts | undefined, isGoods: boolean): string[] {
  if (!of) return [];
  const faults: string[] = [];
  if (!isGoods) faults.push(`${of.sku} is no goods.`);
  const other = of.units.find((one) => lower(one.unit) === lower(row.unit));
  if (row.unit && !other && lower(row.unit) !== lower(of.unit)) faults.push(`${of.sku} is not kept in ${row.unit}.`);
  const quantity = decimal(row.quantity ?? 0);
  if (!quantity.gt(0)) faults.push('The quantity must be more than zero.');
  else if ((other ? toBase(quantity, other) : quantity).decimalPlaces() > 4) faults.push('That is divided too finely for its base unit.');
  if (row.waste && Number(row.waste) > 100) faults.push('Waste is at most 100 % on top.');
  return faults;
}
