import { gtinFault } from '@larder/core/codes/gtin';
import { itemKinds, kindFaults, type ItemKind } from '@larder/core/catalog/kind';
import { costMethodNames, type CostMethodName } from '@larder/core/costing/method';
import { and, eq, gt, isNotNull, isNull, sql } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { ownAttributes, ownFaults, writeOwn } from './attributes';
import { itemsMeant, itemsWritten } from './references';
import { byName, lower, type CheckedRow, type Current, type Row } from '@larder/core/exchange/rows';
import { buyingUnits, writeBuyingUnits } from './itemUnits';
import { recordAll, type Importer } from './importer';
import { lock } from '../../ledger/lock';
import { standsOn } from '../../ledger/accounts';
import { moveInventory, ownFacts, refreshFindable, stillInUse } from '../catalog/service';
import { among, given, insertFrom, insertRows, positive, updateRows } from '../../db/given';
import { balance, barcode, category, documentLine, item, itemPolicy, itemSupplier, party, costPool, taxCode, unit } from '../../db/schema/index';

/** How tracking may be named in a file. Maps, since what a cell says may be the name of anything. */
const trackingWords = new Map(Object.entries({ none: 'none', '': 'none', lot: 'lot', lots: 'lot', serial: 'serial', serials: 'serial' }));

/** What a file's names of categories, units and taxes mean, in small letters. */
interface Meant {
  categories: ReadonlyMap<string, number>;
  units: ReadonlyMap<string, number>;
  taxes: ReadonlyMap<string, number>;
}

type ItemColumns = Omit<typeof item.$inferInsert, 'sku'>;

/** The item's own columns, by field: what a row writes into them. An empty cell is as if nothing was said. */
const columns = {
  name: (row: Row) => ({ name: row.name ?? '' }),
  kind: (row: Row) => ({ kind: itemKinds.find((one) => one === row.kind) ?? 'stocked' }),
  description: (row: Row) => ({ description: row.description ?? '' }),
  brand: (row: Row) => ({ brand: row.brand ?? '' }),
  maker: (row: Row) => ({ maker: row.maker ?? '' }),
  notes: (row: Row) => ({ notes: row.notes ?? '' }),
  category: (row: Row, { categories }: Meant) => ({ categoryId: categories.get(lower(row.category)) ?? null }),
  unit: (row: Row, { units }: Meant) => ({ unitId: units.get(lower(row.unit || 'each')) ?? 0 }),
  tax: (row: Row, { taxes }: Meant) => ({ taxCodeId: taxes.get(lower(row.tax)) ?? null }),
  salesPrice: (row: Row) => ({ salesPrice: row.salesPrice || null }),
  purchasePrice: (row: Row) => ({ purchasePrice: row.purchasePrice || null }),
  tracking: (row: Row) => ({ tracking: trackings.find((one) => one === row.tracking) ?? 'none' }),
  costMethod: (row: Row) => ({ costMethod: costMethodNames.find((one) => one === row.costMethod) ?? 'average' }),
  weightKg: (row: Row) => ({ weightKg: row.weightKg || null }),
  lengthCm: (row: Row) => ({ lengthCm: row.lengthCm || null }),
  widthCm: (row: Row) => ({ widthCm: row.widthCm || null }),
  heightCm: (row: Row) => ({ heightCm: row.heightCm || null }),
  shelfLife: (row: Row) => ({ shelfLifeDays: row.shelfLife ? Number(row.shelfLife) : null }),
  madeToOrder: (row: Row) => ({ madeToOrder: row.madeToOrder === 'yes' }),
  inspected: (row: Row) => ({ inspected: row.inspected === 'yes' }),
  returnable: (row: Row) => ({ returnable: (row.returnable ?? 'yes') === 'yes' }),
  retired: (row: Row, _meant: Meant, now: Date) => ({ retiredAt: row.retired === 'yes' ? now.toISOString() : null }),
} satisfies Record<string, (row: Row, meant: Meant, now: Date) => Partial<ItemColumns>>;
type Field = keyof typeof columns;
const fieldNames = Object.keys(columns) as Field[];
const trackings = ['none', 'lot', 'serial'] as const;

const filled = (used: readonly Field[], row: Row, meant: Meant, now: Date): Partial<ItemColumns> =>
  used.reduce<Partial<ItemColumns>>((all, field) => ({ ...all, ...columns[field](row, meant, now) }), {});

