import { proposedPattern, shortCode } from '@larder/core/catalog/family';
import type { Act } from '../../act';
import { createParty } from '../setup/service';
import { ownFacts } from '../catalog/service';
import { openStock } from '../stock/service';
import { recordAll } from './items';
import { byName, lower, type Checked, type Current, type Importer, type Row } from './importer';
import { binsMeant, itemsMeant, sitesMeant } from './references';

const json = (rows: readonly Checked[]): string => JSON.stringify(rows.map(({ row }) => row));

/** Suppliers or customers: the same party may be both. */
const parties = (as: 'supplier' | 'customer'): Importer => ({
  right: 'items.edit',
  async prepare({ tx }, rows) {
    const there = byName(
      await tx.rows<Current>(
        `SELECT name, email, address, lead_days::text AS "leadDays", CASE WHEN is_${as} THEN 'yes' ELSE 'no' END AS already FROM party WHERE lower(name) = ANY($1)`,
        [rows.map((row) => lower(row.name))],
      ),
      ({ name }) => name ?? '',
    );
    return {
      current: (row) => (there.get(lower(row.name))?.already === 'yes' ? there.get(lower(row.name)) : undefined),
      faults: (row) => [
        ...(row.leadDays && !/^\d{1,3}$/.test(row.leadDays) ? ['Days to deliver is a whole number up to 365.'] : []),
        ...(row.email && !/^\S+@\S+$/.test(row.email) ? [`“${row.email}” is no mail address.`] : []),
      ],
    };
  },
  async write(act, checked, fields) {
    const known = byName(
      await act.tx.rows<{ id: number; name: string }>('SELECT id, name FROM party WHERE lower(name) = ANY($1)', [checked.map(({ row }) => lower(row.name))]),
      ({ name }) => name,
    );
    for (const { row } of checked) {
      const there = known.get(lower(row.name));
      if (!there)
        await createParty(act, {
          name: row.name ?? '',
          isSupplier: as === 'supplier',
          isCustomer: as === 'customer',
          email: row.email ?? '',
          address: row.address ?? '',
          leadDays: Number(row.leadDays || 7),
        });
      else {
        const set = [
          fields.includes('email') ? 'email = $2' : '',
          fields.includes('address') ? 'address = $3' : '',
          fields.includes('leadDays') ? 'lead_days = $4' : '',
        ].filter((part) => part !== '');
        await act.tx.rows(
          `UPDATE party SET ${[...set, `is_${as} = true`, 'version = version + 1'].join(', ')} WHERE id = $1 AND $2::text IS NOT NULL AND $3::text IS NOT NULL AND $4::int IS NOT NULL`,
          [there.id, row.email ?? '', row.address ?? '', Number(row.leadDays || 7)],
        );
        await act.tx.rows(
          `INSERT INTO place (kind, party_id, code, owned) SELECT $2, $1, $3, false WHERE NOT EXISTS (SELECT 1 FROM place WHERE kind = $2 AND party_id = $1)`,
          [there.id, as, there.name],
        );
      }
    }
    await recordAll(
      act,
      'party',
      checked.filter(({ status }) => status === 'changed'),
      (row) => known.get(lower(row.name))?.id ?? 0,
    );
  },
});
export const suppliers = parties('supplier');
export const customers = parties('customer');

const missing = (map: ReadonlyMap<string, unknown>, text: string | undefined, what: string): string[] =>
  text && !map.has(lower(text)) ? [`There is no ${what} “${text}”.`] : [];

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

