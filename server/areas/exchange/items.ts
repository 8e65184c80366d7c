import { gtinFault } from '@larder/core/codes/gtin';
import { itemKinds, kindFaults, type ItemKind } from '@larder/core/catalog/kind';
import type { CostMethodName } from '@larder/core/costing/method';
import type { Act } from '../../act';
import { ownAttributes, ownFaults, writeOwn } from './attributes';
import { itemColumns, itemsMeant, itemTables } from './references';
import { byName, lower, type CheckedRow, type Current, type Row } from '@larder/core/formats/rows';
import { buyingUnits, writeBuyingUnits } from './itemUnits';
import { json, recordAll, type Importer } from './importer';
import { lock } from '../../ledger/lock';
import { standsOn } from '../../ledger/accounts';
import { moveInventory, ownFacts, refreshFindable, stillInUse } from '../catalog/service';

/** How tracking may be named in a file. Maps, since what a cell says may be the name of anything. */
const trackingWords = new Map(Object.entries({ none: 'none', '': 'none', lot: 'lot', lots: 'lot', serial: 'serial', serials: 'serial' }));

/** Columns of the item's own row, by field: how the cell is written into it. */
const columns: Record<string, string> = {
  name: `x.r->>'name'`,
  kind: `coalesce(nullif(x.r->>'kind', ''), 'stocked')`,
  description: `coalesce(x.r->>'description', '')`,
  brand: `coalesce(x.r->>'brand', '')`,
  maker: `coalesce(x.r->>'maker', '')`,
  notes: `coalesce(x.r->>'notes', '')`,
  category: `(SELECT id FROM category WHERE lower(name) = lower(x.r->>'category'))`,
  unit: `(SELECT id FROM unit WHERE lower(code) = lower(coalesce(nullif(x.r->>'unit', ''), 'each')) OR lower(name) = lower(x.r->>'unit') LIMIT 1)`,
  tax: `(SELECT id FROM tax_code WHERE lower(code) = lower(x.r->>'tax') OR lower(name) = lower(x.r->>'tax') LIMIT 1)`,
  salesPrice: `nullif(x.r->>'salesPrice', '')::numeric`,
  purchasePrice: `nullif(x.r->>'purchasePrice', '')::numeric`,
  tracking: `coalesce(nullif(x.r->>'tracking', ''), 'none')`,
  costMethod: `coalesce(nullif(x.r->>'costMethod', ''), 'average')`,
  weightKg: `nullif(x.r->>'weightKg', '')::numeric`,
  lengthCm: `nullif(x.r->>'lengthCm', '')::numeric`,
  widthCm: `nullif(x.r->>'widthCm', '')::numeric`,
  heightCm: `nullif(x.r->>'heightCm', '')::numeric`,
  returnable: `coalesce(x.r->>'returnable', 'yes') = 'yes'`,
  retired: `CASE WHEN x.r->>'retired' = 'yes' THEN $2::timestamptz END`,
};
const names: Record<string, string> = {
  category: 'category_id',
  unit: 'unit_id',
  tax: 'tax_code_id',
  salesPrice: 'sales_price',
  purchasePrice: 'purchase_price',
  costMethod: 'cost_method',
  weightKg: 'weight_kg',
  lengthCm: 'length_cm',
  widthCm: 'width_cm',
  heightCm: 'height_cm',
  retired: 'retired_at',
};

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
    const there = byName(
      await tx.rows<KnownItem>(`SELECT i.id::text AS id, ${itemColumns} FROM ${itemTables} WHERE lower(i.sku) = ANY($1)`, [rows.map((row) => lower(row.sku))]),
      ({ sku }) => sku ?? '',
    );
    const units = byName(await tx.rows<{ code: string }>('SELECT code FROM unit UNION SELECT name FROM unit'), ({ code }) => code);
    const taxes = byName(await tx.rows<{ code: string }>('SELECT code FROM tax_code'), ({ code }) => code);
    const taxNames = byName(await tx.rows<{ code: string; name: string }>('SELECT code, name FROM tax_code'), ({ name }) => name);
    const suppliers = byName(await tx.rows<{ name: string }>('SELECT name FROM party WHERE is_supplier'), ({ name }) => name);
    const categories = byName(await tx.rows<{ name: string }>('SELECT name FROM category'), ({ name }) => name);
    const barcodes = byName(
      await tx.rows<{ code: string; sku: string }>('SELECT b.code, i.sku FROM barcode b JOIN item i ON i.id = b.item_id WHERE lower(b.code) = ANY($1)', [
        rows.flatMap((row) => codesOf(row).map(lower)),
      ]),
      ({ code }) => code,
    );
    const stocked = new Set(
      (await tx.rows<{ id: string }>(`SELECT DISTINCT item_id::text AS id FROM balance WHERE owned AND quantity > 0`)).map(({ id }) => id),
    );
    const moved =
      fields.includes('unit') || fields.includes('costMethod')
        ? new Set((await tx.rows<{ id: string }>('SELECT item_id::text AS id FROM pool WHERE last_seq > 0')).map(({ id }) => id))
        : new Set<string>();
    const used = fields.includes('kind')
      ? new Set(
          (
            await tx.rows<{ id: string }>(
              'SELECT item_id::text AS id FROM pool WHERE last_seq > 0 UNION SELECT item_id::text FROM purchase_line UNION SELECT item_id::text FROM sales_line UNION SELECT item_id::text FROM item_policy WHERE reorder_point IS NOT NULL',
            )
          ).map(({ id }) => id),
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
    await tx.rows(
      `INSERT INTO category (name) SELECT DISTINCT ON (lower(n)) n FROM unnest($1::text[]) n WHERE n <> '' AND NOT EXISTS (SELECT 1 FROM category WHERE lower(name) = lower(n))`,
      [checked.map(({ row }) => row.category ?? '')],
    );
    const used = Object.keys(columns).filter((field) => fields.includes(field));
    const nameOf = (field: string) => names[field] ?? field;
    const fresh = checked.filter(({ status }) => status === 'new');
    if (fresh.length > 0) {
      const filled = [...new Set([...used, 'name', 'unit'])];
      await tx.rows(
        `INSERT INTO item (sku, ${filled.map(nameOf).join(', ')}) SELECT x.r->>'sku', ${filled.map((field) => columns[field]).join(', ')} FROM jsonb_array_elements($1::jsonb) x(r) WHERE $2::timestamptz IS NOT NULL`,
        [json(fresh), now.toISOString()],
      );
    }
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
    if (changed.length > 0 && used.length > 0)
      await tx.rows(
        `UPDATE item i SET ${used.map((field) => `${nameOf(field)} = ${field === 'retired' ? `CASE WHEN x.r->>'retired' = 'yes' THEN coalesce(i.retired_at, $2) END` : columns[field]}`).join(', ')}, version = i.version + 1 FROM jsonb_array_elements($1::jsonb) x(r) WHERE lower(i.sku) = lower(x.r->>'sku') AND $2::timestamptz IS NOT NULL`,
        [json(changed), now.toISOString()],
      );
    const ids = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    if (fields.includes('barcode')) await writeBarcodes(act, checked, ids);
    if (fields.includes('supplier')) await writeSupplier(act, checked, fields);
    await writeBuyingUnits(act, checked, ids, fields);
    await writeOwn(act, 'item', checked, fields, (row) => ids.get(lower(row.sku)) ?? 0);
    await refreshFindable(act, [...ids.values()]);
    await ownFacts(act, [...ids.values()]);
    await moveInventory(act, stoodOn);
    await recordAll(act, 'item', changed, (row) => ids.get(lower(row.sku)) ?? 0);
  },
};