async function meantBy({ db }: Act['tx']): Promise<Meant> {
  const units = await db.select({ id: unit.id, code: unit.code, name: unit.name }).from(unit);
  const taxes = await db.select({ id: taxCode.id, code: taxCode.code, name: taxCode.name }).from(taxCode);
  const both = (rows: readonly { id: number; code: string; name: string }[]) =>
    new Map(rows.map(({ id, name }) => [lower(name), id] as const).concat(rows.map(({ id, code }) => [lower(code), id] as const)));
  const categories = await db.select({ id: category.id, name: category.name }).from(category);
  return { categories: new Map(categories.map(({ id, name }) => [lower(name), id])), units: both(units), taxes: both(taxes) };
}

interface KnownItem extends Current {
  id: string;
}

/** How what an item is may be named in a file. */
const kindWords: ReadonlyMap<string, ItemKind> = new Map(
  Object.entries<ItemKind>({
    '': 'stocked',
    stocked: 'stocked',
    stock: 'stocked',
    goods: 'stocked',
    'not-stocked': 'not-stocked',
    'not kept in stock': 'not-stocked',
    'not stocked': 'not-stocked',
    service: 'service',
    charge: 'charge',
  }),
);

function kindErrors(row: Row, was: KnownItem | undefined, used: ReadonlySet<string>): string[] {
  if (row.kind === undefined && row.tracking === undefined && row.costMethod === undefined) return [];
  const kind = itemKinds.find((one) => one === (row.kind ?? was?.kind ?? 'stocked'));
  if (kind === undefined) return [`Kind is stocked, not-stocked, service or charge, not “${row.kind ?? ''}”.`];
  if (was && kind !== was.kind && used.has(was.id)) return [`${row.sku ?? ''} was ordered, sold or moved already; what it is cannot change.`];
  const costMethod = row.costMethod ?? was?.costMethod ?? 'average';
  return kindFaults({ kind, tracking: row.tracking ?? was?.tracking ?? 'none', costMethod, reordered: 0 }).map(({ sentence }) => sentence);
}

/** How cost may be named in a file. */
const costWords: ReadonlyMap<string, CostMethodName> = new Map(
  Object.entries<CostMethodName>({
    '': 'average',
    average: 'average',
    'moving average': 'average',
    fifo: 'fifo',
    'first in, first out': 'fifo',
    specific: 'specific',
    'each serial its own': 'specific',
  }),
);

function costFaults(row: Row, was: KnownItem | undefined, moved: ReadonlySet<string>): string[] {
  if (row.costMethod === undefined) return [];
  if (![...costWords.values()].some((one) => one === row.costMethod)) return [`Cost is kept by average, fifo or specific, not “${row.costMethod}”.`];
  if (was && row.costMethod !== was.costMethod && moved.has(was.id))
    return [`Stock of ${row.sku ?? ''} was moved already; how its cost is kept cannot change.`];
  const tracking = row.tracking ?? was?.tracking;
  return row.costMethod === 'specific' && tracking !== 'serial' ? ['Only an item tracked by serial can keep the cost of each unit.'] : [];
}