export const bins: Importer = {
  right: 'setup.edit',
  async prepare(act) {
    const sites = await sitesMeant(act);
    const there = byName(
      await act.tx.rows<Current & { siteId: string }>(
        `SELECT site_id::text AS "siteId", code, zone, walk::text AS walk, CASE WHEN sellable THEN 'sale' ELSE 'quarantine' END AS use FROM place WHERE kind = 'bin'`,
      ),
      (row) => `${row.siteId}/${row.code ?? ''}`,
    );
    const current = (row: Row): Current | undefined => {
      const found = there.get(`${sites.get(lower(row.site)) ?? ''}/${lower(row.code)}`);
      return found && { ...found, site: row.site ?? '' };
    };
    return {
      current,
      spelled: (row): Row => (row.use === undefined ? {} : { use: lower(row.use) === '' ? 'sale' : lower(row.use) }),
      faults: (row) => [
        ...missing(sites, row.site, 'site'),
        ...(row.use !== undefined && !['sale', 'quarantine'].includes(row.use) ? [`For is sale or quarantine, not “${row.use}”.`] : []),
        ...(row.use !== undefined && current(row) && current(row)?.use !== row.use ? ['What a bin is for is changed under Setup, Bins.'] : []),
        ...(row.walk && !/^\d{1,6}$/.test(row.walk) ? ['Walking order is a whole number.'] : []),
      ],
    };
  },
  async write(act, checked, fields) {
    const set = [
      fields.includes('zone') ? `zone = coalesce(x.r->>'zone', '')` : '',
      fields.includes('walk') ? `walk = coalesce(nullif(x.r->>'walk', '')::int, p.walk)` : '',
    ].filter((part) => part !== '');
    const fresh = checked.filter(({ status }) => status === 'new');
    await act.tx.rows(
      `INSERT INTO place (kind, site_id, code, owned, sellable, zone, walk) SELECT 'bin', s.id, x.r->>'code', true, coalesce(x.r->>'use', 'sale') = 'sale', coalesce(x.r->>'zone', ''), coalesce(nullif(x.r->>'walk', '')::int, 1000)
       FROM jsonb_array_elements($1::jsonb) x(r) JOIN site s ON lower(s.name) = lower(x.r->>'site') OR lower(s.code) = lower(x.r->>'site')`,
      [json(fresh)],
    );
    if (set.length > 0)
      await act.tx.rows(
        `UPDATE place p SET ${set.join(', ')} FROM jsonb_array_elements($1::jsonb) x(r) JOIN site s ON lower(s.name) = lower(x.r->>'site') OR lower(s.code) = lower(x.r->>'site') WHERE p.kind = 'bin' AND p.site_id = s.id AND lower(p.code) = lower(x.r->>'code')`,
        [json(checked.filter(({ status }) => status === 'changed'))],
      );
  },
};

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
        ...missing(sites, row.site, 'site'),
        ...(row.bin && !places.has(`${sites.get(lower(row.site)) ?? ''}/${lower(row.bin)}`) ? [`There is no bin “${row.bin}” at ${row.site ?? ''}.`] : []),
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

/** Opening stock posts through the ledger; lots and serials come with it. Only what is new: the same file twice would bring it in twice. */
export const opening: Importer = {
  right: 'stock.correct',
  onlyNew: true,
  async prepare(act, rows) {
    const [items, sites, places] = [
      await itemsMeant(
        act,
        rows.map((row) => row.sku ?? ''),
      ),
      await sitesMeant(act),
      await binsMeant(act),
    ];
    const facts = new Map(
      (
        await act.tx.rows<{ id: number; tracking: string; step: string; opened: boolean }>(
          `SELECT i.id, i.tracking, trim_scale(u.step)::text AS step, EXISTS (SELECT 1 FROM movement_line l JOIN movement m ON m.id = l.movement_id WHERE l.item_id = i.id AND m.kind = 'opening' AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id)) AS opened FROM item i JOIN unit u ON u.id = i.unit_id WHERE i.id = ANY($1)`,
          [[...items.values()]],
        )
      ).map((row) => [row.id, row]),
    );
    const factsOf = (row: Row) => facts.get(items.get(lower(row.sku)) ?? 0);
    return {
      current: (row) => (factsOf(row)?.opened ? {} : undefined),
      faults: (row) => {
        const found = factsOf(row);
        return [
          ...missing(items, row.sku, 'item'),
          ...missing(sites, row.site, 'site'),
          ...(row.bin && !places.has(`${sites.get(lower(row.site)) ?? ''}/${lower(row.bin)}`) ? [`There is no bin “${row.bin}” at ${row.site ?? ''}.`] : []),
          ...(found?.tracking === 'lot' && !row.lot ? [`${row.sku ?? ''} needs its lot.`] : []),
          ...(found?.tracking === 'serial' && !row.serial ? [`${row.sku ?? ''} needs its serial, one row for each.`] : []),
          ...(found?.tracking === 'serial' && row.quantity !== '1' ? ['A serial is one unit.'] : []),
          ...(found?.tracking === 'none' && (row.lot || row.serial) ? [`${row.sku ?? ''} is kept without lots or serials.`] : []),
          ...(row.quantity === '0' ? ['Quantity is more than zero.'] : []),
        ];
      },
    };
  },
  async write(act, checked) {
    const [items, sites, places] = [
      await itemsMeant(
        act,
        checked.map(({ row }) => row.sku ?? ''),
      ),
      await sitesMeant(act),
      await binsMeant(act),
    ];
    const unplaced = new Map(
      (await act.tx.rows<{ siteId: number; id: number }>('SELECT site_id AS "siteId", id FROM place WHERE unplaced')).map(({ siteId, id }) => [siteId, id]),
    );
    const lines = checked.map(({ row }) => {
      const siteId = sites.get(lower(row.site)) as number;
      const code = row.serial || row.lot;
      return {
        itemId: items.get(lower(row.sku)) as number,
        binId: (row.bin ? places.get(`${siteId}/${lower(row.bin)}`)?.id : unplaced.get(siteId)) as number,
        quantity: row.quantity ?? '',
        unitValue: row.unitValue ?? '',
        lots: code ? [{ code, useBy: row.useBy || null, quantity: row.quantity ?? '' }] : [],
      };
    });
    await openStock(act, { lines, note: 'brought in from a file' });
  },
};

