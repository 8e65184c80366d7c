import type * as contract from '@larder/contract/returns';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { insertRows } from '../../db/given';
import { customerReturn, customerReturnLine, standingMovement } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { nextNumber } from '../../documents/number';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { lockStraight } from './straightOn';
import { work, type Form, type WorkedReturn } from './work';

type Posted = ResponseOf<typeof contract.createReturn>;
const nothing: Posting = { movementId: null, effects: { rows: [], notes: [], costNotes: [] } };

/** Takes goods back, or writes down that they will come. */
export async function createReturn(act: Act, form: Form): Promise<Posted> {
  await lockSold(act, form);
  const worked = await work(act, form);
  if (act.tx.readOnly) return { id: null, number: null, ...(form.receive ? await receive(act, worked, 0) : nothing) };
  const at = act.now.toISOString();
  const [made] = await act.tx.db
    .insert(customerReturn)
    .values({ ...headOf(form), number: await nextNumber(act, 'customer return'), createdAt: at, createdBy: act.by.id })
    .returning({ id: customerReturn.id, number: customerReturn.number });
  if (!made) throw new Error('the return was written');
  await writeLines(act, made.id, form);
  return { ...made, ...(form.receive ? await receive(act, worked, made.id) : nothing) };
}

/** Changes a return that was not received, and receives it when the goods are here. */
export async function editReturn(act: Act, id: number, form: BodyOf<typeof contract.editReturn>): Promise<Posted> {
  await lockSold(act, form);
  const was = await takeReturn(act, id, form.version);
  if (was.state === 'discarded') throw new Refusal(409, 'discarded', `${was.number} is discarded; take that back first.`);
  const worked = await work(act, form);
  if (act.tx.readOnly) return { id, number: was.number, ...(form.receive ? await receive(act, worked, id) : nothing) };
  const { db } = act.tx;
  await db
    .update(customerReturn)
    .set({ ...headOf(form), version: sql`${customerReturn.version} + 1` })
    .where(eq(customerReturn.id, id));
  await db.delete(customerReturnLine).where(eq(customerReturnLine.returnId, id));
  await writeLines(act, id, form);
  const { customerId, siteId, cameOn, reference, note } = was;
  await recordChanges(act, 'customer return', id, { customerId, siteId, cameOn, reference, note }, headOf(form));
  return { id, number: was.number, ...(form.receive ? await receive(act, worked, id) : nothing) };
}

/** Discards a return that was not received, or takes that back. */
export async function discardReturn(
  act: Act,
  id: number,
  { version, discarded }: BodyOf<typeof contract.discardReturn>,
): Promise<ResponseOf<typeof contract.discardReturn>> {
  const was = await takeReturn(act, id, version);
  await act.tx.db
    .update(customerReturn)
    .set({ discardedAt: discarded ? act.now.toISOString() : null, version: sql`${customerReturn.version} + 1` })
    .where(eq(customerReturn.id, id));
  await recordChanges(act, 'customer return', id, { state: was.state }, { state: discarded ? 'discarded' : 'expected' });
  return {};
}

/** The orders that goods went out on, and before them those that they came straight from a supplier on. */
async function lockSold(act: Act, { lines }: Pick<Form, 'lines'>): Promise<void> {
  await lockStraight(act, lines);
  await lock.salesOrdersOf(
    act,
    lines.flatMap(({ salesLineId }) => salesLineId ?? []),
  );
}

/** A return that is to be changed: locked, at a site where the person takes goods back, as they saw it, and not received. */
async function takeReturn(act: Act, id: number, version: number) {
  await lock.returns(act, [id]);
  const [row] = await act.tx.db
    .select({ of: customerReturn, standing: standingMovement.id })
    .from(customerReturn)
    .leftJoin(standingMovement, eq(standingMovement.id, customerReturn.movementId))
    .where(and(eq(customerReturn.id, id)));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such return.');
  const { of, standing } = row;
  act.allow('outbound.return', of.siteId);
  refuseStale(version, of.version, of.number);
  if (standing !== null) throw new Refusal(409, 'received', `${of.number} is received; undo that before it is changed.`);
  return { ...of, state: of.discardedAt === null ? ('expected' as const) : ('discarded' as const) };
}

const headOf = ({ customerId, siteId, cameOn, reference, note }: Form) => ({ customerId, siteId, cameOn, reference, note });

const writeLines = (act: Act, returnId: number, { lines }: Form): Promise<void> =>
  insertRows(
    act.tx,
    customerReturnLine,
    lines.map(({ reasonId, ...line }, index) => ({ returnId, position: index + 1, ...line, reasonId: reasonId as number })),
  );

/** Posts what came back, and notes with which movement. */
async function receive(act: Act, { movement }: WorkedReturn, id: number): Promise<Posting> {
  const posting = await post(act, await movement(id));
  if (posting.movementId !== null) {
    await act.tx.db.update(customerReturn).set({ movementId: posting.movementId }).where(eq(customerReturn.id, id));
    await recordChanges(act, 'customer return', id, { state: 'expected' }, { state: 'received' });
  }
  return posting;
}
