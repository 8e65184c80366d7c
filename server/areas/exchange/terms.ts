import { breaksText, readBreaks } from '@larder/core/inbound/terms';
import { byName, lower, type Current } from '@larder/core/exchange/rows';
import { eq, sql } from 'drizzle-orm';
import { recordAll, type Importer } from './importer';
import { itemsMeant, leadDaysSaid, missing, written } from './references';
import { among, given as givenRows, insertFrom } from '../../db/given';
import { item, itemSupplier, party } from '../../db/schema/index';
import { refreshFindable } from '../catalog/service';

/** Suppliers' codes, packs and prices. */
export const terms: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const { db } = act.tx;
    const known = byName(await db.select({ name: party.name }).from(party).where(eq(party.isSupplier, true)), ({ name }) => name);
    const rowsThere = await db
      .select({
        sku: item.sku,
        supplier: party.name,
        code: itemSupplier.code,
        packSize: written(itemSupplier.packSize),
        minimum: written(itemSupplier.minimum),
        price: written(itemSupplier.price),
        leadDays: sql<string>`coalesce(${itemSupplier.leadDays}::text, '')`,
        breaks: itemSupplier.breaks,
      })
      .from(itemSupplier)
      .innerJoin(item, eq(item.id, itemSupplier.itemId))
      .innerJoin(party, eq(party.id, itemSupplier.supplierId))
      .where(among(item.id, [...items.values()]));
    const there = byName(
      rowsThere.map((row): Current => ({ ...row, breaks: breaksText(row.breaks) })),
      (row) => `${row.supplier ?? ''}/${row.sku ?? ''}`,
    );
    return {
      current: (row) => there.get(`${lower(row.supplier)}/${lower(row.sku)}`),
      spelled: (row) => {
        const breaks = row.breaks === undefined ? null : readBreaks(row.breaks);
        return { supplier: known.get(lower(row.supplier))?.name ?? row.supplier ?? '', ...(breaks ? { breaks: breaksText(breaks) } : {}) };
      },
      faults: (row) => [
        ...missing(items, row.sku, 'item'),
        ...missing(known, row.supplier, 'supplier'),
        ...(row.breaks !== undefined && readBreaks(row.breaks) === null ? ['Write price breaks like 100: 0.95; 500: 0.90.'] : []),
        ...leadDaysSaid(row.leadDays),
        ...(row.packSize === '0' ? ['Pack of is more than zero.'] : []),
      ],
    };
  },
  async write(act, checked, fields) {
    const { db } = act.tx;
    const { code, packSize, minimum, price, leadDays, breaks } = itemSupplier;
    const { rows, row } = givenRows(
      'term',
      { sku: item.sku, supplier: party.name, code, packSize, minimum, price, leadDays, breaks },
      checked.map((one) => ({
        sku: one.row.sku ?? '',
        supplier: one.row.supplier ?? '',
        code: one.row.code ?? '',
        packSize: one.row.packSize || '1',
        minimum: one.row.minimum || '0',
        price: one.row.price || null,
        leadDays: one.row.leadDays ? Number(one.row.leadDays) : null,
        breaks: readBreaks(one.row.breaks ?? '') ?? [],
      })),
    );
    const last = db
      .select({ position: sql`max(${itemSupplier.position})` })
      .from(itemSupplier)
      .where(eq(itemSupplier.itemId, item.id));
    const { sku, supplier, ...given } = row;
    const newTerms = db
      .select({ itemId: item.id, supplierId: party.id, position: sql`coalesce((${last}), 0) + 1`, ...given })
      .from(rows)
      .innerJoin(item, sql`lower(${item.sku}) = lower(${sku})`)
      .innerJoin(party, sql`lower(${party.name}) = lower(${supplier})`);
    const set = Object.entries({ code, packSize, minimum, price, leadDays, breaks })
      .filter(([field]) => fields.includes(field))
      .map(([, { name }]) => sql`${sql.identifier(name)} = excluded.${sql.identifier(name)}`);
    const kept = sql`position = ${itemSupplier.position}`;
    await db.execute(insertFrom(itemSupplier, newTerms, sql`on conflict (item_id, supplier_id) do update set ${sql.join([...set, kept], sql`, `)}`));
    const ids = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    await refreshFindable(act, [...ids.values()]);
    await recordAll(
      act,
      'item',
      checked.filter(({ status }) => status === 'changed'),
      (row) => ids.get(lower(row.sku)) ?? 0,
    );
  },
};