export const items: Importer = {
  right: 'items.edit',
  async prepare({ tx }, rows, fields) {
    const { db } = tx;
    const skus = rows.map((row) => lower(row.sku));
    const rowsThere = await itemsWritten(db, among(sql`lower(${item.sku})`, skus));
    const there = byName(
      rowsThere.map((row): KnownItem => ({ ...row, id: String(row.id) })),
      ({ sku }) => sku ?? '',
    );
    const known = await db.select({ code: unit.code, name: unit.name }).from(unit);
    const units = new Map([...byName(known, ({ name }) => name), ...byName(known, ({ code }) => code)]);
    const taxCodes = await db.select({ code: taxCode.code, name: taxCode.name }).from(taxCode);
    const taxes = byName(taxCodes, ({ code }) => code);
    const taxNames = byName(taxCodes, ({ name }) => name);
    const suppliers = byName(await db.select({ name: party.name }).from(party).where(eq(party.isSupplier, true)), ({ name }) => name);
    const categories = byName(await db.select({ name: category.name }).from(category), ({ name }) => name);
    const codes = rows.flatMap((row) => codesOf(row).map(lower));
    const codesThere = await db
      .select({ code: barcode.code, sku: item.sku })
      .from(barcode)
      .innerJoin(item, eq(item.id, barcode.itemId))
      .where(among(sql`lower(${barcode.code})`, codes));
    const barcodes = byName(codesThere, ({ code }) => code);
    const stocked = await idsOf(
      db
        .selectDistinct({ id: balance.itemId })
        .from(balance)
        .where(and(balance.owned, positive(balance.quantity))),
    );
    const everMoved = db.select({ id: costPool.itemId }).from(costPool).where(gt(costPool.lastSeq, 0));
    const moved = fields.includes('unit') || fields.includes('costMethod') ? await idsOf(everMoved) : new Set<string>();
    const used = fields.includes('kind')
      ? await idsOf(
          union(
            everMoved,
            db.select({ id: documentLine.itemId }).from(documentLine),
            db.select({ id: itemPolicy.itemId }).from(itemPolicy).where(isNotNull(itemPolicy.reorderPoint)),
          ),
        )
      : new Set<string>();
    const inUse = new Map(
      (fields.includes('retired')
        ? await stillInUse(
            { tx },
            [...there.values()].map(({ id }) => Number(id)),
          )
        : []
      ).map(({ id, sentence }) => [id, sentence]),
    );
    const inFile = new Map<string, string>();
    const bought = await buyingUnits(
      { tx },
      [...there.values()].map(({ id }) => Number(id)),
    );
    const attributes = await ownAttributes({ tx }, 'item', fields, new Map([...there.values()].map((one) => [Number(one.id), one])));
    return {
      current: (row) => there.get(lower(row.sku)),
      spelled: (row) => ({
        ...(row.tracking === undefined ? {} : { tracking: trackingWords.get(lower(row.tracking)) ?? row.tracking }),
        ...(row.kind === undefined ? {} : { kind: kindWords.get(lower(row.kind)) ?? row.kind }),
        ...(row.costMethod === undefined ? {} : { costMethod: costWords.get(lower(row.costMethod)) ?? row.costMethod }),
        ...(row.category === undefined ? {} : { category: categories.get(lower(row.category))?.name ?? row.category }),
        ...(row.unit === undefined ? {} : { unit: units.get(lower(row.unit))?.code ?? row.unit }),
        ...(row.tax === undefined ? {} : { tax: taxNames.get(lower(row.tax))?.code ?? taxes.get(lower(row.tax))?.code ?? row.tax }),
        ...(row.supplier === undefined ? {} : { supplier: suppliers.get(lower(row.supplier))?.name ?? row.supplier }),
        ...bought.spelled(row),
        ...(row.barcode === undefined ? {} : { barcode: codesOf(row).join('; ') }),
      }),
      faults: (row) => {
        const was = there.get(lower(row.sku));
        const faults = ownFaults(attributes, row);
        if (row.unit && !units.has(lower(row.unit))) faults.push(`There is no unit “${row.unit}”.`);
        if (row.shelfLife && !(Number.isInteger(Number(row.shelfLife)) && Number(row.shelfLife) >= 0 && Number(row.shelfLife) <= 36_500))
          faults.push('Shelf life is whole days from 0 to 36,500.');
        if (row.tax && !taxes.has(lower(row.tax))) faults.push(`There is no tax code “${row.tax}”.`);
        if (row.supplier && !suppliers.has(lower(row.supplier))) faults.push(`There is no supplier “${row.supplier}”. Bring suppliers in first.`);
        if (row.tracking && ![...trackingWords.values()].includes(row.tracking)) faults.push(`Tracking is none, lot or serial, not “${row.tracking}”.`);
        if (was && row.tracking && row.tracking !== was.tracking && stocked.has(was.id))
          faults.push(`Tracking cannot change while stock of ${row.sku ?? ''} is there.`);
        if (was && row.unit && row.unit !== was.unit && moved.has(was.id))
          faults.push(`Stock of ${row.sku ?? ''} was moved in ${was.unit ?? ''}; its unit cannot change.`);
        const use = row.retired === 'yes' && was?.retired !== 'yes' ? inUse.get(Number(was?.id)) : undefined;
        if (use !== undefined) faults.push(`${use} Retire it on its own page, which asks first.`);
        faults.push(...kindErrors(row, was, used), ...costFaults(row, was, moved), ...bought.faults(row, was));
        // What the item has already was asked about when it was given.
        const own = new Set(codesOf(was ?? {}).map(lower));
        for (const code of codesOf(row).filter((one) => !own.has(lower(one)))) {
          const other = barcodes.get(lower(code))?.sku ?? inFile.get(lower(code));
          if (other !== undefined && lower(other) !== lower(row.sku)) faults.push(`${code} is a barcode of ${other} already.`);
          const fault = gtinFault(code);
          if (fault) faults.push(fault);
          inFile.set(lower(code), row.sku ?? '');
        }
        return faults;
      },
    };
  },
  async write(act, checked, fields) {
    const { tx, now } = act;
    await addCategories(
      act,
      checked.map(({ row }) => row.category ?? ''),
    );
    const meant = await meantBy(tx);
    const used = fieldNames.filter((field) => fields.includes(field));
    const fresh = checked.filter(({ status }) => status === 'new');
    const first: readonly Field[] = [...new Set<Field>([...used, 'name', 'unit'])];
    await insertRows(
      tx,
      item,
      fresh.map(({ row }) => ({ name: '', unitId: 0, ...filled(first, row, meant, now), sku: row.sku ?? '' })),
    );
    const changed = checked.filter(({ status }) => status === 'changed');
    const before = fields.includes('category')
      ? [
          ...(
            await itemsMeant(
              act,
              changed.map(({ row }) => row.sku ?? ''),
            )
          ).values(),
        ]
      : [];
    await lock.pools(act, before);
    const stoodOn = await standsOn(act, before);
    const ids = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    const idOf = (row: Row) => ids.get(lower(row.sku)) ?? 0;
    // What is retired stays retired since then.
    const retiredAt = fields.includes('retired')
      ? { retiredAt: sql`case when source."retiredAt" is not null then coalesce(${item.retiredAt}, source."retiredAt") end` }
      : {};
    if (used.length > 0)
      await updateRows(
        tx,
        item,
        changed.map(({ row }) => ({ id: idOf(row), ...filled(used, row, meant, now) })),
        { version: sql`${item.version} + 1`, ...retiredAt },
      );
    if (fields.includes('barcode')) await writeBarcodes(act, checked, ids);
    if (fields.includes('supplier')) await writeSupplier(act, checked, fields);
    await writeBuyingUnits(act, checked, ids, fields);
    await writeOwn(act, 'item', checked, fields, idOf);
    await refreshFindable(act, [...ids.values()]);
    await ownFacts(act, [...ids.values()]);
    await moveInventory(act, stoodOn);
    await recordAll(act, 'item', changed, idOf);
  },
};

