import type * as contract from '@larder/contract/workRecords';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum, zero } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { eq, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { componentLine, item, movement, person, site, unit, untaken, untakenOpen, workOrder, workRecord } from '../../db/schema/index';
import { plain } from '../../db/text';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { workNow } from './orderQueries';
import { workPlaces } from './taking';

const readUntaken = ({ tx: { db } }: Act, where: SQL | undefined) =>
  db
    .select({
      id: untakenOpen.id,
      workOrderId: workOrder.id,
      number: workOrder.number,
      lineId: componentLine.id,
      siteId: site.id,
      site: site.name,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      open: plain(untakenOpen.open),
      since: movement.postedAt,
      person: person.name,
      reason: workRecord.untakenReason,
    })
    .from(untakenOpen)
    .innerJoin(componentLine, eq(componentLine.id, untakenOpen.lineId))
    .innerJoin(workOrder, eq(workOrder.id, untakenOpen.workOrderId))
    .innerJoin(site, eq(site.id, workOrder.siteId))
    .innerJoin(item, eq(item.id, componentLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(movement, eq(movement.id, untakenOpen.movementId))
    .innerJoin(person, eq(person.id, movement.personId))
    .innerJoin(workRecord, eq(workRecord.movementId, movement.id))
    .where(sql`${positive(untakenOpen.open)} and ${where ?? sql`true`}`)
    .orderBy(untakenOpen.id);

/** What was used on completed work and never taken from a shelf, oldest first. */
export async function listUntaken(act: Act, { siteId }: QueryOf<typeof contract.listUntaken>): Promise<ResponseOf<typeof contract.listUntaken>> {
  return { rows: await readUntaken(act, atSites(workOrder.siteId, act.sites('look', siteId))) };
}

/** One that is open, its order locked. */
async function heldUntaken(act: Act, id: number, right: 'making.record' | 'making.unrecorded') {
  const [order] = await act.tx.db.select({ id: untakenOpen.workOrderId }).from(untakenOpen).where(eq(untakenOpen.id, id));
  await lock.workOrders(act, order ? [order.id] : []);
  const [row] = await readUntaken(act, eq(untakenOpen.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'Nothing is open of this any more.');
  act.allow(right, row.siteId);
  return row;
}

/** Records from which bins it was taken: it leaves them and is used at once; since what was made of it is valued already, what it had cost is making variance. */
export async function recordUntaken(act: Act, id: number, form: BodyOf<typeof contract.recordUntaken>): Promise<Posting> {
  const row = await heldUntaken(act, id, 'making.record');
  const { items, bins } = await lineFacts(
    act,
    [row.itemId],
    form.lines.map(({ binId }) => binId),
  );
  const facts = items.get(row.itemId);
  refuseErrors(
    form.lines.flatMap(({ binId, lotId, quantity }, index): FieldError[] => {
      if (bins.get(binId)?.siteId !== row.siteId) return [{ field: `lines.${index}.binId`, sentence: 'That is not a bin of this site.' }];
      if (facts && (facts.tracking !== 'none') !== (lotId !== null))
        return [
          {
            field: `lines.${index}.lotId`,
            sentence: facts.tracking === 'none' ? `${row.sku} is kept without lots.` : `Say which ${facts.tracking} of ${row.sku}.`,
          },
        ];
      const fault = facts && quantityError(facts, quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  const all = sum(form.lines.map(({ quantity }) => decimal(quantity)));
  if (all.gt(row.open))
    throw refuseField(422, 'more-than-open', 'lines.0.quantity', `Only ${quantityText(decimal(row.open))} of ${row.sku} are open on ${row.number}.`);
  const { inWorkId, madeId } = await workPlaces(act, row.siteId);
  const now = await workNow(act, row.workOrderId);
  const lines = form.lines.flatMap(({ binId, lotId, quantity }, index): MovementLine[] => {
    const moved = { itemId: row.itemId, lotId, quantity: decimal(quantity), valuation: { by: 'current' as const }, field: `lines.${index}.quantity` };
    const serves = [{ kind: 'component' as const, lineId: row.lineId }];
    return [
      { ...moved, fromPlaceId: binId, toPlaceId: inWorkId, serves },
      { ...moved, fromPlaceId: inWorkId, toPlaceId: madeId, serves },
    ];
  });
  const work = { orderId: row.workOrderId, before: decimal(now.inProgress), charges: [], carried: null, toCome: zero, ends: true };
  return post(act, { kind: 'making', effectiveOn: act.today, lines, reasonId: null, reversesId: null, work, note: `used on ${row.number}, recorded later` });
}

/** Says that it will not be recorded: it is not open any more. */
export async function giveUpUntaken(
  act: Act,
  id: number,
  { reason }: BodyOf<typeof contract.giveUpUntaken>,
): Promise<ResponseOf<typeof contract.giveUpUntaken>> {
  await heldUntaken(act, id, 'making.unrecorded');
  await act.tx.db.update(untaken).set({ givenUpAt: act.now.toISOString(), givenUpBy: act.by.id, givenUpReason: reason }).where(eq(untaken.id, id));
  return {};
}
