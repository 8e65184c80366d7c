import type * as contract from '@larder/contract/transfers';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { refuseField, Refusal, type FieldError } from '@larder/core/refusal';
import { changeFaults, lineBecomes, type LineNow } from '@larder/core/stock/transfers';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, updateRows } from '../../db/given';
import { carrier, documentLine, salesLine, site, transfer, transferTerms } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { addLines } from '../../documents/documentLines';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { changeDemand, type DecidedLine } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { transferNow } from './queries';

export { arrivingLines, type Arriving } from './arriving';
export { goingTransfers } from './going';

/** A transfer is written by people of either site: those who lack the goods, or those who have too many. */
export function allowEither(act: Act, { fromSiteId, toSiteId }: { fromSiteId: number; toSiteId: number }): void {
  const mine = act.sites('stock.transfer');
  if (mine !== null && !mine.includes(toSiteId)) act.allow('stock.transfer', fromSiteId);
}

interface Head {
  fromSiteId: number;
  toSiteId: number;
  sendBy: string;
  expectedOn: string | null;
  carrierId: number | null;
}
interface Wanted {
  itemId: number;
  quantity: string;
  fromBinId: number | null;
  toBinId: number | null;
  salesLineId: number | null;
}

/** Has a site send goods to another: what is free there is reserved, and the rest is short like any other demand. */
export async function createTransfer(act: Act, form: BodyOf<typeof contract.createTransfer>): Promise<ResponseOf<typeof contract.createTransfer>> {
  const { fromSiteId, toSiteId, lines, ...rest } = form;
  // The contract has refused none.
  return writeTransfer(act, { ...rest, fromSiteId: fromSiteId as number, toSiteId: toSiteId as number }, lines);
}

/** Writes a transfer and what it wants of its site. Pools of its items are locked by it, after the documents. `confirming`: the order that waits for it is just being confirmed. */
export async function writeTransfer(
  act: Act,
  head: Head & { tracking: string; note: string },
  lines: readonly Wanted[],
  { confirming = false } = {},
): Promise<ResponseOf<typeof contract.createTransfer>> {
  allowEither(act, head);
  await refuseHead(act, head);
  await refuseLines(act, head, lines, confirming);
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const number = act.tx.readOnly ? null : await nextNumber(act, 'transfer');
  let id: number | null = null;
  const added = lines.map(({ itemId, quantity }, index) => ({
    itemId,
    siteId: head.fromSiteId,
    kind: 'transfer' as const,
    number: number ?? '~',
    position: index + 1,
    neededOn: head.sendBy,
    promisedOn: null,
    wanted: decimal(quantity),
  }));
  const effects = await changeDemand(act, { decided: [], added }, async () => {
    const values = { ...head, number: number as string, createdAt: act.now.toISOString(), createdBy: act.by.id };
    const [made] = await act.tx.db.insert(transfer).values(values).returning({ id: transfer.id });
    id = made?.id as number;
    return insertLines(act, { id, number: number as string, ...head }, lines, 0);
  });
  return { id, number, movementId: null, effects };
}

/** Adds lines to a transfer, after those it has; gives their ids. */
async function insertLines(act: Act, head: Head & { id: number; number: string }, lines: readonly Wanted[], had: number): Promise<number[]> {
  const ids = await addLines(
    act,
    { kind: 'transfer', number: head.number, siteId: head.fromSiteId, bringsToId: head.toSiteId, draws: true, active: true },
    lines.map(({ itemId, quantity }, index) => ({ position: had + index + 1, itemId, baseQuantity: quantity, stocked: true, neededOn: head.sendBy })),
  );
  if (lines.length > 0)
    await act.tx.db
      .insert(transferTerms)
      .values(lines.map(({ fromBinId, toBinId, salesLineId }, index) => ({ id: ids[index] as number, transferId: head.id, fromBinId, toBinId, salesLineId })));
  return ids;
}