const codesOf = (row: Row): string[] => (row.barcode ?? '').split(/[;,\s]+/).filter((code) => code !== '');

async function writeBarcodes({ tx }: Act, checked: readonly CheckedRow[], ids: ReadonlyMap<string, number>): Promise<void> {
  const rows = checked.flatMap(({ row }) => codesOf(row).map((code, index) => ({ code, itemId: ids.get(lower(row.sku)), position: index + 1 })));
  await tx.rows('DELETE FROM barcode WHERE unit_id IS NULL AND item_id = ANY($1)', [checked.map(({ row }) => ids.get(lower(row.sku)))]);
  await tx.rows('INSERT INTO barcode (code, item_id, position) SELECT * FROM unnest($1::text[], $2::int[], $3::int[])', [
    rows.map((r) => r.code),
    rows.map((r) => r.itemId),
    rows.map((r) => r.position),
  ]);
}

/** The first supplier of an item, with its code and pack. */
async function writeSupplier({ tx }: Act, checked: readonly CheckedRow[], fields: readonly string[]): Promise<void> {
  const set = [fields.includes('supplierCode') ? 'code = excluded.code' : '', fields.includes('packSize') ? 'pack_size = excluded.pack_size' : ''].filter(
    (part) => part !== '',
  );
  await tx.rows(
    `INSERT INTO item_supplier (item_id, supplier_id, position, code, pack_size)
     SELECT i.id, p.id, coalesce((SELECT min(position) FROM item_supplier WHERE item_id = i.id), 2) - 1, coalesce(x.r->>'supplierCode', ''), coalesce(nullif(x.r->>'packSize', '')::numeric, 1)
     FROM jsonb_array_elements($1::jsonb) x(r) JOIN item i ON lower(i.sku) = lower(x.r->>'sku') JOIN party p ON lower(p.name) = lower(x.r->>'supplier')
     ON CONFLICT (item_id, supplier_id) DO UPDATE SET ${[...set, 'position = item_supplier.position'].join(', ')}`,
    [json(checked)],
  );
}
