import { afterChange, emptyTally, type DeskChange, type Tally } from '@larder/core/inbound/tally';
import type { Act } from '../../act';

interface Kept {
  tally: Tally;
  version: number;
}

const keptKeys = 2000;

/** What the person has counted at the desk and not received yet. */
export async function tallyOf({ tx, by }: Act): Promise<Kept> {
  const [kept] = await tx.rows<Kept>('SELECT tally, version FROM desk_tally WHERE person_id = $1', [by.id]);
  return kept ?? { tally: emptyTally, version: 0 };
}

/** Adds what was done at the desk, on whichever machine; what is sent a second time is known by its key and passed over. */
export async function changeTally(act: Act, changes: readonly DeskChange[]): Promise<Kept> {
  const { tx, by, now } = act;
  await allowLines(act, changes);
  await tx.rows('INSERT INTO desk_tally (person_id, tally, changed_at) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING', [
    by.id,
    JSON.stringify(emptyTally),
    now.toISOString(),
  ]);
  const [was] = await tx.rows<Kept & { done: string[] }>('SELECT tally, version, done FROM desk_tally WHERE person_id = $1 FOR UPDATE', [by.id]);
  if (!was) throw new Error('the tally was just made');
  const done = new Set(was.done);
  let { tally } = was;
  for (const change of changes) {
    if (done.has(change.key)) continue;
    done.add(change.key);
    tally = afterChange(tally, change);
  }
  return keep(tx, by.id, now, tally, was.version + 1, [...done].slice(-keptKeys));
}

/** What is counted on lines of an order needs the right at the order's site; the rest is the person's own. */
async function allowLines(act: Act, changes: readonly DeskChange[]): Promise<void> {
  act.allowOwn('inbound.receive');
  const lineIds = changes.flatMap((change) => (change.what === 'scan' ? change.parts : change.what === 'put' ? change.lines : []).map(({ lineId }) => lineId));
  if (lineIds.length === 0) return;
  const sites = await act.tx.rows<{ id: number }>('SELECT DISTINCT site_id AS id FROM document_line WHERE id = ANY($1)', [lineIds]);
  for (const { id } of sites) act.allow('inbound.receive', id);
}

/** Takes what was received off what the person has counted; what was set aside stays. */
export async function clearTally({ tx, by, now }: Act, lineIds: readonly number[]): Promise<void> {
  const [was] = await tx.rows<Kept & { done: string[] }>('SELECT tally, version, done FROM desk_tally WHERE person_id = $1 FOR UPDATE', [by.id]);
  if (!was) return;
  const lines = Object.fromEntries(Object.entries(was.tally.lines).filter(([id]) => !lineIds.includes(Number(id))));
  await keep(tx, by.id, now, { ...emptyTally, lines, aside: was.tally.aside }, was.version + 1, was.done);
}

async function keep(tx: Act['tx'], personId: number, now: Date, tally: Tally, version: number, done: readonly string[]): Promise<Kept> {
  await tx.rows('UPDATE desk_tally SET tally = $2, version = $3, done = $4, changed_at = $5 WHERE person_id = $1', [
    personId,
    JSON.stringify(tally),
    version,
    done,
    now.toISOString(),
  ]);
  return { tally, version };
}
