import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { asc, eq, is, sql } from 'drizzle-orm';
import { getViewConfig, PgView } from 'drizzle-orm/pg-core';
import type pg from 'pg';
import { freshDatabase } from '../testing/database';
import { connect, databaseCode, isTooBusy, transaction, type Tx } from './database';
import { among, given, inOrderOf, insertFrom, insertRows, jsonOf, oneRow, orNull, updateRows } from './given';
import { jsonList, jsonRows, jsonValues, scalar } from './json';
import { cursorOf, everyWord, pageOf, paged, type Sort } from './paging';
import { prepared } from './prepared';
import * as schema from './schema/index';
import { plain, sameText } from './text';

const { site, unit, taxCode, taxRate, idempotency, person } = schema;

let pool: pg.Pool;
let drop: () => Promise<void>;
beforeAll(async () => {
  const made = await freshDatabase();
  [pool, drop] = [connect(made.url, { max: 2 }), made.drop];
  await pool.query("INSERT INTO site (code, name) VALUES ('A', 'Barn'), ('B', 'Yard'), ('C', 'Shop')");
  await pool.query("INSERT INTO unit (code, name, step) VALUES ('l', 'litre', 0.001), ('t', 'tonne', 12345678901234.5678)");
});
afterAll(async () => {
  await pool.end();
  await drop();
});
/** Does something in a transaction that is taken back. */
async function tried<T>(work: (tx: Tx) => Promise<T>): Promise<T> {
  const undo = new Error('taken back');
  const results: T[] = [];
  await transaction(pool, 'write', async (tx) => {
    results.push(await work(tx));
    throw undo;
  }).catch((error: unknown) => {
    if (error !== undo) throw error;
  });
  return results[0] as T;
}

test('each view that is declared has the columns it has in the database', async () => {
  const views = Object.values(schema).flatMap((one) => (is(one, PgView) ? [one as unknown as PgView] : []));
  expect(views.length).toBeGreaterThan(8);
  for (const view of views) {
    const { name, selectedFields } = getViewConfig(view);
    const { rows } = await pool.query<{ name: string }>('SELECT column_name AS name FROM information_schema.columns WHERE table_name = $1', [name]);
    const declared = Object.values(selectedFields).map((column) => (column as { name: string }).name);
    const there = rows.map((row) => row.name);
    expect([name, declared.filter((one) => !there.includes(one))]).toEqual([name, []]);
  }
});

describe('rows that are handed to a statement', () => {
  test('come as the types of the columns they stand for; what is not given is empty', async () => {
    const { rows, row } = given('wanted', { id: unit.id, step: unit.step, name: orNull(unit.name) }, [
      { id: 1, step: '12345678901234.5678', name: "it's" },
      { id: 2, step: '0.1' },
    ]);
    expect(await tried(({ db }) => db.select(row).from(rows).orderBy(asc(row.id)))).toEqual([
      { id: 1, step: '12345678901234.5678', name: "it's" },
      { id: 2, step: '0.1000', name: null },
    ]);
  });

  test('are written and changed by statements that read the same however many they are', async () => {
    const texts = new Set<string>();
    const seen = await tried(async (tx) => {
      for (const count of [1, 3]) {
        const some = Array.from({ length: count }, (_, at) => ({ code: `N${count}${at}`, name: `New ${at}` }));
        await insertRows(tx, site, some);
        const { rows, row } = given('some', { code: site.code, name: site.name }, some);
        texts.add(tx.db.select(row).from(rows).toSQL().sql);
      }
      const there = await tx.db
        .select({ id: site.id, code: site.code })
        .from(site)
        .where(sql`${site.code} like 'N%'`)
        .orderBy(site.code);
      await updateRows(
        tx,
        site,
        there.map(({ id, code }) => ({ id, name: `Now ${code}` })),
      );
      return tx.db
        .select({ name: site.name })
        .from(site)
        .where(sql`${site.code} like 'N%'`)
        .orderBy(site.code);
    });
    expect(seen.map(({ name }) => name)).toEqual(['Now N10', 'Now N30', 'Now N31', 'Now N32']);
    expect(texts.size).toBe(1);
  });

  test('none of them is no statement, and a key that exists already does what is said of it', async () => {
    const names = await tried(async (tx) => {
      await insertRows(tx, site, []);
      await updateRows(tx, site, []);
      const more = sql`on conflict (lower(code)) do update set name = excluded.name`;
      await insertRows(tx, site, [{ code: 'a', name: 'Barn, again' }], more);
      return tx.db.select({ name: site.name }).from(site).where(eq(site.code, 'A'));
    });
    expect(names).toEqual([{ name: 'Barn, again' }]);
  });

  test('a field that the table does not have is refused before anything is asked', () => {
    const { rows, row } = given('some', { code: site.code }, [{ code: 'X' }]);
    const query = { getSQL: () => sql`${rows}`, _: { selectedFields: { ...row, nothing: row.code } } };
    expect(() => insertFrom(site, query)).toThrow('the table has no column nothing');
  });
});