/** Members of families: the family and its values are made as they are met; the items must be there. */
export const families: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const there = byName(
      await act.tx.rows<Current>(
        `SELECT i.sku, f.name AS family, coalesce(v1.axis_name, '') AS axis1, coalesce(v1.name, '') AS value1, coalesce(v2.axis_name, '') AS axis2, coalesce(v2.name, '') AS value2, coalesce(v3.axis_name, '') AS axis3, coalesce(v3.name, '') AS value3
         FROM item i JOIN family f ON f.id = i.family_id LEFT JOIN family_value v1 ON v1.id = i.value_1_id LEFT JOIN family_value v2 ON v2.id = i.value_2_id LEFT JOIN family_value v3 ON v3.id = i.value_3_id WHERE i.id = ANY($1)`,
        [[...items.values()]],
      ),
      ({ sku }) => sku ?? '',
    );
    const axes = new Map<string, string>();
    return {
      current: (row) => there.get(lower(row.sku)),
      faults: (row) => {
        const named = [1, 2, 3].map((n) => lower(row[`axis${n}`])).join('/');
        const before = axes.get(lower(row.family));
        axes.set(lower(row.family), before ?? named);
        return [
          ...missing(items, row.sku, 'item'),
          ...(before !== undefined && before !== named ? [`Other rows of ${row.family ?? ''} have other axes.`] : []),
          ...[2, 3].flatMap((n) => (Boolean(row[`axis${n}`]) === Boolean(row[`value${n}`]) ? [] : [`Axis ${n} and its value belong together.`])),
          ...(there.has(lower(row.sku)) && lower(there.get(lower(row.sku))?.family) !== lower(row.family)
            ? [`${row.sku ?? ''} belongs to ${there.get(lower(row.sku))?.family ?? ''} already; take it out there first.`]
            : []),
        ];
      },
    };
  },
  async write(act, checked) {
    const items = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    for (const { row } of checked) await putIntoFamily(act, row, items.get(lower(row.sku)) as number);
    await ownFacts(
      act,
      checked.map(({ row }) => items.get(lower(row.sku)) as number),
    );
  },
};

async function putIntoFamily({ tx }: Act, row: Row, itemId: number): Promise<void> {
  const axes = [1, 2, 3].flatMap((n) => (row[`axis${n}`] ? [{ axis: n, name: row[`axis${n}`] ?? '', value: row[`value${n}`] ?? '' }] : []));
  const [family] = await tx.rows<{ id: number }>('SELECT id FROM family WHERE lower(name) = lower($1)', [row.family]);
  const familyId =
    family?.id ??
    (
      await tx.rows<{ id: number }>(
        'INSERT INTO family (name, code, sku_pattern, unit_id, category_id) SELECT $1, $2, $3, unit_id, category_id FROM item WHERE id = $4 RETURNING id',
        [row.family, shortCode(row.family ?? '') || 'FAM', proposedPattern(axes), itemId],
      )
    )[0]?.id;
  const values: (number | null)[] = [null, null, null];
  for (const { axis, name, value } of axes) {
    const [known] = await tx.rows<{ id: number }>('SELECT id FROM family_value WHERE family_id = $1 AND axis = $2 AND lower(name) = lower($3)', [
      familyId,
      axis,
      value,
    ]);
    values[axis - 1] =
      known?.id ??
      (
        await tx.rows<{ id: number }>(
          'INSERT INTO family_value (family_id, axis, axis_name, position, name, code) SELECT $1, $2, $3, coalesce(max(position), 0) + 1, $4, $5 FROM family_value WHERE family_id = $1 AND axis = $2 RETURNING id',
          [familyId, axis, name, value, shortCode(value) || value],
        )
      )[0]?.id ??
      null;
  }
  await tx.rows('UPDATE item SET family_id = $2, value_1_id = $3, value_2_id = $4, value_3_id = $5, version = version + 1 WHERE id = $1', [
    itemId,
    familyId,
    ...values,
  ]);
}
