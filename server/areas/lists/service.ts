import type * as contract from '@larder/contract/lists';
import type { BodyOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, desc, eq, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { keptLayout, keptView, person } from '../../db/schema/index';
import { insertRows } from '../../db/given';
import { lower, sameText } from '../../db/text';

const { id, list, name, search, pinned, shared, layout } = keptView;
/** As a person sees them. */
const fieldsFor = (personId: number) => ({
  id,
  list,
  name,
  search,
  pinned,
  shared,
  layout,
  mine: sql<boolean>`${keptView.personId} = ${personId}`,
  person: person.name,
});

/** Filters and columns the person has kept, the pinned first, and what others keep for everybody. */
export const keptViews = async ({ tx, by }: Act): Promise<contract.KeptView[]> =>
  tx.db
    .select(fieldsFor(by.id))
    .from(keptView)
    .innerJoin(person, eq(person.id, keptView.personId))
    .where(or(eq(keptView.personId, by.id), eq(shared, true)))
    .orderBy(sql`${keptView.personId} <> ${by.id}`, desc(pinned), lower(name));

export async function keepView({ tx, by }: Act, form: BodyOf<typeof contract.keepView>): Promise<contract.KeptView> {
  const kept = { personId: by.id, ...form };
  await insertRows(
    tx,
    keptView,
    [kept],
    sql`on conflict (person_id, list, lower(name)) do update set name = excluded.name, search = excluded.search, pinned = excluded.pinned, shared = excluded.shared, layout = excluded.layout`,
  );
  const [row] = await tx.db
    .select(fieldsFor(by.id))
    .from(keptView)
    .innerJoin(person, eq(person.id, keptView.personId))
    .where(and(eq(keptView.personId, by.id), eq(list, form.list), sameText(name, form.name)));
  return row as contract.KeptView;
}

export async function forgetView({ tx, by }: Act, viewId: number): Promise<Record<string, never>> {
  const gone = await tx.db
    .delete(keptView)
    .where(and(eq(id, viewId), eq(keptView.personId, by.id)))
    .returning({ id });
  if (gone.length === 0) throw new Refusal(404, 'not-found', 'There are no such kept filters of yours.');
  return {};
}

/** How the person has laid out columns, list by list. */
export async function keptLayouts({ tx, by }: Act): Promise<{ list: string; layout: contract.ColumnLayout }[]> {
  const rows = await tx.db.select({ list: keptLayout.list, layout: keptLayout.layout }).from(keptLayout).where(eq(keptLayout.personId, by.id));
  // Those kept before columns could be left out at first say nothing of them.
  return rows.map((row) => ({ ...row, layout: { ...row.layout, shown: row.layout.shown ?? [] } }));
}

export async function keepLayout({ tx, by }: Act, { list: of, layout: laid }: BodyOf<typeof contract.keepLayout>): Promise<Record<string, never>> {
  await tx.db
    .insert(keptLayout)
    .values({ personId: by.id, list: of, layout: laid })
    .onConflictDoUpdate({ target: [keptLayout.personId, keptLayout.list], set: { layout: laid } });
  return {};
}
