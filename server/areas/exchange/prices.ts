import { isDay } from '@larder/core/day';
import { byName, lower, type CheckedRow, type Row } from '@larder/core/exchange/rows';
import { isNumber } from '@larder/core/number';
import { clashingRows } from '@larder/core/outbound/pricing';
import { decimal } from '@larder/core/decimal';
import { eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { category, item, priceList, priceRow } from '../../db/schema/index';
import { recordAll, type Importer } from './importer';
import { itemsMeant, missing, written } from './references';

/** As many as a list holds when it is written by hand. */
const most = 5000;

/** What a row is about, which it is told apart by within its list. */
const aboutOf = (row: Row): string => [lower(row.sku), lower(row.category), row.from || '0', row.startsOn ?? ''].join('/');
const keyOf = (row: Row): string => `${lower(row.list)}/${aboutOf(row)}`;

/** Rows of price lists as a file writes them. */
const rowsOf = ({ tx: { db } }: Act, listIds: readonly number[]) =>
  db
    .select({
      id: priceRow.id,
      position: priceRow.position,
      list: priceList.name,
      sku: sql<string>`coalesce(${item.sku}, '')`,
      category: sql<string>`coalesce(${category.name}, '')`,
      from: written(priceRow.from),
      price: written(priceRow.price),
      percentOff: written(priceRow.percentOff),
      startsOn: sql<string>`coalesce(${priceRow.startsOn}::text, '')`,
      endsOn: sql<string>`coalesce(${priceRow.endsOn}::text, '')`,
    })
    .from(priceRow)
    .innerJoin(priceList, eq(priceList.id, priceRow.listId))
    .leftJoin(item, eq(item.id, priceRow.itemId))
    .leftJoin(category, eq(category.id, priceRow.categoryId))
    .where(among(priceRow.listId, listIds));

/** A row that is there, and its place in its list. */
interface Placed {
  id: number;
  position: number;
  row: Row;
}
const placedIn = async (act: Act, listIds: readonly number[]): Promise<Map<string, Placed>> =>
  new Map((await rowsOf(act, listIds)).map(({ id, position, ...row }) => [keyOf(row), { id, position, row }]));

/** The lists that rows name, in use or not, by their names in lower case. */
async function listsMeant({ tx: { db } }: Act, rows: readonly Row[]) {
  const names = [...new Set(rows.map(({ list }) => lower(list)))];
  const lists = await db
    .select({ id: priceList.id, name: priceList.name, retiredAt: priceList.retiredAt })
    .from(priceList)
    .where(among(sql`lower(${priceList.name})`, names));
  return byName(lists, ({ name }) => name);
}

const categoriesMeant = async ({ tx: { db } }: Act) =>
  byName(await db.select({ id: category.id, name: category.name }).from(category).where(isNull(category.retiredAt)), ({ name }) => name);

/** A row of the file whose cells can be read, in the one form they are compared in. */
const readable = (row: Row): Row | null => {
  const cell = (name: string) => (row[name] ?? '').trim();
  if (![cell('startsOn'), cell('endsOn')].every((text) => text === '' || isDay(text))) return null;
  if (cell('from') !== '' && !isNumber(cell('from'), 'price')) return null;
  return { ...Object.fromEntries(Object.keys(row).map((name) => [name, cell(name)])), from: decimal(cell('from') || 0).toFixed() };
};

/** Keys of rows that say another price of something than a row before them, in the file or there already. */
function clashes(there: readonly Row[], file: readonly Row[]): Set<string> {
  const all = new Map(there.map((row) => [keyOf(row), row]));
  for (const row of file) {
    const was = all.get(keyOf(row));
    // At the end, so that of two it is the one of the file that is said to be wrong.
    all.delete(keyOf(row));
    all.set(keyOf(row), { ...was, ...row });
  }
  const found = new Set<string>();
  for (const list of new Set([...all.values()].map((row) => lower(row.list)))) {
    const rows = [...all.values()].filter((row) => lower(row.list) === list);
    const subjects = [...new Set(rows.map((row) => `${lower(row.sku)}/${lower(row.category)}`))];
    const pairs = clashingRows(
      rows.map((row) => ({
        itemId: subjects.indexOf(`${lower(row.sku)}/${lower(row.category)}`),
        categoryId: null,
        from: row.from || '0',
        startsOn: row.startsOn || null,
        endsOn: row.endsOn || null,
      })),
    );
    for (const [, second] of pairs) found.add(keyOf(rows[second] as Row));
  }
  return found;
}

/** What is wrong with what a row says, beyond what it names. */
function saidWrong(row: Row): string[] {
  const faults: string[] = [];
  const [price, percentOff] = [row.price ?? '', row.percentOff ?? ''];
  if (!row.sku === !row.category) faults.push('Give the SKU of an item, or a category.');
  if ((price === '') === (percentOff === '')) faults.push('Give a price, or per cent off.');
  else if (row.category && price !== '') faults.push('A category has many items: give per cent off.');
  for (const [name, text] of [
    ['From', row.from ?? ''],
    ['Per cent off', percentOff],
  ] as const)
    if (text !== '' && decimal(text).decimalPlaces() > 4) faults.push(`${name} has at most four decimals.`);
  if (percentOff !== '' && Number(percentOff) > 100) faults.push('Per cent off is at most 100.');
  if (row.startsOn && row.endsOn && row.endsOn < row.startsOn) faults.push('It ends before it begins.');
  return faults;
}

/** What customers pay, list by list; a list that is not there yet is added. Rows that the file does not name stay as they are. */
export const prices: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const categories = await categoriesMeant(act);
    const lists = await listsMeant(act, rows);
    const placed = await placedIn(
      act,
      [...lists.values()].map(({ id }) => id),
    );
    const there = new Map([...placed].map(([key, { row }]) => [key, row]));
    const file = rows.map(readable).filter((row) => row !== null);
    const clashing = clashes([...there.values()], file);
    const counts = new Map<string, number>();
    for (const key of new Set([...there.keys(), ...file.map(keyOf)])) {
      const list = key.slice(0, key.indexOf('/'));
      counts.set(list, (counts.get(list) ?? 0) + 1);
    }
    return {
      current: (row) => there.get(keyOf(row)),
      spelled: (row) => ({ list: lists.get(lower(row.list))?.name ?? row.list ?? '', from: row.from || '0' }),
      faults: (row) => [
        ...(lists.get(lower(row.list))?.retiredAt ? [`${row.list ?? ''} is retired.`] : []),
        ...missing(items, row.sku, 'item'),
        ...missing(categories, row.category, 'category'),
        ...saidWrong(row),
        ...((counts.get(lower(row.list)) ?? 0) > most ? ['At most 5,000 rows on one list.'] : []),
        ...(clashing.has(keyOf(row)) ? ['Another row says another price for the same quantity on some of these days.'] : []),
      ],
    };
  },
  async write(act, checked, fields) {
    const { db } = act.tx;
    const rows = checked.map(({ row }) => row);
    const known = await listsMeant(act, rows);
    const fresh = byName(
      rows.filter(({ list }) => !known.has(lower(list))),
      ({ list }) => list ?? '',
    );
    if (fresh.size > 0) await db.insert(priceList).values([...fresh.values()].map(({ list = '' }) => ({ name: list })));
    const lists = await listsMeant(act, rows);
    const listIds = [...lists.values()].map(({ id }) => id);
    await db
      .update(priceList)
      .set({ version: sql`${priceList.version} + 1` })
      .where(among(priceList.id, listIds));
    const there = await placedIn(act, listIds);
    await putRows(act, { rows, there, fields, listOf: (row) => lists.get(lower(row.list))?.id ?? 0 });
    await recordAll(
      act,
      'price list',
      checked.map((one): CheckedRow => ({
        ...one,
        changes: [{ field: 'row', was: one.status === 'new' ? '' : saidOf(there.get(keyOf(one.row))?.row), is: saidOf(one.row) }],
      })),
      (row) => lists.get(lower(row.list))?.id ?? 0,
    );
  },
};

