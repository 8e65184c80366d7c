import { inWords } from '@larder/core/books/inWords';
import type { BookPurpose } from '@larder/core/books/purpose';
import type { PlannedCost } from '@larder/core/costing/adjust';
import { sum, zero, type Decimal } from '@larder/core/decimal';
import { refuseField } from '@larder/core/refusal';
import type { BookEffects } from '@larder/contract/bills';
import type { Act } from '../act';

interface AccountRow {
  id: number;
  code: string;
  name: string;
  purpose: BookPurpose | null;
  /** Not kept by postings of its own: a bill may name it. */
  free: boolean;
}

/** An entry that moves no goods while it is put together: amounts by account and, for stock, by item. Debits are above zero. */
export class Entry {
  private readonly lines = new Map<string, { accountId: number; itemId: number | null; amount: Decimal }>();

  private constructor(private readonly accounts: readonly AccountRow[]) {}

  static async open({ tx }: Act): Promise<Entry> {
    const sql = `SELECT id, code, name, CASE WHEN type = 'inventory' THEN 'inventory' ELSE purpose END AS purpose, type <> 'inventory' AND purpose IS DISTINCT FROM 'grni' AND purpose IS DISTINCT FROM 'credits-expected' AND purpose IS DISTINCT FROM 'payable' AND purpose IS DISTINCT FROM 'landed-clearing' AS free FROM account ORDER BY code`;
    return new Entry(await tx.rows<AccountRow>(sql));
  }

  add(account: BookPurpose | number, amount: Decimal, itemId: number | null = null): void {
    const accountId = typeof account === 'number' ? account : this.accountFor(account);
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

  private accountFor(purpose: BookPurpose): number {
    const found = this.accounts.find((account) => account.purpose === purpose);
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
}

/** Refuses a day that lies in the future or in a closed period. */
export async function refuseBookDay({ tx, today }: Act, day: string, field: string): Promise<void> {
  if (day > today) throw refuseField(422, 'future-day', field, 'The day lies in the future.');
  const [company] = await tx.rows<{ closed: string | null }>('SELECT closed_through::text AS closed FROM company');
  if (company?.closed && day <= company.closed) throw refuseField(409, 'period-closed', field, `The books are closed up to ${company.closed}.`);
}

/** Writes an entry; one without lines is not written. */
export async function writeEntry({ tx, now }: Act, { effectiveOn, text, billId, paymentId, sheetId }: EntryHead, entry: Entry): Promise<void> {
  const lines = entry.list();
  if (lines.length === 0) return;
  await tx.rows(
    `WITH e AS (INSERT INTO journal_entry (bill_id, payment_id, sheet_id, effective_on, posted_at, text) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id)
     INSERT INTO journal_line (entry_id, account_id, item_id, amount) SELECT e.id, x.* FROM e, unnest($7::int[], $8::int[], $9::numeric[]) x`,
    [
      billId ?? null,
      paymentId ?? null,
      sheetId ?? null,
      effectiveOn,
      now.toISOString(),
      text,
      lines.map(({ accountId }) => accountId),
      lines.map(({ itemId }) => itemId),
      lines.map(({ amount }) => amount.toFixed(2)),
    ],
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
  await tx.rows(
    `INSERT INTO cost_change (item_id, movement_line_id, amount, whole, here, variance, bill_line_id, charge_id, cause, effective_on, seq)
     SELECT x.item, x.line, x.amount, x.whole, x.here, x.variance, x.bill, x.charge, $9, $10, p.last_seq + row_number() OVER (PARTITION BY x.item ORDER BY x.at)
     FROM unnest($1::int[], $2::bigint[], $3::numeric[], $4::numeric[], $5::numeric[], $6::numeric[], $7::int[], $8::int[]) WITH ORDINALITY x(item, line, amount, whole, here, variance, bill, charge, at) JOIN pool p ON p.item_id = x.item`,
    [
      costs.map(({ itemId }) => itemId),
      costs.map(({ lineId }) => lineId),
      costs.map(({ toStock }) => toStock.toFixed(2)),
      costs.map(({ amount }) => amount.toFixed(2)),
      costs.map(({ here }) => here.toFixed()),
      costs.map(({ variance }) => variance.toFixed(2)),
      costs.map(({ billLineId }) => billLineId ?? null),
      costs.map(({ chargeId }) => chargeId ?? null),
      cause,
      effectiveOn,
    ],
  );
}
