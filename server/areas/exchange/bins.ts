import { byName, lower, type Current, type Row } from '@larder/core/exchange/rows';
import { and, eq, sql } from 'drizzle-orm';
import { given, insertRows, orNull } from '../../db/given';
import { place } from '../../db/schema/index';
import type { Importer } from './importer';
import { missing, sitesMeant } from './references';

/** Bins of a site; what a bin is for is told when it is made, and changed where goods can be seen. */
export const bins: Importer = {
  right: 'setup.edit',
  async prepare(act) {
    const sites = await sitesMeant(act);
    const rows = await act.tx.db
      .select({
        siteId: sql<string>`${place.siteId}::text`,
        code: place.code,
        zone: place.zone,
        walk: sql<string>`${place.walk}::text`,
        use: sql<string>`case when ${place.sellable} then 'sale' else 'quarantine' end`,
      })
      .from(place)
      .where(eq(place.kind, 'bin'));
    const there = byName(rows, (row) => `${row.siteId}/${row.code}`);
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
    const { tx } = act;
    const sites = await sitesMeant(act);
    const siteOf = (row: Row) => sites.get(lower(row.site)) ?? 0;
    await insertRows(
      tx,
      place,
      checked
        .filter(({ status }) => status === 'new')
        .map(({ row }) => ({
          kind: 'bin' as const,
          siteId: siteOf(row),
          code: row.code ?? '',
          owned: true,
          sellable: (row.use ?? 'sale') === 'sale',
          zone: row.zone ?? '',
          walk: Number(row.walk || 1000),
        })),
    );
    const changed = checked.filter(({ status }) => status === 'changed');
    const { rows, row } = given(
      'changed',
      { siteId: place.siteId, code: place.code, zone: place.zone, walk: orNull(place.walk) },
      changed.map((one) => ({ siteId: siteOf(one.row), code: one.row.code ?? '', zone: one.row.zone ?? '', walk: one.row.walk ? Number(one.row.walk) : null })),
    );
    await tx.db
      .update(place)
      .set({
        zone: fields.includes('zone') ? row.zone : sql`${place.zone}`,
        walk: fields.includes('walk') ? sql`coalesce(${row.walk}, ${place.walk})` : sql`${place.walk}`,
      })
      .from(rows)
      .where(and(eq(place.kind, 'bin'), eq(place.siteId, row.siteId), sql`lower(${place.code}) = lower(${row.code})`));
  },
};
