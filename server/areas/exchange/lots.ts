import { byName, lower, type Current, type Row } from '@larder/core/formats/rows';
import type { Act } from '../../act';
import { lock } from '../../ledger/lock';
import { flagPastUse } from '../../ledger/pastUse';
import { ownAttributes, ownFaults, writeOwn } from './attributes';
import { json, recordAll, type Importer } from './importer';
import { itemsMeant, missing } from './references';

interface KnownLot extends Current {
  id: string;
  kind: string;
}

const keyOf = (row: Row): string => `${lower(row.sku)}/${lower(row.code)}`;

const lotsThere = async ({ tx }: Pick<Act, 'tx'>, itemIds: readonly number[]): Promise<Map<string, KnownLot>> =>
  byName(
    await tx.rows<KnownLot>(
      `SELECT l.id::text AS id, i.sku, l.code, l.kind, coalesce(l.use_by::text, '') AS "useBy", coalesce(l.tag, '') AS tag, l.condition, coalesce(l.bought_on::text, '') AS "boughtOn", coalesce(l.warranty_until::text, '') AS "warrantyUntil"
       FROM lot l JOIN item i ON i.id = l.item_id WHERE l.item_id = ANY($1)`,
      [itemIds],
    ),
    (row) => `${row.sku ?? ''}/${row.code ?? ''}`,
  );

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
    const tags = byName(await act.tx.rows<{ tag: string; id: string }>('SELECT tag, id::text AS id FROM lot WHERE tag IS NOT NULL'), ({ tag }) => tag);
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
    const columns: Record<string, string> = {
      useBy: `use_by = nullif(x.r->>'useBy', '')::date`,
      tag: `tag = nullif(x.r->>'tag', '')`,
      condition: `condition = coalesce(x.r->>'condition', '')`,
      boughtOn: `bought_on = nullif(x.r->>'boughtOn', '')::date`,
      warrantyUntil: `warranty_until = nullif(x.r->>'warrantyUntil', '')::date`,
    };
    const set = Object.entries(columns).flatMap(([field, sql]) => (fields.includes(field) ? [sql] : []));
    // A tag may go from one unit to another: those that change are let go of first.
    if (fields.includes('tag')) await act.tx.rows('UPDATE lot SET tag = NULL WHERE id = ANY($1)', [checked.map(({ row }) => idOf(row))]);
    await act.tx.rows(
      `UPDATE lot l SET ${[...set, 'version = l.version + 1'].join(', ')} FROM jsonb_array_elements($1::jsonb) x(r) JOIN item i ON lower(i.sku) = lower(x.r->>'sku') WHERE l.item_id = i.id AND lower(l.code) = lower(x.r->>'code')`,
      [json(checked)],
    );
    await writeOwn(act, 'unit', checked, fields, idOf);
    if (fields.includes('useBy')) for (const itemId of [...items.values()].sort((a, b) => a - b)) await flagPastUse(act, itemId);
    await recordAll(act, 'lot', checked, idOf);
  },
};