async function refuseHead({ tx: { db }, today }: Act, head: Head, sendBefore: string = today): Promise<void> {
  if (head.fromSiteId === head.toSiteId) throw refuseField(422, 'same-site', 'toSiteId', 'Choose another site than the one that sends.');
  const sites = await db
    .select({ id: site.id })
    .from(site)
    .where(and(among(site.id, [head.fromSiteId, head.toSiteId]), isNull(site.retiredAt)));
  for (const field of ['fromSiteId', 'toSiteId'] as const)
    if (!sites.some(({ id }) => id === head[field])) throw refuseField(404, 'no-such-site', field, 'There is no such site.');
  if (head.sendBy < today && head.sendBy < sendBefore) throw refuseField(422, 'past-day', 'sendBy', 'This day has passed already.');
  if (head.expectedOn !== null && head.expectedOn < head.sendBy)
    throw refuseField(422, 'before-it-leaves', 'expectedOn', 'It cannot arrive before it is sent.');
  await refuseCarrier(db, head.carrierId);
}

/** Refuses a carrier that is none, or was given up. */
export async function refuseCarrier(db: Act['tx']['db'], carrierId: number | null): Promise<void> {
  if (carrierId === null) return;
  const known = await db.$count(carrier, and(eq(carrier.id, carrierId), isNull(carrier.retiredAt)));
  if (known === 0) throw refuseField(422, 'no-such-carrier', 'carrierId', 'Choose a carrier from the list.');
}

