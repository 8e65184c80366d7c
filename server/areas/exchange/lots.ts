import { byName, lower, type Current, type Row } from '@larder/core/exchange/rows';
import { eq, isNotNull, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { lock } from '../../ledger/lock';
import { flagPastUse } from '../../ledger/pastUse';
import { ownAttributes, ownFaults, writeOwn } from './attributes';
import { recordAll, type Importer } from './importer';
import { itemsMeant, missing } from './references';
import { among, updateRows } from '../../db/given';
import { item, lot } from '../../db/schema/index';

interface KnownLot extends Current {
  id: string;
  kind: string;
}

const keyOf = (row: Row): string => `${lower(row.sku)}/${lower(row.code)}`;

const orEmpty = (column: PgColumn) => sql<string>`coalesce(${column}::text, '')`;

async function lotsThere({ tx }: Pick<Act, 'tx'>, itemIds: readonly number[]): Promise<Map<string, KnownLot>> {
  const rows = await tx.db
    .select({
      id: sql<string>`${lot.id}::text`,
      sku: item.sku,
      code: lot.code,
      kind: lot.kind,
      useBy: orEmpty(lot.useBy),
      tag: orEmpty(lot.tag),
      condition: lot.condition,
      boughtOn: orEmpty(lot.boughtOn),
      warrantyUntil: orEmpty(lot.warrantyUntil),
    })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .where(among(lot.itemId, itemIds));
  return byName(rows, (row) => `${row.sku}/${row.code}`);
}

/** A lot's own columns, by field: what a row writes into them. */
const columns: Record<string, (row: Row) => Partial<typeof lot.$inferInsert>> = {
  useBy: (row) => ({ useBy: row.useBy || null }),
  tag: (row) => ({ tag: row.tag || null }),
  condition: (row) => ({ condition: row.condition ?? '' }),
  boughtOn: (row) => ({ boughtOn: row.boughtOn || null }),
  warrantyUntil: (row) => ({ warrantyUntil: row.warrantyUntil || null }),
};

/** Facts of lots and serial units that are there; new ones come in with goods, never by themselves. */
export const lots: Importer = {
  right: 'items.edit',
  async prepare(act, rows, fields) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const there = await lotsThere(act, [...items.values()]);
    const own = await ownAttributes(act, 'unit', fields, new Map([...there.values()].map((one) => [Number(one.id), one])));
    const tagged = await act.tx.db
      .select({ tag: sql<string>`${lot.tag}`, id: sql<string>`${lot.id}::text` })
      .from(lot)
      .where(isNotNull(lot.tag));
    const tags = byName(tagged, ({ tag }) => tag);
    const given = new Set<string>();
    return {
      current: (row) => there.get(keyOf(row)),
      faults: (row) => {
        const found = there.get(keyOf(row));
        const other = row.tag ? tags.get(lower(row.tag)) : undefined;
        const twice = row.tag !== undefined && row.tag !== '' && given.has(lower(row.tag));
        given.add(lower(row.tag));
        const ofSerials = fields.some((field) => ['tag', 'condition', 'boughtOn', 'warrantyUntil'].includes(field) && (row[field] ?? '') !== '');
        return [
          ...missing(items, row.sku, 'item'),
          ...(items.has(lower(row.sku)) && !found
            ? [`${row.sku ?? ''} has no lot or serial “${row.code ?? ''}”. It comes in with a receipt or as opening stock.`]
            : []),
          ...(found?.kind === 'lot' && ofSerials ? ['A lot has no tag, condition, purchase or warranty of its own.'] : []),
          ...(found?.kind === 'serial' && row.useBy ? ['A serial has no use-by day.'] : []),
          ...(other && found && other.id !== found.id ? [`${row.tag ?? ''} is the tag of another unit already.`] : []),
          ...(twice ? [`${row.tag ?? ''} is on another row already.`] : []),
          ...ownFaults(own, row),
        ];
      },
    };
  },
  async write(act, checked, fields) {
    const items = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    await lock.pools(act, [...items.values()]);
    const there = await lotsThere(act, [...items.values()]);
    const idOf = (row: Row) => Number(there.get(keyOf(row))?.id);
    const set = Object.entries(columns).flatMap(([field, write]) => (fields.includes(field) ? [write] : []));
    const ids = checked.map(({ row }) => idOf(row));
    // A tag may go from one unit to another: those that change are let go of first.
    if (fields.includes('tag')) await act.tx.db.update(lot).set({ tag: null }).where(among(lot.id, ids));
    await updateRows(
      act.tx,
      lot,
      checked.map(({ row }) => ({ id: idOf(row), ...set.reduce((all, write) => ({ ...all, ...write(row) }), {}) })),
      { version: sql`${lot.version} + 1` },
    );
    await writeOwn(act, 'unit', checked, fields, idOf);
    if (fields.includes('useBy')) for (const itemId of [...items.values()].sort((a, b) => a - b)) await flagPastUse(act, itemId);
    await recordAll(act, 'lot', checked, idOf);
  },
};
