import type * as contract from '@larder/contract/lists';
import type { BodyOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import type { Act } from '../../act';

const columns = 'id, list, name, search, pinned';

/** Filters the person has kept, the pinned first. */
export const keptViews = ({ tx, by }: Act): Promise<contract.KeptView[]> =>
  tx.rows(`SELECT ${columns} FROM kept_view WHERE person_id = $1 ORDER BY pinned DESC, lower(name)`, [by.id]);

export async function keepView({ tx, by }: Act, form: BodyOf<typeof contract.keepView>): Promise<contract.KeptView> {
  const [row] = await tx.rows<contract.KeptView>(
    `INSERT INTO kept_view (person_id, list, name, search, pinned) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (person_id, list, lower(name)) DO UPDATE SET name = excluded.name, search = excluded.search, pinned = excluded.pinned RETURNING ${columns}`,
    [by.id, form.list, form.name, form.search, form.pinned],
  );
  return row as contract.KeptView;
}

export async function forgetView({ tx, by }: Act, id: number): Promise<Record<string, never>> {
  const gone = await tx.rows('DELETE FROM kept_view WHERE id = $1 AND person_id = $2 RETURNING id', [id, by.id]);
  if (gone.length === 0) throw new Refusal(404, 'not-found', 'There are no such kept filters of yours.');
  return {};
}
