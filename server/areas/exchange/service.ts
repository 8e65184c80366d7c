import { exchangeKinds, type ExchangeKind } from '@larder/core/exchange/exchange';
import { restored } from '@larder/core/exchange/cells';
import { checkRows, type CheckedRow, type Row } from '@larder/core/exchange/rows';
import type * as contract from '@larder/contract/exchange';
import type { FileAnswer, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import type pg from 'pg';
import { grantedSomewhere } from '@larder/contract/rights';
import { actOf, type Act } from '../../act';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { drizzleOn, transaction, type Tx } from '../../db/database';
import type { RowOf } from '../../db/json';
import { attribute, importJob, keptColumns } from '../../db/schema/index';
import { csvFile } from '../../documents/csvFile';
import { readOffset } from '../../db/paging';
import { bins } from './bins';
import { demand } from './demand';
import { families } from './families';
import type { Importer } from './importer';
import { items } from './items';
import { lots } from './lots';
import { opening } from './opening';
import { customers, suppliers } from './parties';
import { policies } from './policies';
import { boms } from './boms';
import { prices } from './prices';
import { terms } from './terms';

const importers: Record<contract.ImportForm['kind'], Importer> = {
  items,
  families,
  suppliers,
  terms,
  customers,
  prices,
  boms,
  bins,
  policies,
  demand,
  opening,
  lots,
};
const chunk = 500;
/** A writer that was not heard of for so long has died with its server; what it had begun was never kept. */
const silence = 30_000;

const jobFields = {
  id: importJob.id,
  kind: importJob.kind,
  fileName: importJob.fileName,
  state: importJob.state,
  done: importJob.done,
  problem: importJob.problem,
  heardAt: importJob.heardAt,
  counts: importJob.counts,
};
type Job = RowOf<typeof jobFields>;

/** What a job is about: large, so it is read only to be written, or for its refused rows. */
interface Content {
  fields: string[];
  rows: Row[];
  report: CheckedRow[];
}

/** Dry run: reads the rows, says what each would do, and keeps them to be written later. */
export async function checkImport(act: Act, form: contract.ImportForm): Promise<contract.Import> {
  refuseWithout(act, form.kind);
  const fields = form.fields.filter((field): field is string => field !== null);
  const rows = form.rows.map(
    (cells) => Object.fromEntries(form.fields.flatMap((field, index) => (field === null ? [] : [[field, restored(cells[index] ?? '')]]))) as Row,
  );
  const report = await checked(act, form.kind, fields, rows);
  await act.tx.db
    .insert(keptColumns)
    .values({ personId: act.by.id, kind: form.kind, headings: form.headings.join('\t'), fields: form.fields })
    .onConflictDoUpdate({ target: [keptColumns.personId, keptColumns.kind, keptColumns.headings], set: { fields: form.fields } });
  const counts = { new: 0, changed: 0, same: 0, refused: 0 };
  for (const { status } of report) counts[status] += 1;
  const [job] = await act.tx.db
    .insert(importJob)
    .values({
      personId: act.by.id,
      kind: form.kind,
      fileName: form.fileName,
      at: act.now.toISOString(),
      rows: { fields, rows },
      report,
      counts,
      state: 'checked',
    })
    .returning({ id: importJob.id });
  if (!job) throw new Error('the import was not written');
  return importOf(await jobOf(act, job.id), act.now);
}

function refuseWithout({ by }: Act, kind: contract.ImportForm['kind']): void {
  if (!grantedSomewhere(by.grants, importers[kind].right)) throw new Refusal(403, 'no-right', 'You do not have the right to import this.');
}

async function checked(act: Act, kindKey: contract.ImportForm['kind'], fields: readonly string[], rows: readonly Row[]): Promise<CheckedRow[]> {
  const kind = exchangeKinds.find(({ key }) => key === kindKey) as ExchangeKind;
  const known = await importers[kindKey].prepare(act, rows, fields);
  return checkRows(kind, known, rows, await ownNames(act, kind), (done) => act.tell?.(done, rows.length));
}

/** Names of the business's own attributes that may be columns, by the field each is. */
async function ownNames({ tx }: Pick<Act, 'tx'>, { own }: ExchangeKind): Promise<Map<string, string>> {
  if (own === undefined) return new Map();
  const rows = await tx.db
    .select({ id: attribute.id, name: attribute.name })
    .from(attribute)
    .where(and(eq(attribute.subject, own), isNull(attribute.retiredAt)));
  return new Map(rows.map(({ id, name }) => [`attribute ${id}`, name]));
}

async function jobOf({ tx, by }: Pick<Act, 'tx' | 'by'>, id: number): Promise<Job> {
  const [job] = await tx.db
    .select(jobFields)
    .from(importJob)
    .where(and(eq(importJob.id, id), eq(importJob.personId, by.id)));
  if (!job) throw new Refusal(404, 'not-found', 'There is no such import of yours.');
  return job;
}

async function contentOf({ tx }: Pick<Act, 'tx'>, { id }: Job): Promise<Content> {
  const [row] = await tx.db.select({ rows: importJob.rows, report: importJob.report }).from(importJob).where(eq(importJob.id, id));
  if (!row) throw new Error('the import is gone');
  return { ...row.rows, report: row.report };
}

function importOf({ id, kind, fileName, state, done, problem, heardAt, counts }: Job, now: Date): contract.Import {
  const dead = state === 'running' && heardAt !== null && now.getTime() - Date.parse(heardAt) > silence;
  return {
    id,
    kind,
    fileName,
    state: dead ? 'failed' : state,
    total: counts.new + counts.changed,
    done,
    problem: dead ? 'The server stopped in the middle. Nothing was written; do it again.' : problem,
    counts,
  };
}

export async function importReport(act: Act, id: number, query: QueryOf<typeof contract.getImport>): Promise<ResponseOf<typeof contract.getImport>> {
  const job = await jobOf(act, id);
  const from = readOffset(query.cursor);
  const of = { one: sql<contract.ImportRow>`report.one - 'row'`, status: sql`report.one ->> 'status'`, at: sql`report.at` };
  const rows = await act.tx.db
    .select({ one: of.one })
    .from(importJob)
    .crossJoinLateral(sql`jsonb_array_elements(${importJob.report}) with ordinality report(one, at)`)
    .where(and(eq(importJob.id, id), query.status === undefined ? undefined : sql`${of.status} = ${query.status}`))
    .orderBy(of.at)
    .offset(from)
    .limit(query.limit + 1);
  const shown = rows.slice(0, query.limit).map(({ one }) => one);
  return { import: importOf(job, act.now), rows: shown, next: rows.length > query.limit ? String(from + query.limit) : null };
}

/** An import that is to be written: which, and by whom it was asked for. */
export interface Writing {
  id: number;
  who: Pick<Act, 'by' | 'now' | 'today'>;
}

/** Starts the writing, which goes on by itself: in one transaction of its own, all or nothing. */
export async function runImport(act: Act, id: number, begin: (writing: Writing) => void): Promise<contract.Import> {
  const { db } = act.tx;
  await db.select({ id: importJob.id }).from(importJob).where(eq(importJob.id, id)).for('update');
  const job = importOf(await jobOf(act, id), act.now);
  refuseWithout(act, job.kind);
  if (job.state !== 'checked' && job.state !== 'failed' && job.state !== 'cancelled')
    throw new Refusal(409, 'not-open', job.state === 'done' ? 'This was imported already.' : 'This import is running already.');
  if (job.total === 0) throw new Refusal(422, 'nothing-to-write', 'No row of this file is new or changed.');
  await db.update(importJob).set({ state: 'running', done: 0, problem: '', cancelWanted: false, heardAt: act.now.toISOString() }).where(eq(importJob.id, id));
  begin({ id, who: { by: act.by, now: act.now, today: act.today } });
  return { ...job, state: 'running', done: 0, problem: '' };
}

class Cancelled extends Error {}

/** Writes a job that was started; how far it is and what ends it is told through its own row, outside the transaction. */
export async function writeFile(pool: pg.Pool, { id, who }: Writing): Promise<void> {
  if (!(await started(pool, id))) return;
  const progress = { done: 0, cancelled: false };
  const telling = setInterval(() => void tell(pool, id, progress), 250);
  try {
    await transaction(pool, 'write', async (tx: Tx) => {
      const act = actOf({ tx, ...who });
      const job = await jobOf(act, id);
      const before = await contentOf(act, job);
      const report = await checked(act, job.kind, before.fields, before.rows);
      const spoilt = report.find(({ status }, index) => status === 'refused' && before.report[index]?.status !== 'refused');
      if (spoilt) throw new Refusal(409, 'changed-since', `Line ${spoilt.line} can no longer be imported: ${spoilt.reasons[0] ?? ''} Check the file again.`);
      const rows = report.filter(({ status }) => status === 'new' || status === 'changed');
      for (let from = 0; from < rows.length; from += chunk) {
        if (progress.cancelled) throw new Cancelled();
        await importers[job.kind].write(act, rows.slice(from, from + chunk), before.fields);
        progress.done = Math.min(from + chunk, rows.length);
      }
      await tx.db
        .update(importJob)
        .set({ state: 'done', done: rows.length, heardAt: sql`now()` })
        .where(eq(importJob.id, id));
    });
  } catch (error) {
    const said = error instanceof Refusal ? error.message : 'Something went wrong on our side.';
    const ended =
      error instanceof Cancelled ? { state: 'cancelled' as const, problem: '' } : { state: 'failed' as const, problem: `${said} Nothing was written.` };
    await drizzleOn(pool)
      .update(importJob)
      .set({ ...ended, done: 0 })
      .where(eq(importJob.id, id));
    if (!(error instanceof Refusal) && !(error instanceof Cancelled)) throw error;
  } finally {
    clearInterval(telling);
  }
}

/** Waits until the request that started the job has been kept. */
async function started(pool: pg.Pool, id: number): Promise<boolean> {
  for (let tries = 0; tries < 100; tries += 1) {
    const [job] = await drizzleOn(pool).select({ state: importJob.state }).from(importJob).where(eq(importJob.id, id));
    if (job?.state === 'running') return true;
    await new Promise((later) => setTimeout(later, 20));
  }
  return false;
}

/** Tells how far the writing is, and hears whether it is still wanted. Nothing waits for it: when it cannot be told now, it is told a moment later. */
async function tell(pool: pg.Pool, id: number, progress: { done: number; cancelled: boolean }): Promise<void> {
  const told = await drizzleOn(pool)
    .update(importJob)
    .set({ done: progress.done, heardAt: sql`now()` })
    .where(and(eq(importJob.id, id), eq(importJob.state, 'running')))
    .returning({ cancelled: importJob.cancelWanted })
    .catch(() => []);
  if (told[0]?.cancelled) progress.cancelled = true;
}

export async function cancelImport(act: Act, id: number): Promise<contract.Import> {
  const job = await jobOf(act, id);
  if (importOf(job, act.now).state !== 'running') throw new Refusal(409, 'not-running', 'This import is not running.');
  await act.tx.db.update(importJob).set({ cancelWanted: true }).where(eq(importJob.id, id));
  return importOf(job, act.now);
}

/** The refused rows as they were, with the reasons behind, to be put right and brought in again. */
export async function refusedFile(act: Act, id: number): Promise<FileAnswer> {
  const job = await jobOf(act, id);
  const { kind, fileName } = job;
  const { fields, rows, report } = await contentOf(act, job);
  const named = exchangeKinds.find(({ key }) => key === kind) as ExchangeKind;
  const own = await ownNames(act, named);
  const headings = [...fields.map((field) => named.fields.find(({ key }) => key === field)?.name ?? own.get(field) ?? field), 'Line', 'Why'];
  const refused = report.filter(({ status }) => status === 'refused');
  const lines = refused.map(({ line, reasons }) => [...fields.map((field) => rows[line - 2]?.[field] ?? ''), String(line), reasons.join(' ')]);
  return csvFile(`refused-${fileName.replace(/\.\w+$/, '')}`, headings, [lines]);
}

export async function columnsKept({ tx, by }: Act, kind: string, headings: readonly string[]): Promise<{ fields: (string | null)[] | null }> {
  const [row] = await tx.db
    .select({ fields: keptColumns.fields })
    .from(keptColumns)
    .where(and(eq(keptColumns.personId, by.id), eq(keptColumns.kind, kind), eq(keptColumns.headings, headings.join('\t'))));
  return { fields: row?.fields ?? null };
}
