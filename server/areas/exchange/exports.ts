import { exchangeKinds } from '@larder/core/exchange/exchange';
import type * as contract from '@larder/contract/exchange';
import type { BodyOf, FileAnswer, ResponseOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { itemConditions } from '../catalog/queries';
import { countedBy } from '../../heavy/progress';
import { tableFile } from './tableFile';
import { lowConditions } from '../planning/queries';
import { dayAsked, lotConditions, siteStockConditions } from '../stock/queries';
import { everyWord } from '../../db/paging';
import { attribute, keptExport } from '../../db/schema/index';

import { sources } from './exportSources';
import type { List } from './sources/source';

async function fieldsOf({ tx, seesCosts }: Act, list: List): Promise<{ key: string; name: string; isCode: boolean }[]> {
  const known = exchangeKinds.find(({ key }) => key === list)?.fields ?? [];
  const subject = exchangeKinds.find(({ key }) => key === list)?.own;
  const own =
    subject === undefined
      ? []
      : await tx.db
          .select({ id: attribute.id, name: attribute.name })
          .from(attribute)
          .where(and(eq(attribute.subject, subject), isNull(attribute.retiredAt)))
          .orderBy(attribute.position, attribute.id);
  return [
    ...known.map(({ key, name, kind }) => ({ key, name, isCode: kind === 'code' })),
    ...own.map(({ id, name }) => ({ key: `attribute ${id}`, name, isCode: false })),
    ...(sources[list].more ?? []).map((one) => ({ ...one, isCode: one.key === 'sku' })),
  ].filter(({ key }) => seesCosts || !sources[list].costs?.includes(key));
}

export async function exportFields(act: Act, list: List): Promise<ResponseOf<typeof contract.exportFields>> {
  const [kept] = await act.tx.db
    .select({ fields: keptExport.fields, format: keptExport.format })
    .from(keptExport)
    .where(and(eq(keptExport.personId, act.by.id), eq(keptExport.list, list)));
  const fields = (await fieldsOf(act, list)).map(({ key, name }) => ({ key, name }));
  return { fields, chosen: kept?.fields.filter((key) => fields.some((field) => field.key === key)) ?? null, format: kept?.format ?? 'csv' };
}

/** The list as a file, with the chosen fields in their order. */
export async function exportFile(act: Act, list: List, query: BodyOf<typeof contract.exportFile>): Promise<FileAnswer> {
  const all = await fieldsOf(act, list);
  const keys = query.fields.split(',');
  const fields = keys.map((key) => all.find((field) => field.key === key));
  if (fields.some((field) => field === undefined)) throw refuseField(422, 'no-such-field', 'fields', 'Choose the fields from the list.');
  if (new Set(keys).size < keys.length) throw refuseField(422, 'field-twice', 'fields', 'Each field can be taken once.');
  const source = sources[list];
  if (source.company) act.allow('costs.see', null);
  const sites = act.sites('look', query.siteId ?? query.lots?.siteId);
  const low = query.low ?? { state: 'all' as const, counts: 'sellable' as const };
  const where = and(
    everyWord(source.words, query.q),
    query.items !== undefined && list === 'items' ? itemConditions(query.items, sites) : undefined,
    query.lots !== undefined && list === 'lots' ? lotConditions(query.lots) : undefined,
    query.stock !== undefined && list === 'stock' ? siteStockConditions(query.stock) : undefined,
    list === 'low' ? lowConditions(low, sites) : undefined,
    query.show === 'late' ? source.lateOn?.(act.today) : source.shows?.[query.show ?? 'all'],
    query.itemId !== undefined && source.item ? eq(source.item, query.itemId) : undefined,
    query.priceListId !== undefined && source.priceList ? eq(source.priceList, query.priceListId) : undefined,
    source.at?.(sites),
  );
  const used = fields.filter((field) => field !== undefined);
  const held = query.past ?? { asOf: act.today, state: 'all' as const };
  const rows = act.tx.batches(source.read(act.tx.db, where, sites, { on: await dayAsked(act, held.asOf), held, low }), 1000);
  const cells = async function* () {
    for await (const some of countedBy(act.tell, rows))
      yield some.map((row) => used.map(({ key }) => String((key.startsWith('attribute ') ? row.own?.[key] : row[key]) ?? '')));
  };
  return tableFile(list, query.format, used, cells());
}

/** Remembers what was chosen, for the next time. */
export async function keepExport({ tx, by }: Act, list: List, { fields, format }: BodyOf<typeof contract.exportFile>): Promise<void> {
  const chosen = { fields: fields.split(','), format };
  await tx.db
    .insert(keptExport)
    .values({ personId: by.id, list, ...chosen })
    .onConflictDoUpdate({ target: [keptExport.personId, keptExport.list], set: chosen });
}
