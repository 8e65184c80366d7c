import { amountText } from '@larder/core/books/currency';
import { decimal, sum, zero } from '@larder/core/decimal';
import { Refusal, refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { BodyOf } from '@larder/contract/endpoint';
import { and, eq, isNotNull, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { bill, billLine, landedCharge, landedLine, landedReceipt, landedSheet, movementLine } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { nextNumber } from '../../documents/number';
import { Entry } from '../../ledger/entry';
import { companyCurrency } from '../../ledger/company';
import { lock } from '../../ledger/lock';
import { receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { postedLines, turnRound } from '../../ledger/turnRound';
import { addCharges, keepCharges, sharesOf, spreadOver } from './charges';
import { entryOf, planned, takenOff, write, type Planned } from './posting';
import { landedLines, sheet } from './queries';

type Form = BodyOf<typeof contract.createSheet>;

/** Spreads charges over receipts and posts the estimate: to stock as far as the goods are here, to cost of sales for what has gone. */
export async function createSheet(act: Act, form: Form): Promise<contract.LandedPosted> {
  const lines = await lockReceipts(act, form.movementIds);
  const facts = await landedLines(act, lines);
  const changes = await spreadOver(act, form, facts, lines, new Map());
  const plan = planned(changes, [], lines);
  const entry = await entryOf(act, plan, lines);
  if (act.tx.readOnly) return answer(null, null, plan, entry);
  const number = await nextNumber(act, 'landed cost');
  const [added] = await act.tx.db
    .insert(landedSheet)
    .values({ number, note: form.note, createdAt: act.now.toISOString(), createdBy: act.by.id })
    .returning({ id: landedSheet.id });
  const id = added?.id as number;
  await act.tx.db.insert(landedReceipt).values([...new Set(form.movementIds)].map((movementId) => ({ sheetId: id, movementId })));
  await act.tx.db.insert(landedLine).values(facts.map(({ lineId, quantity, value }) => ({ sheetId: id, lineId, quantity, value })));
  const ids = await addCharges(act, id, form.charges, 0);
  await write(act, id, number, plan, ids, entry);
  return answer(id, number, plan, entry);
}

/** Changes a worksheet whose changed charges have no bill yet; what differs is posted. */
export async function editSheet(act: Act, id: number, form: Form & { version: number }): Promise<contract.LandedPosted> {
  await lock.sheets(act, [id]);
  const was = await sheet(act, id);
  refuseStale(form.version, was.version, was.number);
  if (was.undone) throw new Refusal(409, 'undone', `${was.number} was undone; start a new worksheet.`);
  if (JSON.stringify([...form.movementIds].sort((a, b) => a - b)) !== JSON.stringify(was.movementIds))
    throw refuseField(409, 'other-receipts', 'movementIds', 'The receipts of a worksheet stay; undo it and start another.');
  const lines = await lockLines(act, was);
  const shares = await sharesOf(act, id);
  refuseBilled(was, form);
  const changes = await spreadOver(act, form, was.lines, lines, shares);
  const gone = was.charges.filter((charge) => !form.charges.some((one) => one.id === charge.id));
  const plan = planned(
    changes,
    gone.flatMap((charge) => takenOff(charge.id, lines, shares)),
    lines,
  );
  const entry = await entryOf(act, plan, lines);
  if (act.tx.readOnly) return answer(null, was.number, plan, entry);
  const ids = await keepCharges(act, id, form);
  const goneIds = gone.map((charge) => charge.id);
  await act.tx.db.update(landedCharge).set({ removedAt: act.now.toISOString() }).where(among(landedCharge.id, goneIds));
  await act.tx.db
    .update(landedSheet)
    .set({ version: was.version + 1, note: form.note })
    .where(eq(landedSheet.id, id));
  await recordChanges(act, 'worksheet', id, await inWords(act, was), await inWords(act, form));
  await write(act, id, was.number, plan, ids, entry);
  return answer(id, was.number, plan, entry);
}

/** What the history of a worksheet tells: its note, and its charges with what they come to. */
async function inWords(act: Act, { note, charges }: Pick<Form, 'note' | 'charges'>): Promise<{ note: string; charges: string }> {
  const own = await companyCurrency(act);
  const said = charges.map(
    ({ name, amount, currency = own, rate, by }) => `${name} ${amountText(currency, decimal(amount))} ${currency} at ${decimal(rate).toFixed()}, by ${by}`,
  );
  return { note, charges: said.join('; ') };
}

/** Takes a worksheet back whole: everything it posted is turned round; what has left with goods since stays with them. */
export async function undoSheet(act: Act, id: number): Promise<contract.LandedPosted> {
  await lock.sheets(act, [id]);
  const was = await sheet(act, id);
  if (was.undone) throw new Refusal(409, 'already-undone', `${was.number} was undone already.`);
  const billed = was.charges.find((charge) => charge.billed);
  if (billed) throw new Refusal(409, 'charge-billed', `${billed.name} of ${was.number} has been billed${await billsOf(act, billed.id)}. Undo that first.`);
  const lines = await lockLines(act, was);
  const shares = await sharesOf(act, id);
  const plan = planned(
    [],
    was.charges.flatMap((charge) => takenOff(charge.id, lines, shares)),
    lines,
  );
  const entry = await Entry.open(act);
  const accountOf = (account: 'inventoryAccount' | 'costAccount') => (lineId: number) => (lines.find((one) => one.lineId === lineId) as ReceiptLine)[account];
  turnRound(
    entry,
    await postedLines(act, 'sheet', id),
    plan.undone.map(({ cost }) => cost),
    { inventory: accountOf('inventoryAccount'), goneTo: accountOf('costAccount') },
  );
  if (act.tx.readOnly) return answer(null, was.number, plan, entry);
  const now = act.now.toISOString();
  await act.tx.db
    .update(landedCharge)
    .set({ removedAt: now })
    .where(and(eq(landedCharge.sheetId, id), isNull(landedCharge.removedAt)));
  await act.tx.db
    .update(landedSheet)
    .set({ version: was.version + 1, undoneAt: now })
    .where(eq(landedSheet.id, id));
  await write(act, id, was.number, plan, [], entry);
  return answer(id, was.number, plan, entry);
}

async function billsOf({ tx }: Act, chargeId: number): Promise<string> {
  const rows = await tx.db
    .selectDistinct({ number: bill.number })
    .from(billLine)
    .innerJoin(bill, eq(bill.id, billLine.billId))
    .where(and(eq(billLine.chargeId, chargeId), isNotNull(bill.postedAt), isNull(bill.undoneAt)));
  return rows.length > 0 ? ` (${rows.map(({ number }) => number).join(', ')})` : '';
}

/** The lines of receipts that a new charge can fall on, with their items' pools locked: what was not all sent back. */
async function lockReceipts(act: Act, movementIds: readonly number[]): Promise<ReceiptLine[]> {
  const items = await act.tx.db.selectDistinct({ itemId: movementLine.itemId }).from(movementLine).where(among(movementLine.movementId, movementIds));
  await lock.pools(
    act,
    items.map(({ itemId }) => itemId),
  );
  const lines = await receiptLines(act, { movementIds });
  const missing = movementIds.find((id) => !lines.some((line) => line.movementId === id));
  if (missing !== undefined) throw refuseField(404, 'no-such-receipt', 'movementIds', 'There is no such receipt.');
  if (lines.some(({ undone }) => undone))
    throw refuseField(409, 'receipt-undone', 'movementIds', 'One of these receipts was undone; no charge can fall on it.');
  const kept = lines.filter(({ net }) => net.gt(zero));
  if (kept.length === 0)
    throw refuseField(409, 'all-returned', 'movementIds', 'All of this went back to the supplier: there is nothing left that a charge can fall on.');
  return kept;
}

/** The lines a worksheet was made for, with their items' pools locked. */
async function lockLines(act: Act, was: contract.Sheet): Promise<ReceiptLine[]> {
  await lock.pools(
    act,
    was.lines.map(({ itemId }) => itemId),
  );
  const lines = await receiptLines(act, { movementIds: was.movementIds });
  return lines.filter(({ lineId }) => was.lines.some((line) => line.lineId === lineId));
}

function refuseBilled(was: contract.Sheet, form: Form): void {
  was.charges.forEach((charge) => {
    if (!charge.billed) return;
    const index = form.charges.findIndex(({ id }) => id === charge.id);
    const now = form.charges[index];
    const same = (a: readonly unknown[], b: readonly unknown[]) => JSON.stringify([...a].sort()) === JSON.stringify([...b].sort());
    if (now && decimal(now.amount).eq(charge.amount) && decimal(now.rate).eq(charge.rate) && now.by === charge.by && same(now.leftOut, charge.leftOut)) return;
    throw refuseField(409, 'charge-billed', `charges.${Math.max(0, index)}.amount`, `${charge.name} has been billed and stays as it is. Undo that bill first.`);
  });
}

function answer(id: number | null, number: string | null, { charges, undone }: Planned, entry: Entry): contract.LandedPosted {
  const sold = [
    ...charges.map(({ cost }) => cost.toGone),
    ...undone.map(({ cost }) => cost.posted.variance.minus(cost.posted.amount).minus(cost.toStock).minus(cost.variance)),
  ];
  return {
    id,
    number,
    toStock: sum([...charges, ...undone].map(({ cost }) => cost.toStock)).toFixed(2),
    toSold: sum(sold).toFixed(2),
    ...entry.effects(),
  };
}