async function refuseLines(act: Act, head: Pick<Head, 'fromSiteId' | 'toSiteId'>, lines: readonly Wanted[], confirming = false): Promise<void> {
  const binIds = lines.flatMap(({ fromBinId, toBinId }) => [fromBinId ?? [], toBinId ?? []].flat());
  const { items, bins } = await lineFacts(
    act,
    lines.map(({ itemId }) => itemId),
    binIds,
  );
  const sales = await shortLines(act, confirming ? [] : lines.flatMap(({ salesLineId }) => salesLineId ?? []));
  refuseErrors(
    lines.flatMap((line, index): FieldError[] => {
      const at = (name: string, sentence: string): FieldError[] => [{ field: `lines.${index}.${name}`, sentence }];
      const item = items.get(line.itemId);
      if (!item) return at('itemId', 'There is no such item.');
      if (item.retired) return at('itemId', `${item.sku} is retired.`);
      if (!item.stocked) return at('itemId', `${item.sku} is not kept in stock: there is nothing of it to send.`);
      const from = line.fromBinId === null ? null : bins.get(line.fromBinId);
      if (from !== null && (from?.siteId !== head.fromSiteId || !from.sellable))
        return at('fromBinId', 'That is not a bin to take from at the site that sends.');
      const to = line.toBinId === null ? null : bins.get(line.toBinId);
      if (to !== null && to?.siteId !== head.toSiteId) return at('toBinId', 'That bin is not at the site it goes to.');
      if (
        !confirming &&
        line.salesLineId !== null &&
        !sales.some(({ id, itemId, siteId }) => id === line.salesLineId && itemId === line.itemId && siteId === head.toSiteId)
      )
        return at('salesLineId', 'No open order line there wants this item.');
      const fault = quantityError(item, line.quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
}

const shortLines = async ({ tx: { db } }: Act, ids: readonly number[]) =>
  ids.length === 0
    ? []
    : db
        .select({ id: salesLine.id, itemId: salesLine.itemId, siteId: salesLine.siteId })
        .from(salesLine)
        .where(and(among(salesLine.id, ids), salesLine.active));

/** A transfer to be changed: locked, and as the person saw it. */
async function takeTransfer(act: Act, id: number, version: number) {
  await lock.transfers(act, [id]);
  const now = await transferNow(act, id);
  allowEither(act, now);
  refuseStale(version, now.version, now.number);
  return now;
}

type Transfer = Awaited<ReturnType<typeof takeTransfer>>;
const lineNow = (line: Transfer['lines'][number]): LineNow => ({
  id: line.id,
  sku: line.sku,
  base: decimal(line.quantity).plus(line.cancelled),
  cancelled: decimal(line.cancelled),
  picked: decimal(line.picked),
});

/** Changes how many of what are to go, as far as they are not picked, and when and how they go. */
export async function changeTransfer(act: Act, id: number, form: BodyOf<typeof contract.changeTransfer>): Promise<Posting> {
  const now = await takeTransfer(act, id, form.version);
  const { version: _version, lines: asked, ...rest } = form;
  const head = { ...rest, fromSiteId: now.fromSiteId, toSiteId: now.toSiteId };
  await refuseHead(act, head, now.sendBy);
  const unknown = asked.findIndex(({ id: lineId }) => lineId !== null && !now.lines.some((line) => line.id === lineId));
  if (unknown >= 0) throw refuseField(404, 'no-such-line', `lines.${unknown}.id`, `That line is not on ${now.number}.`);
  refuseErrors(
    asked.flatMap(({ id: lineId, itemId }, index) => {
      const line = now.lines.find((one) => one.id === lineId);
      return line && line.itemId !== itemId ? [{ field: `lines.${index}.itemId`, sentence: 'Take this line off, and add another for another item.' }] : [];
    }),
  );
  await refuseLines(act, head, asked);
  refuseErrors(changeFaults(now.lines.map(lineNow), asked, decimal));
  return become(act, now, head, asked);
}

/** Cancels what is not picked of a transfer; what is picked or gone stays what it is. */
export async function cancelTransfer(act: Act, id: number, { version }: BodyOf<typeof contract.cancelTransfer>): Promise<Posting> {
  const now = await takeTransfer(act, id, version);
  if (now.lines.every((line) => decimal(line.picked).eq(line.quantity)))
    throw new Refusal(409, 'nothing-to-cancel', `All of ${now.number} is picked or has gone.`);
  const { sendBy, expectedOn, carrierId, tracking, note, fromSiteId, toSiteId } = now;
  return become(act, now, { sendBy, expectedOn, carrierId, tracking, note, fromSiteId, toSiteId }, []);
}

/** Lines that are asked for become what they say; of the others what is not picked is cancelled. */
async function become(
  act: Act,
  now: Transfer,
  head: Head & { tracking: string; note: string },
  asked: readonly (Wanted & { id: number | null })[],
): Promise<Posting> {
  const fresh = asked.filter(({ id }) => id === null);
  await lock.pools(
    act,
    [...now.lines, ...fresh].map(({ itemId }) => itemId),
  );
  const becomes = now.lines.map((line) => {
    const quantity = decimal(asked.find(({ id }) => id === line.id)?.quantity ?? line.picked);
    return { line, quantity, ...lineBecomes(lineNow(line), quantity) };
  });
  const decided = becomes.map(({ line, quantity }): DecidedLine => ({
    id: line.id,
    itemId: line.itemId,
    siteId: now.fromSiteId,
    becomes: { siteId: now.fromSiteId, wanted: quantity.minus(line.picked), neededOn: head.sendBy, promisedOn: null },
  }));
  const { number, fromSiteId: siteId } = now;
  const added = fresh.map(({ itemId, quantity }, index) => ({
    itemId,
    siteId,
    kind: 'transfer' as const,
    number,
    position: now.lines.length + index + 1,
    neededOn: head.sendBy,
    promisedOn: null,
    wanted: decimal(quantity),
  }));
  const effects = await changeDemand(act, { decided, added }, async () => {
    const { fromSiteId: _from, toSiteId: _to, ...set } = head;
    await act.tx.db
      .update(transfer)
      .set({ ...set, version: now.version + 1 })
      .where(eq(transfer.id, now.id));
    await updateRows(
      act.tx,
      documentLine,
      becomes.map(({ line, base, cancelled }) => ({ id: line.id, baseQuantity: base.toFixed(), cancelled: cancelled.toFixed(), neededOn: head.sendBy })),
    );
    await updateRows(
      act.tx,
      transferTerms,
      asked.flatMap(({ id, fromBinId, toBinId }) => (id === null ? [] : [{ id, fromBinId, toBinId }])),
    );
    const ids = await insertLines(act, { ...head, id: now.id, number }, fresh, now.lines.length);
    await recordChanges(act, 'transfer', now.id, saidOf(now), saidOf(await transferNow(act, now.id)));
    return ids;
  });
  return { movementId: null, effects };
}

/** A transfer in words: what its history tells. */
const saidOf = ({ sendBy, expectedOn, carrier: by, tracking, note, lines }: Transfer) => ({
  sendBy,
  expectedOn: expectedOn ?? '',
  carrier: by ?? '',
  tracking,
  note,
  lines: lines
    .filter(({ quantity }) => decimal(quantity).gt(0))
    .map(({ sku, quantity }) => `${quantity} ${sku}`)
    .join(', '),
});
