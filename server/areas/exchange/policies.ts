import { byName, lower, type Current } from '@larder/core/formats/rows';
import { json, type Importer } from './importer';
import { binsMeant, itemsMeant, missing, missingBin, sitesMeant } from './references';

/** Default bin, reorder point and order-up-to level of an item at a site. */
export const policies: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const [items, sites, places] = [
      await itemsMeant(
        act,
        rows.map((row) => row.sku ?? ''),
      ),
      await sitesMeant(act),
      await binsMeant(act),
    ];
    const unkept = new Set((await act.tx.rows<{ sku: string }>(`SELECT lower(sku) AS sku FROM item WHERE kind <> 'stocked'`)).map(({ sku }) => sku));
    const there = byName(
      await act.tx.rows<Current & { siteId: string }>(
        `SELECT i.sku, y.site_id::text AS "siteId", coalesce(p.code, '') AS bin, coalesce(trim_scale(y.reorder_point)::text, '') AS "reorderPoint", coalesce(trim_scale(y.order_up_to)::text, '') AS "orderUpTo" FROM item_policy y JOIN item i ON i.id = y.item_id LEFT JOIN place p ON p.id = y.bin_id WHERE i.id = ANY($1)`,
        [[...items.values()]],
      ),
      (row) => `${row.sku ?? ''}/${row.siteId}`,
    );
    return {
      current: (row) => {
        const found = there.get(`${lower(row.sku)}/${sites.get(lower(row.site)) ?? ''}`);
        return found && { ...found, site: row.site ?? '', sku: row.sku ?? '' };
      },
      faults: (row) => [
        ...missing(items, row.sku, 'item'),
        ...(row.reorderPoint && unkept.has(lower(row.sku)) ? [`${row.sku ?? ''} is not kept in stock: it has no reorder point.`] : []),
        ...missing(sites, row.site, 'site'),
        ...missingBin(places, sites.get(lower(row.site)), row.bin, row.site),
        ...((row.reorderPoint ?? '') === ''
          ? (row.orderUpTo ?? '') === ''
            ? []
            : ['Give the reorder point too.']
          : Number(row.orderUpTo || 0) > Number(row.reorderPoint)
            ? []
            : ['Order up to more than the reorder point.']),
      ],
    };
  },
  async write(act, checked, fields) {
    const columns: Record<string, string> = { bin: 'bin_id', reorderPoint: 'reorder_point', orderUpTo: 'order_up_to' };
    const set = Object.entries(columns)
      .filter(([field]) => fields.includes(field))
      .map(([, column]) => `${column} = excluded.${column}`);
    await act.tx.rows(
      `INSERT INTO item_policy (item_id, site_id, bin_id, reorder_point, order_up_to)
       SELECT i.id, s.id, (SELECT id FROM place WHERE kind = 'bin' AND site_id = s.id AND lower(code) = lower(x.r->>'bin')), nullif(x.r->>'reorderPoint', '')::numeric, nullif(x.r->>'orderUpTo', '')::numeric
       FROM jsonb_array_elements($1::jsonb) x(r) JOIN item i ON lower(i.sku) = lower(x.r->>'sku') JOIN site s ON lower(s.name) = lower(x.r->>'site') OR lower(s.code) = lower(x.r->>'site')
       ON CONFLICT (item_id, site_id) DO UPDATE SET ${set.length > 0 ? set.join(', ') : 'site_id = excluded.site_id'}`,
      [json(checked)],
    );
  },
};