describe('rows as JSON', () => {
  test('keep every digit of a decimal, moments as their columns give them, and lists that are empty', async () => {
    const [row] = await tried(async ({ db }) => {
      const [someone] = await db.insert(person).values({ name: 'Ann', email: 'ann@test.example', passwordHash: '' }).returning({ id: person.id });
      await db.insert(idempotency).values({ personId: someone?.id ?? 0, route: 'r', key: 'k', requestHash: 'h', at: '2026-03-04T05:06:07.089Z' });
      return db
        .select({
          units: jsonRows({ code: unit.code, step: unit.step }, (select) => select.from(unit), { orderBy: unit.code }),
          moments: jsonRows({ at: idempotency.at }, (select) => select.from(idempotency)),
          none: jsonRows({ id: site.id }, (select) => select.from(site).where(eq(site.code, 'nowhere'))),
        })
        .from(oneRow);
    });
    expect(row).toEqual({
      units: [
        { code: 'l', step: '0.0010' },
        { code: 't', step: '12345678901234.5678' },
      ],
      moments: [{ at: '2026-03-04T05:06:07.089Z' }],
      none: [],
    });
  });

  test('of a group, only those that are meant, in their order', async () => {
    const [row] = await tried(({ db }) =>
      db
        .select({
          all: jsonList({ code: site.code }, { orderBy: sql`${site.code} desc`, where: sql`${site.code} <> 'B'` }),
          names: jsonValues(site.name, { orderBy: site.name }),
          first: scalar(db.select({ name: site.name }).from(site).orderBy(site.code).limit(1)),
          no: scalar(db.select({ name: site.name }).from(site).where(eq(site.code, 'nowhere'))),
        })
        .from(site),
    );
    expect(row).toEqual({ all: [{ code: 'C' }, { code: 'A' }], names: ['Barn', 'Shop', 'Yard'], first: 'Barn', no: null });
  });
});

test('a page goes on where the last one ended, ties by id, up and down', async () => {
  const sort: Sort = { sql: sql`length(${site.name})`, type: 'numeric' };
  const page = (direction: 'up' | 'down', cursor?: string) =>
    tried(async ({ db }) => {
      const asked = pageOf(sort, site.id, { limit: 2, direction, cursor });
      const rows = await db
        .select({ name: site.name, ...cursorOf(sort, site.id) })
        .from(site)
        .where(asked.after)
        .orderBy(...asked.order)
        .limit(asked.limit);
      return paged(rows, 2);
    });
  const first = await page('up');
  expect(first.rows).toEqual([{ name: 'Barn' }, { name: 'Yard' }]);
  expect(await page('up', first.next ?? '')).toEqual({ rows: [{ name: 'Shop' }], next: null });
  expect((await page('down')).rows).toEqual([{ name: 'Shop' }, { name: 'Yard' }]);
  await expect(page('up', 'bm90aGluZw')).rejects.toThrow('cannot be continued');
});

test('words, the same text and the order given', async () => {
  const names = (where: ReturnType<typeof everyWord>) => tried(({ db }) => db.select({ name: site.name }).from(site).where(where).orderBy(site.id));
  expect(await names(everyWord(sql`lower(${site.name})`, ' AR  '))).toEqual([{ name: 'Barn' }, { name: 'Yard' }]);
  expect(await names(everyWord(sql`lower(${site.name})`, '%'))).toEqual([]);
  expect(everyWord(site.name, '  ')).toBeUndefined();
  expect(await names(sameText(site.name, 'YARD'))).toEqual([{ name: 'Yard' }]);
  const ids = await tried(({ db }) => db.select({ id: site.id }).from(site).orderBy(site.id));
  const wanted = [ids[2]?.id ?? 0, ids[0]?.id ?? 0];
  expect(await tried(({ db }) => db.select({ id: site.id }).from(site).where(among(site.id, wanted)).orderBy(inOrderOf(site.id, wanted)))).toEqual(
    wanted.map((id) => ({ id })),
  );
  const steps = await tried(({ db }) =>
    db
      .select({ step: plain(unit.step) })
      .from(unit)
      .orderBy(unit.code),
  );
  expect(steps.map(({ step }) => step)).toEqual(['0.001', '12345678901234.5678']);
});

