import { byName, lower, type Current, type Row } from '@larder/core/formats/rows';
import { json, type Importer } from './importer';
import { missing, sitesMeant } from './references';

/** Bins of a site; what a bin is for is told when it is made, and changed where goods can be seen. */
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
