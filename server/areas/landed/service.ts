import { amountFault, currencyFaults } from '@larder/core/books/currency';
import {
  notCharged,
  planCharges,
  planUndone,
  postedCharge,
  type Charged,
  type ChargePart,
  type PlannedCharge,
  type UndoneCost,
} from '@larder/core/costing/adjust';
import { landedCost, unmeasured, type LandedCharge, type LandedLine } from '@larder/core/costing/landed';
import { decimal, money, moneyLimit, sum, zero, type Decimal } from '@larder/core/decimal';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { BodyOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { landedCharge, landedLine, landedReceipt, landedSheet } from '../../db/schema/index';
import { refuseErrors } from '../../documents/lines';
import { nextNumber } from '../../documents/number';
import { refuseStale } from '../../documents/changes';
import { companyCurrency } from '../../ledger/company';
import { Entry, writeCosts, writeEntry } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { poolsOf, receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { postedLines, turnRound } from '../../ledger/turnRound';
import { landedLines, sheet } from './queries';

type Form = BodyOf<typeof contract.createSheet>;
type ChargeForm = Form['charges'][number];

/** One charge on one receipt line: what it was, what it is to be. */
interface Change extends ChargePart {
  charge: number;
  lineId: number;
  leftOut: boolean;
  typed: Decimal | null;
}

/** A charge on a receipt line that is taken off. */
interface TakenOff {
  chargeId: number;
  bearer: ReceiptLine;
  before: Charged;
}

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
  await act.tx.rows('UPDATE landed_charge SET removed_at = $2 WHERE id = ANY($1)', [gone.map((charge) => charge.id), act.now.toISOString()]);
  await act.tx.rows('UPDATE landed_sheet SET version = version + 1, note = $2 WHERE id = $1', [id, form.note]);
  await write(act, id, was.number, plan, ids, entry);
  return answer(id, was.number, plan, entry);
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
  await act.tx.rows('UPDATE landed_charge SET removed_at = $2 WHERE sheet_id = $1 AND removed_at IS NULL', [id, act.now.toISOString()]);
  await act.tx.rows('UPDATE landed_sheet SET version = version + 1, undone_at = $2 WHERE id = $1', [id, act.now.toISOString()]);
  await write(act, id, was.number, plan, [], entry);
  return answer(id, was.number, plan, entry);
}

async function billsOf({ tx }: Act, chargeId: number): Promise<string> {
  const rows = await tx.rows<{ number: string }>(
    'SELECT DISTINCT b.number FROM bill_line l JOIN bill b ON b.id = l.bill_id WHERE l.charge_id = $1 AND b.posted_at IS NOT NULL AND b.undone_at IS NULL',
    [chargeId],
  );
  return rows.length > 0 ? ` (${rows.map(({ number }) => number).join(', ')})` : '';
}

/** The lines of receipts that a new charge can fall on, with their items' pools locked: what was not all sent back. */
async function lockReceipts(act: Act, movementIds: readonly number[]): Promise<ReceiptLine[]> {
  const items = await act.tx.rows<{ itemId: number }>('SELECT DISTINCT item_id AS "itemId" FROM movement_line WHERE movement_id = ANY($1)', [movementIds]);
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

const sharesOf = async ({ tx }: Act, sheetId: number): Promise<Map<string, Charged>> => {
  const rows = await tx.rows<{ chargeId: number; lineId: number; amount: string; brought: string; here: string; weight: string; toStock: string }>(
    'SELECT s.charge_id AS "chargeId", s.line_id AS "lineId", s.amount, s.brought, s.here, s.weight, s.to_stock AS "toStock" FROM landed_share s JOIN landed_charge c ON c.id = s.charge_id WHERE c.sheet_id = $1 AND c.removed_at IS NULL',
    [sheetId],
  );
  return new Map(
    rows.map(({ chargeId, lineId, amount, brought, here, weight, toStock }) => [
      `${chargeId}/${lineId}`,
      { amount: decimal(amount), of: decimal(brought), here: decimal(here), weight: decimal(weight), toStock: decimal(toStock) },
    ]),
  );
};

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

async function spreadOver(
  act: Act,
  form: Form,
  facts: readonly contract.LandedLine[],
  lines: readonly ReceiptLine[],
  shares: ReadonlyMap<string, Charged>,
): Promise<Change[]> {
  refuseCharges(form, await companyCurrency(act));
  const measured = facts.map((line): LandedLine => ({
    quantity: decimal(line.quantity),
    value: decimal(line.value),
    weight: decimal(line.weight ?? 0),
    volume: decimal(line.volume ?? 0),
  }));
  const charges = form.charges.map((charge, index): LandedCharge => {
    const leftOut = facts.flatMap(({ lineId }, at) => (charge.leftOut.includes(lineId) ? [at] : []));
    const typed = facts.map(({ lineId }) => decimal(charge.typed.find((one) => one.lineId === lineId)?.part ?? 0));
    const spread = { amount: estimateOf(charge), by: charge.by, leftOut, typed };
    if (leftOut.length === facts.length) throw refuseField(422, 'nothing-left', `charges.${index}.leftOut`, `${charge.name} falls on no line at all.`);
    const without = unmeasured(measured, spread);
    if (without.length > 0)
      throw refuseField(
        422,
        'not-measured',
        `charges.${index}.by`,
        `${charge.name} cannot be spread by ${charge.by}: ${without.map((at) => facts[at]?.sku).join(', ')} ${without.length === 1 ? 'has' : 'have'} none.`,
      );
    return spread;
  });
  const results = landedCost(measured, charges);
  return form.charges.flatMap((charge, index) =>
    facts.map(({ lineId }, at): Change => {
      const bearer = lines.find((one) => one.lineId === lineId) as ReceiptLine;
      return {
        charge: index,
        lineId,
        leftOut: charge.leftOut.includes(lineId),
        typed: charge.by === 'typed' ? decimal(charge.typed.find((one) => one.lineId === lineId)?.part ?? 0) : null,
        bearer,
        before: (charge.id === undefined ? undefined : shares.get(`${charge.id}/${lineId}`)) ?? notCharged(bearer.net),
        amount: results[at]?.shares[index] ?? zero,
      };
    }),
  );
}

/** A charge in company currency, whole cents. */
const estimateOf = ({ amount, rate }: ChargeForm): Decimal => money(decimal(amount).times(rate));

/** What is wrong with charges' currencies, rates and amounts, by the field. */
function refuseCharges(form: Form, company: string): void {
  refuseErrors(
    form.charges.flatMap((charge, index): FieldError[] => {
      const currency = charge.currency ?? company;
      const [fault] = currencyFaults(currency, charge.rate, company);
      if (fault) return [{ field: `charges.${index}.${fault.field}`, sentence: fault.sentence }];
      const odd = amountFault(charge.amount, currency) ?? (estimateOf(charge).gte(moneyLimit) ? 'This comes to more than any account can hold.' : null);
      return odd ? [{ field: `charges.${index}.amount`, sentence: odd }] : [];
    }),
  );
}

const takenOff = (chargeId: number, lines: readonly ReceiptLine[], shares: ReadonlyMap<string, Charged>): TakenOff[] =>
  lines.flatMap((bearer) => {
    const before = shares.get(`${chargeId}/${bearer.lineId}`);
    return before ? [{ chargeId, bearer, before }] : [];
  });

async function addCharges(act: Act, sheetId: number, charges: readonly ChargeForm[], from: number): Promise<number[]> {
  if (charges.length === 0) return [];
  const company = await companyCurrency(act);
  const rows = await act.tx.db
    .insert(landedCharge)
    .values(
      charges.map((charge, index) => ({
        sheetId,
        position: from + index + 1,
        name: charge.name,
        by: charge.by,
        currency: charge.currency ?? company,
        rate: charge.rate,
        amount: charge.amount,
        estimate: estimateOf(charge).toFixed(2),
        partyId: charge.partyId,
      })),
    )
    .returning({ id: landedCharge.id });
  return rows.map(({ id }) => id);
}

/** Writes the charges as they are now; returns their ids in the order of the form. */
async function keepCharges(act: Act, sheetId: number, form: Form): Promise<number[]> {
  const added = await addCharges(
    act,
    sheetId,
    form.charges.filter(({ id }) => id === undefined),
    form.charges.length,
  );
  const ids: number[] = [];
  for (const charge of form.charges) {
    if (charge.id === undefined) {
      ids.push(added.shift() as number);
      continue;
    }
    ids.push(charge.id);
    const known = await act.tx.rows(
      'UPDATE landed_charge SET name = $3, by = $4, rate = $5, amount = $6, estimate = $7, party_id = $8 WHERE id = $1 AND sheet_id = $2 AND removed_at IS NULL RETURNING id',
      [charge.id, sheetId, charge.name, charge.by, charge.rate, charge.amount, estimateOf(charge).toFixed(2), charge.partyId],
    );
    if (known.length === 0) throw refuseField(404, 'no-such-charge', 'charges', 'One of these charges is not on this worksheet.');
  }
  return ids;
}

/** What a worksheet posts: charges as they are to be, and those taken off. */
interface Planned {
  charges: { change: Change; cost: PlannedCharge }[];
  undone: { taken: TakenOff; cost: UndoneCost }[];
}

function planned(changes: readonly Change[], taken: readonly TakenOff[], lines: readonly ReceiptLine[]): Planned {
  const pools = poolsOf(lines);
  const undone = planUndone(
    taken.map(({ bearer, before }) => postedCharge(bearer, before)),
    pools,
  );
  // What is taken off is off the pools before anything is put on.
  for (const { poolKey, toStock } of undone) {
    const pool = pools.get(poolKey);
    if (pool) pools.set(poolKey, { ...pool, value: pool.value.plus(toStock) });
  }
  const costs = planCharges(changes, pools);
  return {
    charges: changes.map((change, index) => ({ change, cost: costs[index] as PlannedCharge })),
    undone: taken.map((one, index) => ({ taken: one, cost: undone[index] as UndoneCost })),
  };
}

/** The entry of charges put on, changed and taken off. */
async function entryOf(act: Act, { charges, undone }: Planned, lines: readonly ReceiptLine[]): Promise<Entry> {
  const entry = await Entry.open(act);
  const lineOf = (lineId: number) => lines.find((one) => one.lineId === lineId) as ReceiptLine;
  for (const { cost } of charges) {
    entry.add(lineOf(cost.lineId).inventoryAccount, cost.toStock, cost.itemId);
    entry.add(lineOf(cost.lineId).costAccount, cost.toGone);
    entry.add('cost-variance', cost.variance);
    entry.add('landed-clearing', cost.amount.neg());
  }
  for (const { cost } of undone) {
    const { amount, toStock, variance } = cost.posted;
    entry.add(lineOf(cost.lineId).inventoryAccount, cost.toStock, cost.itemId);
    entry.add(lineOf(cost.lineId).costAccount, cost.toGone.minus(amount.minus(toStock).minus(variance)));
    entry.add('cost-variance', cost.variance.minus(variance));
    entry.add('landed-clearing', amount);
  }
  return entry;
}

/** Writes what each charge has come to on each line, the changes of cost, and the entry. */
async function write(act: Act, id: number, number: string, { charges, undone }: Planned, chargeIds: readonly number[], entry: Entry): Promise<void> {
  const shares = [
    ...charges.map(({ change, cost: { after } }) => ({
      chargeId: chargeIds[change.charge] as number,
      lineId: change.lineId,
      leftOut: change.leftOut,
      typed: change.typed,
      after,
    })),
    ...undone.map(({ taken: { chargeId, before }, cost }) => ({
      chargeId,
      lineId: cost.lineId,
      leftOut: false,
      typed: null,
      after: { ...before, amount: zero, weight: zero, toStock: before.toStock.plus(cost.toStock) },
    })),
  ];
  await act.tx.rows(
    `INSERT INTO landed_share (charge_id, line_id, left_out, typed, amount, brought, here, weight, to_stock)
     SELECT * FROM unnest($1::int[], $2::bigint[], $3::boolean[], $4::numeric[], $5::numeric[], $6::numeric[], $7::numeric[], $8::numeric[], $9::numeric[])
     ON CONFLICT (charge_id, line_id) DO UPDATE SET left_out = excluded.left_out, typed = excluded.typed, amount = excluded.amount, here = excluded.here, weight = excluded.weight, to_stock = excluded.to_stock`,
    [
      shares.map(({ chargeId }) => chargeId),
      shares.map(({ lineId }) => lineId),
      shares.map(({ leftOut }) => leftOut),
      shares.map(({ typed }) => typed?.toFixed(4) ?? null),
      shares.map(({ after }) => after.amount.toFixed(2)),
      shares.map(({ after }) => after.of.toFixed()),
      shares.map(({ after }) => after.here.toFixed()),
      shares.map(({ after }) => after.weight.toFixed()),
      shares.map(({ after }) => after.toStock.toFixed(2)),
    ],
  );
  const costs = [
    ...charges.map(({ change, cost }) => ({ ...cost, here: cost.after.here, chargeId: chargeIds[change.charge] as number })),
    ...undone.map(({ taken, cost }) => ({
      ...cost,
      amount: cost.posted.amount.neg(),
      variance: cost.variance.minus(cost.posted.variance),
      here: taken.before.here,
      chargeId: taken.chargeId,
    })),
  ];
  await writeCosts(
    act,
    act.today,
    'landed cost',
    costs.filter(({ amount, toStock }) => !amount.isZero() || !toStock.isZero()),
  );
  await writeEntry(act, { effectiveOn: act.today, text: `${number}: landed cost`, sheetId: id }, entry);
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
