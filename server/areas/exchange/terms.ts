import { byName, lower, type Current } from '@larder/core/formats/rows';
import { json, recordAll, type Importer } from './importer';
import { itemsMeant, missing } from './references';

/** Suppliers' codes, packs and prices. */
export const terms: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const known = byName(await act.tx.rows<{ name: string }>('SELECT name FROM party WHERE is_supplier'), ({ name }) => name);
    const there = byName(
      await act.tx.rows<Current>(
        `SELECT i.sku, p.name AS supplier, s.code, trim_scale(s.pack_size)::text AS "packSize", trim_scale(s.minimum)::text AS minimum, coalesce(trim_scale(s.price)::text, '') AS price FROM item_supplier s JOIN item i ON i.id = s.item_id JOIN party p ON p.id = s.supplier_id WHERE i.id = ANY($1)`,
        [[...items.values()]],
      ),
      (row) => `${row.supplier ?? ''}/${row.sku ?? ''}`,
    );
    return {
      current: (row) => there.get(`${lower(row.supplier)}/${lower(row.sku)}`),
      spelled: (row) => ({ supplier: known.get(lower(row.supplier))?.name ?? row.supplier ?? '' }),
      faults: (row) => [
        ...missing(items, row.sku, 'item'),
        ...missing(known, row.supplier, 'supplier'),
        ...(row.packSize === '0' ? ['Pack of is more than zero.'] : []),
      ],
    };
  },
  async write(act, checked, fields) {
    const columns: Record<string, string> = { code: 'code', packSize: 'pack_size', minimum: 'minimum', price: 'price' };
    const set = Object.entries(columns)
      .filter(([field]) => fields.includes(field))
      .map(([, column]) => `${column} = excluded.${column}`);
    await act.tx.rows(
      `INSERT INTO item_supplier (item_id, supplier_id, position, code, pack_size, minimum, price)
       SELECT i.id, p.id, coalesce((SELECT max(position) FROM item_supplier WHERE item_id = i.id), 0) + 1, coalesce(x.r->>'code', ''), coalesce(nullif(x.r->>'packSize', '')::numeric, 1), coalesce(nullif(x.r->>'minimum', '')::numeric, 0), nullif(x.r->>'price', '')::numeric
       FROM jsonb_array_elements($1::jsonb) x(r) JOIN item i ON lower(i.sku) = lower(x.r->>'sku') JOIN party p ON lower(p.name) = lower(x.r->>'supplier')
       ON CONFLICT (item_id, supplier_id) DO UPDATE SET ${[...set, 'position = item_supplier.position'].join(', ')}`,
      [json(checked)],
    );
    const ids = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    await act.tx.rows('SELECT refresh_findable($1)', [[...ids.values()]]);
    await recordAll(
      act,
      'item',
      checked.filter(({ status }) => status === 'changed'),
      (row) => ids.get(lower(row.sku)) ?? 0,
    );
  },
};
