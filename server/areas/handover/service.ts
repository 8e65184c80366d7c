import type * as contract from '@larder/contract/handover';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { mappedLines } from '@larder/core/books/handover';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { recordChanges } from '../../documents/changes';
import { accounting } from '../../standins/accounting';
import { standing, waitingEntries } from './queries';

/** How many documents go at once. */
const mostAtOnce = 1000;

/** Brings in the accounts of the accounting service; a mapping to one that is gone there is taken off. */
export async function bringInAccounts(act: Act): Promise<contract.Standing> {
  const there = await accounting.accounts(act);
  await act.tx.rows('DELETE FROM outside_account WHERE code <> ALL($1)', [there.map(({ code }) => code)]);
  await act.tx.rows(
    'INSERT INTO outside_account (code, name) SELECT * FROM unnest($1::text[], $2::text[]) ON CONFLICT (code) DO UPDATE SET name = excluded.name',
    [there.map(({ code }) => code), there.map(({ name }) => name)],
  );
  await act.tx.rows('UPDATE account SET outside_code = NULL WHERE outside_code IS NOT NULL AND outside_code NOT IN (SELECT code FROM outside_account)');
  return standing(act);
}

/** Maps accounts of ours to theirs. An account of which something has gone keeps its mapping, so that both sides can be compared. */
export async function mapAccounts(act: Act, { rows }: BodyOf<typeof contract.mapAccounts>): Promise<contract.Standing> {
  await lockHandover(act);
  const was = await standing(act);
  const used = new Set(
    (
      await act.tx.rows<{ id: number }>(
        'SELECT DISTINCT j.account_id AS id FROM handover h JOIN journal_line j ON j.entry_id = h.entry_id WHERE h.taken_back_at IS NULL',
      )
    ).map(({ id }) => id),
  );
  for (const [index, { accountId, outsideCode }] of rows.entries()) {
    const at = was.mapping.find((one) => one.accountId === accountId);
    if (!at) throw refuseField(404, 'no-such-account', `rows.${index}.accountId`, 'There is no such account.');
    if (at.outsideCode === outsideCode) continue;
    if (outsideCode !== null && !was.outside.some(({ code }) => code === outsideCode))
      throw refuseField(404, 'no-such-account', `rows.${index}.outsideCode`, `${outsideCode} is none of their accounts. Bring them in again?`);
    if (used.has(accountId))
      throw refuseField(409, 'has-gone', `rows.${index}.outsideCode`, `Entries on ${at.code} have gone to ${at.outsideCode}. Take those back first.`);
    await act.tx.rows('UPDATE account SET outside_code = $2 WHERE id = $1', [accountId, outsideCode]);
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
  await act.tx.rows(
    'INSERT INTO handover (entry_id, reference, outside_number, sent_at, sent_by) SELECT x.*, $4::timestamptz, $5::int FROM unnest($1::int[], $2::text[], $3::text[]) x',
    [documents.map(({ entryId }) => entryId), documents.map(({ reference }) => reference), numbers, act.now.toISOString(), act.by.id],
  );
  return { sent: documents.length, standing: await standing(act) };
}

/** Takes a document back: it is reversed there, and its entry waits again. */
export async function takeBack(act: Act, id: number): Promise<contract.Standing> {
  await lockHandover(act);
  const [row] = await act.tx.rows<{ reference: string; number: string; back: boolean }>(
    'SELECT reference, outside_number AS number, taken_back_at IS NOT NULL AS back FROM handover WHERE id = $1',
    [id],
  );
  if (!row) throw new Refusal(404, 'not-found', 'That never went out.');
  if (row.back) throw new Refusal(409, 'taken-back', `${row.number} was taken back already.`);
  await accounting.reverse(act, row.reference);
  await act.tx.rows('UPDATE handover SET taken_back_at = $2, taken_back_by = $3 WHERE id = $1', [id, act.now.toISOString(), act.by.id]);
  return standing(act);
}

/** Handing over, taking back and mapping go one after the other. */
const lockHandover = ({ tx }: Act): Promise<unknown> => tx.rows(`SELECT pg_advisory_xact_lock(hashtext('handover'))::text`);
