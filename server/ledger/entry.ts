import { inWords } from '@larder/core/books/inWords';
import type { BookPurpose } from '@larder/core/books/purpose';
import type { PlannedCost } from '@larder/core/costing/adjust';
import { sum, zero, type Decimal } from '@larder/core/decimal';
import { refuseField } from '@larder/core/refusal';
import type { BookEffects } from '@larder/contract/bills';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { given, insertFrom, insertRows } from '../db/given';
import { prepared } from '../db/prepared';
import { account, company, costChange, journalEntry, journalLine, costPool } from '../db/schema/index';

/** Accounts by their code; `free` ones are not kept by postings of their own: a bill may name them. */
const readAccounts = prepared([], (db) =>
  db
    .select({
      id: account.id,
      code: account.code,
      name: account.name,
      purpose: sql<BookPurpose | null>`case when ${account.type} = 'inventory' then 'inventory' else ${account.purpose} end`,
      free: sql<boolean>`${account.type} <> 'inventory' and coalesce(${account.purpose}, '') not in ('grni', 'credits-expected', 'payable', 'receivable', 'landed-clearing', 'carriage-clearing', 'own-use-tax', 'work-in-progress')`,
    })
    .from(account)
    .orderBy(account.code),
);
type AccountRow = Awaited<ReturnType<typeof readAccounts>>[number];

/** An entry that moves no goods while it is put together: amounts by account and, for stock, by item. Debits are above zero. */
export class Entry {
  private readonly lines = new Map<string, { accountId: number; itemId: number | null; amount: Decimal }>();

  private constructor(private readonly accounts: readonly AccountRow[]) {}

  static async open({ tx }: Act): Promise<Entry> {
    return new Entry(await readAccounts(tx, {}));
  }

  add(to: BookPurpose | number, amount: Decimal, itemId: number | null = null): void {
    const accountId = typeof to === 'number' ? to : this.idOf(to);
    const key = `${accountId}/${itemId ?? ''}`;
    this.lines.set(key, { accountId, itemId, amount: (this.lines.get(key)?.amount ?? zero).plus(amount) });
  }

  /** Whether a bill may put something straight on this account. */
  isFree = (accountId: number): boolean => this.accounts.some(({ id, free }) => id === accountId && free);

  list(): { accountId: number; itemId: number | null; amount: Decimal }[] {
    const all = [...this.lines.values()].filter(({ amount }) => !amount.isZero());
    if (!sum(all.map(({ amount }) => amount)).isZero()) throw new Error('the entry does not balance');
    return all;
  }

  effects(): BookEffects {
    const list = this.list();
    const entry = this.accounts.flatMap(({ id, code, name }) => {
      const amount = sum(list.filter(({ accountId }) => accountId === id).map((line) => line.amount));
      return amount.isZero() ? [] : [{ accountId: id, code, name, amount: amount.toFixed(2) }];
    });
    const totals = new Map<BookPurpose, Decimal>();
    for (const { accountId, amount } of list) {
      const purpose = this.accounts.find(({ id }) => id === accountId)?.purpose;
      if (purpose) totals.set(purpose, (totals.get(purpose) ?? zero).plus(amount));
    }
    return { entry, words: inWords(totals) };
  }

  /** The account that a purpose has. */
  idOf(purpose: BookPurpose): number {
    const found = this.accounts.find((each) => each.purpose === purpose);
    if (!found) throw new Error(`no account for ${purpose}`);
    return found.id;
  }
}

export interface EntryHead {
  effectiveOn: string;
  text: string;
  billId?: number;
  paymentId?: number;
  sheetId?: number;
  shipmentId?: number;
  invoiceId?: number;
  moneyId?: number;
}

/** Refuses a day that lies in the future or in a closed period. */
export async function refuseBookDay({ tx, today }: Act, day: string, field: string): Promise<void> {
  if (day > today) throw refuseField(422, 'future-day', field, 'The day lies in the future.');
  const [books] = await tx.db.select({ closed: company.closedThrough }).from(company);
  if (books?.closed && day <= books.closed) throw refuseField(409, 'period-closed', field, `The books are closed up to ${books.closed}.`);
}

/** Writes an entry; one without lines is not written. */
export async function writeEntry({ tx, now }: Act, { effectiveOn, text, ...of }: EntryHead, entry: Entry): Promise<void> {
  const lines = entry.list();
  if (lines.length === 0) return;
  const [written] = await tx.db
    .insert(journalEntry)
    .values({ ...of, effectiveOn, postedAt: now.toISOString(), text })
    .returning({ id: journalEntry.id });
  if (!written) throw new Error('the entry was not written');
  await insertRows(
    tx,
    journalLine,
    lines.map(({ accountId, itemId, amount }) => ({ entryId: written.id, accountId, itemId, amount: amount.toFixed(2) })),
  );
}

/** A change of cost on a receipt line: what goes to stock, of which whole, on how many that are here, and what no stock can bear. */
export interface CostToWrite extends Pick<PlannedCost, 'itemId' | 'lineId' | 'toStock' | 'amount' | 'variance'> {
  here: Decimal;
  billLineId?: number | null;
  chargeId?: number | null;
}

/** Writes changes of cost that move no goods; the items' pools are locked. Each takes the next running number of its item. */
export async function writeCosts({ tx }: Act, effectiveOn: string, cause: string, costs: readonly CostToWrite[]): Promise<void> {
  if (costs.length === 0) return;
  const { itemId, movementLineId, amount, whole, here, variance, billLineId, chargeId } = costChange;
  const { rows, row } = given(
    'cost',
    { at: costChange.seq, itemId, movementLineId, amount, whole, here, variance, billLineId, chargeId },
    costs.map((cost, at) => ({
      at,
      itemId: cost.itemId,
      movementLineId: cost.lineId,
      amount: cost.toStock.toFixed(2),
      whole: cost.amount.toFixed(2),
      here: cost.here.toFixed(),
      variance: cost.variance.toFixed(2),
      billLineId: cost.billLineId ?? null,
      chargeId: cost.chargeId ?? null,
    })),
  );
  const { at, ...fields } = row;
  const changes = tx.db
    .select({
      ...fields,
      cause: sql`${cause}::text`,
      effectiveOn: sql`${effectiveOn}::date`,
      seq: sql`${costPool.lastSeq} + row_number() over (partition by ${row.itemId} order by ${at})`,
    })
    .from(rows)
    .innerJoin(costPool, eq(costPool.itemId, row.itemId));
  await tx.db.execute(insertFrom(costChange, changes));
}