test('what is prepared is put together once for each connection, and takes rows as well', async () => {
  let made = 0;
  const rates = prepared(['codes', 'more'], (db, value) => {
    made += 1;
    const { rows, row } = given('more', { code: taxCode.code }, value.more);
    return db
      .select({ code: row.code, known: sql<boolean>`${taxCode.id} is not null` })
      .from(rows)
      .leftJoin(taxCode, eq(taxCode.code, row.code))
      .where(among(row.code, value.codes))
      .orderBy(row.code);
  });
  const ask = (codes: string[]) => tried((tx) => rates(tx, { codes, more: jsonOf([{ code: 'Q' }, { code: 'R' }, { code: 'S' }]) }));
  expect(await ask(['Q', 'S'])).toEqual([
    { code: 'Q', known: false },
    { code: 'S', known: false },
  ]);
  expect(await ask(['R'])).toEqual([{ code: 'R', known: false }]);
  expect(made).toBe(1);
});

test('many rows come some at a time', async () => {
  const sizes: number[] = [];
  const rows = await tried(async ({ db, batches }) => {
    const all: { code: string; at: string }[] = [];
    const query = db
      .select({ code: site.code, at: sql<string>`${site.id}::text` })
      .from(site)
      .orderBy(site.code);
    for await (const some of batches(query, 2)) {
      sizes.push(some.length);
      all.push(...some);
    }
    return all;
  });
  expect(sizes).toEqual([2, 1]);
  expect(rows.map(({ code }) => code)).toEqual(['A', 'B', 'C']);
});

test('what the database says is found behind what Drizzle says', async () => {
  const failed = await tried(({ db }) => db.insert(taxRate).values({ taxCodeId: 99, fromDay: '2026-01-01', rate: '1' })).catch((error: unknown) => error);
  expect(databaseCode(failed)).toMatchObject({ code: '23503' });
  expect(isTooBusy(failed)).toBe(false);
  expect(isTooBusy(new Error('Failed query', { cause: new Error('timeout exceeded when trying to connect') }))).toBe(true);
});

describe('a transaction whose last statement goes with its end', () => {
  test('is kept with it, and the connection is as it was', async () => {
    await transaction(pool, 'write', async (tx) => {
      await tx.db.insert(site).values({ code: 'D', name: 'Depot' });
      tx.lastly(tx.db.update(site).set({ name: 'Depot, last' }).where(eq(site.code, 'D')));
    });
    expect(await tried(({ db }) => db.select({ name: site.name }).from(site).where(eq(site.code, 'D')))).toEqual([{ name: 'Depot, last' }]);
    await transaction(pool, 'write', async ({ db }) => void (await db.delete(site).where(eq(site.code, 'D'))));
  });

  test('leaves nothing when that fails, and says so', async () => {
    const failed = transaction(pool, 'write', async (tx) => {
      await tx.db.insert(site).values({ code: 'E', name: 'Nowhere' });
      tx.lastly(tx.db.insert(site).values({ code: 'A', name: 'Taken' }));
    });
    await expect(failed).rejects.toMatchObject({ cause: { code: '23505' } });
    expect(await tried(({ db }) => db.$count(site, eq(site.code, 'E')))).toBe(0);
    const many = await Promise.all(Array.from({ length: 6 }, () => tried(({ db }) => db.$count(site))));
    expect(new Set(many)).toEqual(new Set([3]));
  });

  test('what is asked at once is done in the order it was sent; after a fault nothing more of a transaction is done', async () => {
    const code = (error: unknown) => databaseCode(error).code;
    const answers = await tried(({ db }) =>
      Promise.all([
        db.$count(site).then((count) => count),
        db.insert(site).values({ code: 'A', name: 'Taken' }).catch(code),
        db.update(site).set({ name: 'Too late' }).catch(code),
      ]),
    );
    expect(answers).toEqual([3, '23505', '25P02']);
  });
});