/** A row in words, for the history of its list. */
const saidOf = (row: Row | undefined): string =>
  row === undefined ? '' : `${row.sku || row.category || ''} from ${row.from || '0'}: ${row.price ? row.price : `${row.percentOff ?? ''} % off`}`;

interface Put {
  rows: readonly Row[];
  /** Rows that are there, by what they are about. */
  there: ReadonlyMap<string, Placed>;
  fields: readonly string[];
  listOf: (row: Row) => number;
}

/** Puts rows into their lists, those that are there already at their places. */
async function putRows(act: Act, { rows, there, fields, listOf }: Put): Promise<void> {
  const { db } = act.tx;
  const items = await itemsMeant(
    act,
    rows.map((row) => row.sku ?? ''),
  );
  const categories = await categoriesMeant(act);
  const replaced = rows.flatMap((row) => there.get(keyOf(row))?.id ?? []);
  await db.delete(priceRow).where(among(priceRow.id, replaced));
  let last = Math.max(-1, ...[...there.values()].map(({ position }) => position));
  await insertRows(
    act.tx,
    priceRow,
    rows.map((row) => {
      const was = there.get(keyOf(row));
      const endsOn = fields.includes('endsOn') ? row.endsOn : was?.row.endsOn;
      return {
        listId: listOf(row),
        position: was?.position ?? (last += 1),
        itemId: items.get(lower(row.sku)) ?? null,
        categoryId: categories.get(lower(row.category))?.id ?? null,
        from: row.from || '0',
        price: row.price || null,
        percentOff: row.percentOff || null,
        startsOn: row.startsOn || null,
        endsOn: endsOn || null,
      };
    }),
  );
}
