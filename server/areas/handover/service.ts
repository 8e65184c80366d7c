import type * as contract from '@larder/contract/handover';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { mappedLines } from '@larder/core/books/handover';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, isNotNull, isNull, not, notInArray, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { recordChanges } from '../../documents/changes';
import { accounting } from '../../standins/accounting';
import { standing, waitingEntries } from './queries';
import { among, insertRows } from '../../db/given';
import { account, handover, journalLine, outsideAccount } from '../../db/schema/index';
import { oneAfterTheOther } from '../../db/functions';

/** How many documents go at once. */
const mostAtOnce = 1000;

/** Brings in the accounts of the accounting service; a mapping to one that is gone there is taken off. */
export async function bringInAccounts(act: Act): Promise<contract.Standing> {
  const there = await accounting.accounts(act);
  const { db } = act.tx;
  await db.delete(outsideAccount).where(
    not(
      among(
        outsideAccount.code,
        there.map(({ code }) => code),
      ),
    ),
  );
  await insertRows(
    act.tx,
    outsideAccount,
    there.map(({ code, name }) => ({ code, name })),
    sql`on conflict (code) do update set name = excluded.name`,
  );
  const theirs = db.select({ code: outsideAccount.code }).from(outsideAccount);
  await db
    .update(account)
    .set({ outsideCode: null })
    .where(and(isNotNull(account.outsideCode), notInArray(account.outsideCode, theirs)));
  return standing(act);
}

/** Maps accounts of ours to theirs. An account of which something has gone keeps its mapping, so that both sides can be compared. */
export async function mapAccounts(act: Act, { rows }: BodyOf<typeof contract.mapAccounts>): Promise<contract.Standing> {
  await lockHandover(act);
  const was = await standing(act);
  const gone = await act.tx.db
    .selectDistinct({ id: journalLine.accountId })
    .from(handover)
    .innerJoin(journalLine, eq(journalLine.entryId, handover.entryId))
    .where(isNull(handover.takenBackAt));
  const used = new Set(gone.map(({ id }) => id));
  for (const [index, { accountId, outsideCode }] of rows.entries()) {
    const at = was.mapping.find((one) => one.accountId === accountId);
    if (!at) throw refuseField(404, 'no-such-account', `rows.${index}.accountId`, 'There is no such account.');
    if (at.outsideCode === outsideCode) continue;
    if (outsideCode !== null && !was.outside.some(({ code }) => code === outsideCode))
      throw refuseField(404, 'no-such-account', `rows.${index}.outsideCode`, `${outsideCode} is none of their accounts. Import their accounts again?`);
    if (used.has(accountId))
      throw refuseField(409, 'has-gone', `rows.${index}.outsideCode`, `Entries on ${at.code} have gone to ${at.outsideCode}. Take those back first.`);
    await act.tx.db.update(account).set({ outsideCode }).where(eq(account.id, accountId));
    await recordChanges(act, 'account', accountId, { outsideCode: at.outsideCode }, { outsideCode });
  }
  return standing(act);
}

/** Hands over entries that have not gone, once each: the reference is made of the entry and how often it went. */
export async function handOver(act: Act, form: BodyOf<typeof contract.handOver>): Promise<ResponseOf<typeof contract.handOver>> {
  await lockHandover(act);
  const { mapping } = await standing(act);
  const codes = new Map(mapping.map(({ accountId, outsideCode }) => [accountId, outsideCode]));
  const entries = await waitingEntries(act, form, mostAtOnce);
  const documents = entries.flatMap(({ id, times, lines, ...entry }) => {
    const mapped = mappedLines(lines, codes);
    return mapped === null ? [] : [{ ...entry, entryId: id, reference: `${id}.${times + 1}`, lines: mapped }];
  });
  if (documents.length === 0) throw new Refusal(409, 'nothing-waits', 'Nothing waits that could go: map the accounts of what waits, or choose a later day.');
  const numbers = await accounting.take(act, documents);
  await insertRows(
    act.tx,
    handover,
    documents.map(({ entryId, reference }, index) => ({
      entryId,
      reference,
      outsideNumber: numbers[index] ?? '',
      sentAt: act.now.toISOString(),
      sentBy: act.by.id,
    })),
  );
  return { sent: documents.length, standing: await standing(act) };
}

/** Takes a document back: it is reversed there, and its entry waits again. */
export async function takeBack(act: Act, id: number): Promise<contract.Standing> {
  await lockHandover(act);
  const { db } = act.tx;
  const [row] = await db
    .select({ reference: handover.reference, number: handover.outsideNumber, back: sql<boolean>`${handover.takenBackAt} is not null` })
    .from(handover)
    .where(eq(handover.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'This was not handed over.');
  if (row.back) throw new Refusal(409, 'taken-back', `${row.number} was taken back already.`);
  await accounting.reverse(act, row.reference);
  await db.update(handover).set({ takenBackAt: act.now.toISOString(), takenBackBy: act.by.id }).where(eq(handover.id, id));
  return standing(act);
}

/** Handing over, taking back and mapping go one after the other. */
const lockHandover = ({ tx }: Act): Promise<unknown> => oneAfterTheOther(tx, 'handover');