const codesOf = (row: Row): string[] => (row.barcode ?? '').split(/[;,\s]+/).filter((code) => code !== '');

/** The ids that a query tells, as texts. */
const idsOf = async (query: PromiseLike<{ id: number }[]>): Promise<Set<string>> => new Set((await query).map(({ id }) => String(id)));

/** Adds the categories that are not there yet. */
async function addCategories({ tx }: Act, names: readonly string[]): Promise<void> {
  const there = new Set((await tx.db.select({ name: category.name }).from(category)).map(({ name }) => lower(name)));
  const fresh = new Map(names.filter((name) => name !== '' && !there.has(lower(name))).map((name) => [lower(name), name]));
  await insertRows(
    tx,
    category,
    [...fresh.values()].map((name) => ({ name })),
  );
}

async function writeBarcodes({ tx }: Act, checked: readonly CheckedRow[], ids: ReadonlyMap<string, number>): Promise<void> {
  const idOf = (row: Row) => ids.get(lower(row.sku)) ?? 0;
  const itemIds = checked.map(({ row }) => idOf(row));
  await tx.db.delete(barcode).where(and(isNull(barcode.unitId), among(barcode.itemId, itemIds)));
  await insertRows(
    tx,
    barcode,
    checked.flatMap(({ row }) => codesOf(row).map((code, index) => ({ code, itemId: idOf(row), position: index + 1 }))),
  );
}

/** The first supplier of an item, with its code and pack. */
async function writeSupplier({ tx }: Act, checked: readonly CheckedRow[], fields: readonly string[]): Promise<void> {
  const { db } = tx;
  const { code, packSize } = itemSupplier;
  const { rows, row } = given(
    'supplied',
    { sku: item.sku, supplier: party.name, code, packSize },
    checked.map((one) => ({
      sku: one.row.sku ?? '',
      supplier: one.row.supplier ?? '',
      code: one.row.supplierCode ?? '',
      packSize: one.row.packSize || '1',
    })),
  );
  const first = db
    .select({ position: sql`min(${itemSupplier.position})` })
    .from(itemSupplier)
    .where(eq(itemSupplier.itemId, item.id));
  const written = db
    .select({ itemId: item.id, supplierId: party.id, position: sql`coalesce((${first}), 2) - 1`, code: row.code, packSize: row.packSize })
    .from(rows)
    .innerJoin(item, sql`lower(${item.sku}) = lower(${row.sku})`)
    .innerJoin(party, sql`lower(${party.name}) = lower(${row.supplier})`);
  const set = [
    ...(fields.includes('supplierCode') ? [sql`code = excluded.code`] : []),
    ...(fields.includes('packSize') ? [sql`pack_size = excluded.pack_size`] : []),
    sql`position = ${itemSupplier.position}`,
  ];
  await db.execute(insertFrom(itemSupplier, written, sql`on conflict (item_id, supplier_id) do update set ${sql.join(set, sql`, `)}`));
}
