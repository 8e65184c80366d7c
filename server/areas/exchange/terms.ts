import { breaksText, readBreaks, type PriceBreak } from '@larder/core/inbound/terms';
import { byName, lower, type Current } from '@larder/core/formats/rows';
import { recordAll, type Importer } from './importer';
import { itemsMeant, leadDaysSaid, missing } from './references';

/** Suppliers' codes, packs and prices. */
export const terms: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const known = byName(await act.tx.rows<{ name: string }>('SELECT name FROM party WHERE is_supplier'), ({ name }) => name);
    const rowsThere = await act.tx.rows<Omit<Current, 'breaks'> & { breaks: PriceBreak[] }>(
      `SELECT i.sku, p.name AS supplier, s.code, trim_scale(s.pack_size)::text AS "packSize", trim_scale(s.minimum)::text AS minimum, coalesce(trim_scale(s.price)::text, '') AS price, coalesce(s.lead_days::text, '') AS "leadDays", s.breaks FROM item_supplier s JOIN item i ON i.id = s.item_id JOIN party p ON p.id = s.supplier_id WHERE i.id = ANY($1)`,
      [[...items.values()]],
    );
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
    const columns: Record<string, string> = {
      code: 'code',
      packSize: 'pack_size',
      minimum: 'minimum',
      price: 'price',
      leadDays: 'lead_days',
      breaks: 'breaks',
    };
    const set = Object.entries(columns)
      .filter(([field]) => fields.includes(field))
      .map(([, column]) => `${column} = excluded.${column}`);
    await act.tx.rows(
      `INSERT INTO item_supplier (item_id, supplier_id, position, code, pack_size, minimum, price, lead_days, breaks)
       SELECT i.id, p.id, coalesce((SELECT max(position) FROM item_supplier WHERE item_id = i.id), 0) + 1, coalesce(x.r->>'code', ''), coalesce(nullif(x.r->>'packSize', '')::numeric, 1), coalesce(nullif(x.r->>'minimum', '')::numeric, 0), nullif(x.r->>'price', '')::numeric, nullif(x.r->>'leadDays', '')::int, coalesce(x.r->'breaks', '[]')
       FROM jsonb_array_elements($1::jsonb) x(r) JOIN item i ON lower(i.sku) = lower(x.r->>'sku') JOIN party p ON lower(p.name) = lower(x.r->>'supplier')
       ON CONFLICT (item_id, supplier_id) DO UPDATE SET ${[...set, 'position = item_supplier.position'].join(', ')}`,
      [JSON.stringify(checked.map(({ row }) => ({ ...row, breaks: readBreaks(row.breaks ?? '') ?? [] })))],
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
