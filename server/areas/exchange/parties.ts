import { byName, lower, type Current } from '@larder/core/formats/rows';
import { createParty } from '../setup/service';
import { recordAll, type Importer } from './importer';
import { leadDaysSaid } from './references';

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
      faults: (row) => [...leadDaysSaid(row.leadDays), ...(row.email && !/^[^\s@]+@[^\s@]+$/.test(row.email) ? [`“${row.email}” is no mail address.`] : [])],
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
