import { byName, lower } from '@larder/core/exchange/rows';
import { eq, sql } from 'drizzle-orm';
import { createParty } from '../setup/service';
import { recordAll, type Importer } from './importer';
import { leadDaysSaid } from './references';
import { among } from '../../db/given';
import { party, place } from '../../db/schema/index';

const is = { supplier: party.isSupplier, customer: party.isCustomer };

/** Suppliers or customers: the same party may be both. */
const parties = (as: 'supplier' | 'customer'): Importer => ({
  right: 'items.edit',
  async prepare({ tx }, rows) {
    const named = rows.map((row) => lower(row.name));
    const rowsThere = await tx.db
      .select({
        name: party.name,
        email: party.email,
        address: party.address,
        leadDays: sql<string>`${party.leadDays}::text`,
        already: sql<string>`case when ${is[as]} then 'yes' else 'no' end`,
      })
      .from(party)
      .where(among(sql`lower(${party.name})`, named));
    const there = byName(rowsThere, ({ name }) => name);
    return {
      current: (row) => (there.get(lower(row.name))?.already === 'yes' ? there.get(lower(row.name)) : undefined),
      faults: (row) => [...leadDaysSaid(row.leadDays), ...(row.email && !/^[^\s@]+@[^\s@]+$/.test(row.email) ? [`“${row.email}” is no mail address.`] : [])],
    };
  },
  async write(act, checked, fields) {
    const { db } = act.tx;
    const named = checked.map(({ row }) => lower(row.name));
    const rowsThere = await db
      .select({ id: party.id, name: party.name })
      .from(party)
      .where(among(sql`lower(${party.name})`, named));
    const known = byName(rowsThere, ({ name }) => name);
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
        await db
          .update(party)
          .set({
            ...(fields.includes('email') ? { email: row.email ?? '' } : {}),
            ...(fields.includes('address') ? { address: row.address ?? '' } : {}),
            ...(fields.includes('leadDays') ? { leadDays: Number(row.leadDays || 7) } : {}),
            ...(as === 'supplier' ? { isSupplier: true } : { isCustomer: true }),
            version: sql`${party.version} + 1`,
          })
          .where(eq(party.id, there.id));
        await db.insert(place).values({ kind: as, partyId: there.id, code: there.name, owned: false }).onConflictDoNothing();
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
