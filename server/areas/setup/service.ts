import type * as contract from '@larder/contract/setup';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { category, party, place, site } from '../../db/schema/index';
import { bins, parties } from './queries';

/** Opens a site with its one bench and its one place for goods that have no bin yet. */
export async function createSite({ tx }: Act, form: BodyOf<typeof contract.createSite>): Promise<ResponseOf<typeof contract.createSite>> {
  const [taken] = await tx.rows<{ name: string }>('SELECT name FROM site WHERE lower(code) = lower($1)', [form.code]);
  if (taken) throw refuseField(409, 'code-in-use', 'code', `${form.code} is already the code of ${taken.name}.`);
  const [added] = await tx.db.insert(site).values(form).returning({ id: site.id });
  const siteId = added?.id as number;
  await tx.db.insert(place).values([
    { kind: 'bench', siteId, code: 'bench', owned: true },
    { kind: 'bin', siteId, code: 'UNPLACED', name: 'No bin yet', owned: true, sellable: true, unplaced: true, walk: 99999 },
  ]);
  return { id: siteId, ...form };
}

export async function createBins(act: Act, form: BodyOf<typeof contract.createBins>): Promise<ResponseOf<typeof contract.createBins>> {
  const twice = form.codes.findIndex((code, index) => form.codes.findIndex((other) => other.toLowerCase() === code.toLowerCase()) < index);
  if (twice >= 0) throw refuseField(422, 'code-twice', `codes.${twice}`, `${form.codes[twice] ?? ''} is given twice.`);
  const [known] = await act.tx.rows('SELECT 1 FROM site WHERE id = $1', [form.siteId]);
  if (!known) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  const [taken] = await act.tx.rows<{ code: string }>(`SELECT code FROM place WHERE kind = 'bin' AND site_id = $1 AND lower(code) = ANY($2)`, [
    form.siteId,
    form.codes.map((code) => code.toLowerCase()),
  ]);
  if (taken) throw refuseField(409, 'code-in-use', 'codes', `${taken.code} is already a bin of this site.`);
  const added = await act.tx.db
    .insert(place)
    .values(form.codes.map((code, index) => ({ kind: 'bin', siteId: form.siteId, code, owned: true, sellable: form.sellable, walk: index })))
    .returning({ id: place.id });
  return { rows: await bins(act, { ids: added.map(({ id }) => id) }) };
}

export async function createCategory({ tx }: Act, { name }: BodyOf<typeof contract.createCategory>): Promise<ResponseOf<typeof contract.createCategory>> {
  const [taken] = await tx.rows('SELECT 1 FROM category WHERE lower(name) = lower($1)', [name]);
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is a category ${name} already.`);
  const [added] = await tx.db.insert(category).values({ name }).returning({ id: category.id });
  return { id: added?.id as number, name };
}

/** Adds a supplier, customer or both, with the places goods come from and go to. */
export async function createParty(act: Act, form: BodyOf<typeof contract.createParty>): Promise<contract.Party> {
  const [taken] = await act.tx.rows<{ name: string }>('SELECT name FROM party WHERE lower(name) = lower($1)', [form.name]);
  if (taken) throw refuseField(409, 'name-in-use', 'name', `${taken.name} is there already.`);
  const [added] = await act.tx.db.insert(party).values(form).returning({ id: party.id });
  const partyId = added?.id as number;
  const kinds = [...(form.isSupplier ? ['supplier'] : []), ...(form.isCustomer ? ['customer'] : [])];
  await act.tx.db.insert(place).values(kinds.map((kind) => ({ kind, partyId, code: form.name, owned: false })));
  return (await parties(act, { id: partyId }))[0] as contract.Party;
}
