import { planCosts, type CostPart } from '@larder/core/costing/adjust';
import { landedCost, unmeasured, type LandedCharge, type LandedLine } from '@larder/core/costing/landed';
import { decimal, least, money, sum, zero, type Decimal } from '@larder/core/decimal';
import { Refusal, refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { BodyOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { landedCharge, landedReceipt, landedSheet } from '../../db/schema/index';
import { nextNumber } from '../../documents/number';
import { refuseStale } from '../../documents/changes';
import { Entry, writeCosts, writeEntry } from '../../ledger/entry';
import { lock } from '../../ledger/lock';
import { poolsOf, receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { landedLines, sheet } from './queries';

type Form = BodyOf<typeof contract.createSheet>;
type ChargeForm = Form['charges'][number];

interface Share {
  chargeId: number;
  lineId: number;
  amount: string;
  share: string;
}

/** One charge on one receipt line: what it was, what it is to be. */
interface Change {
  charge: number;
  lineId: number;
  leftOut: boolean;
  typed: Decimal | null;
  amount: Decimal;
  part: CostPart;
}

/** Spreads charges over receipts and posts the estimate: to stock as far as the goods are here, to cost of sales for what has gone. */
export async function createSheet(act: Act, form: Form): Promise<contract.LandedPosted> {
  const lines = await lockReceipts(act, form.movementIds);
  const changes = await spreadOver(act, form, lines, new Map());
  if (act.tx.readOnly) return await posted(act, null, null, changes, lines);
  const number = await nextNumber(act, 'landed cost');
  const [added] = await act.tx.db
    .insert(landedSheet)
    .values({ number, note: form.note, createdAt: act.now.toISOString(), createdBy: act.by.id })
    .returning({ id: landedSheet.id });
  const id = added?.id as number;
  await act.tx.db.insert(landedReceipt).values([...new Set(form.movementIds)].map((movementId) => ({ sheetId: id, movementId })));
  const ids = await addCharges(act, id, form.charges, 0);
  return posted(act, id, number, changes, lines, ids);
}

/** Changes a worksheet whose changed charges have no bill yet; what differs is posted. */
export async function editSheet(act: Act, id: number, form: Form & { version: number }): Promise<contract.LandedPosted> {
  await lock.sheets(act, [id]);
  const was = await sheet(act, id);
  refuseStale(form.version, was.version, was.number);
  if (was.undone) throw new Refusal(409, 'undone', `${was.number} was undone; start a new worksheet.`);
  if (JSON.stringify([...form.movementIds].sort((a, b) => a - b)) !== JSON.stringify(was.movementIds))
    throw refuseField(409, 'other-receipts', 'movementIds', 'The receipts of a worksheet stay; undo it and start another.');
  const lines = await lockReceipts(act, was.movementIds);
  const shares = await sharesOf(act, id);
  refuseBilled(was, form);
  const changes = await spreadOver(act, form, lines, shares);
  const gone = was.charges.filter((charge) => !form.charges.some((one) => one.id === charge.id));
  gone.forEach((charge) => changes.push(...takenOff(charge.id, lines, shares)));
  if (act.tx.readOnly) return posted(act, null, was.number, changes, lines);
  const ids = await keepCharges(act, id, form);
  await act.tx.rows('UPDATE landed_charge SET removed_at = $2 WHERE id = ANY($1)', [gone.map((charge) => charge.id), act.now.toISOString()]);
  await act.tx.rows('UPDATE landed_sheet SET version = version + 1, note = $2 WHERE id = $1', [id, form.note]);
  return posted(act, id, was.number, changes, lines, ids);
}

/** Takes a worksheet back whole, by the same rule. */
export async function undoSheet(act: Act, id: number): Promise<contract.LandedPosted> {
  await lock.sheets(act, [id]);
  const was = await sheet(act, id);
  if (was.undone) throw new Refusal(409, 'already-undone', `${was.number} was undone already.`);
  const billed = was.charges.find((charge) => charge.billed);
  if (billed) throw new Refusal(409, 'charge-billed', `${billed.name} of ${was.number} has been billed${await billsOf(act, billed.id)}. Undo that first.`);
  const lines = await lockReceipts(act, was.movementIds, true);
  const shares = await sharesOf(act, id);
  const changes = was.charges.flatMap((charge) => takenOff(charge.id, lines, shares));
  if (act.tx.readOnly) return posted(act, null, was.number, changes, lines);
  await act.tx.rows('UPDATE landed_charge SET removed_at = $2 WHERE sheet_id = $1 AND removed_at IS NULL', [id, act.now.toISOString()]);
  await act.tx.rows('UPDATE landed_sheet SET version = version + 1, undone_at = $2 WHERE id = $1', [id, act.now.toISOString()]);
  return posted(act, id, was.number, changes, lines);
}

async function billsOf({ tx }: Act, chargeId: number): Promise<string> {
  const rows = await tx.rows<{ number: string }>(
    'SELECT DISTINCT b.number FROM bill_line l JOIN bill b ON b.id = l.bill_id WHERE l.charge_id = $1 AND b.posted_at IS NOT NULL AND b.undone_at IS NULL',
    [chargeId],
  );
  return rows.length > 0 ? ` (${rows.map(({ number }) => number).join(', ')})` : '';
}

/** The lines of receipts that stand, with their items' pools locked. */
async function lockReceipts(act: Act, movementIds: readonly number[], undone = false): Promise<ReceiptLine[]> {
  const items = await act.tx.rows<{ itemId: number }>('SELECT DISTINCT item_id AS "itemId" FROM movement_line WHERE movement_id = ANY($1)', [movementIds]);
  await lock.pools(
    act,
    items.map(({ itemId }) => itemId),
  );
  const lines = await receiptLines(act, { movementIds });
  const missing = movementIds.find((id) => !lines.some((line) => line.movementId === id));
  if (missing !== undefined) throw refuseField(404, 'no-such-receipt', 'movementIds', 'There is no such receipt.');
  if (!undone && lines.some(({ net }) => net.isZero()))
    throw refuseField(409, 'receipt-undone', 'movementIds', 'One of these receipts was undone; no charge can fall on it.');
  return lines;
}

const sharesOf = async ({ tx }: Act, sheetId: number): Promise<Map<string, Share>> => {
  const rows = await tx.rows<Share>(
    'SELECT s.charge_id AS "chargeId", s.line_id AS "lineId", s.amount, s.share FROM landed_share s JOIN landed_charge c ON c.id = s.charge_id WHERE c.sheet_id = $1 AND c.removed_at IS NULL',
    [sheetId],
  );
  return new Map(rows.map((row) => [`${row.chargeId}/${row.lineId}`, row]));
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

async function spreadOver(act: Act, form: Form, lines: readonly ReceiptLine[], shares: ReadonlyMap<string, Share>): Promise<Change[]> {
  const facts = await landedLines(act, form.movementIds);
  const measured = facts.map((line): LandedLine => ({
    quantity: decimal(line.quantity),
    value: decimal(line.value),
    weight: decimal(line.weight ?? 0),
    volume: decimal(line.volume ?? 0),
  }));
  const charges = form.charges.map((charge, index): LandedCharge => {
    const leftOut = facts.flatMap(({ lineId }, at) => (charge.leftOut.includes(lineId) ? [at] : []));
    const typed = facts.map(({ lineId }) => decimal(charge.typed.find((one) => one.lineId === lineId)?.part ?? 0));
    const spread = { amount: money(decimal(charge.amount).times(charge.rate)), by: charge.by, leftOut, typed };
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
      const amount = results[at]?.shares[index] ?? zero;
      return {
        charge: index,
        lineId,
        leftOut: charge.leftOut.includes(lineId),
        typed: charge.by === 'typed' ? decimal(charge.typed.find((one) => one.lineId === lineId)?.part ?? 0) : null,
        amount,
        part: partOf(lineId, amount, lines, charge.id === undefined ? undefined : shares.get(`${charge.id}/${lineId}`)),
      };
    }),
  );
}

/** What is to be posted so that `amount` stands; no later share exceeds the earlier one. */
function partOf(lineId: number, amount: Decimal, lines: readonly ReceiptLine[], before: Share | undefined): CostPart {
  const line = lines.find((one) => one.lineId === lineId) as ReceiptLine;
  return {
    itemId: line.itemId,
    poolKey: line.poolKey,
    lineId,
    amount: amount.minus(before?.amount ?? 0),
    share: before ? least(decimal(before.share), line.here) : line.here,
  };
}

const takenOff = (chargeId: number, lines: readonly ReceiptLine[], shares: ReadonlyMap<string, Share>): (Change & { chargeId: number })[] =>
  lines.flatMap(({ lineId }) => {
    const before = shares.get(`${chargeId}/${lineId}`);
    return before ? [{ charge: -1, chargeId, lineId, leftOut: false, typed: null, amount: zero, part: partOf(lineId, zero, lines, before) }] : [];
  });

async function addCharges(act: Act, sheetId: number, charges: readonly ChargeForm[], from: number): Promise<number[]> {
  if (charges.length === 0) return [];
  const [company] = await act.tx.rows<{ currency: string }>('SELECT currency FROM company');
  const rows = await act.tx.db
    .insert(landedCharge)
    .values(
      charges.map((charge, index) => ({
        sheetId,
        position: from + index + 1,
        name: charge.name,
        by: charge.by,
        currency: charge.currency ?? company?.currency ?? '',
        rate: charge.rate,
        amount: charge.amount,
        estimate: money(decimal(charge.amount).times(charge.rate)).toFixed(2),
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
      [charge.id, sheetId, charge.name, charge.by, charge.rate, charge.amount, money(decimal(charge.amount).times(charge.rate)).toFixed(2), charge.partyId],
    );
    if (known.length === 0) throw refuseField(404, 'no-such-charge', 'charges', 'One of these charges is not on this worksheet.');
  }
  return ids;
}

/** Plans the changes and, with a worksheet to write to, writes them. */
async function posted(
  act: Act,
  id: number | null,
  number: string | null,
  changes: readonly (Change & { chargeId?: number })[],
  lines: readonly ReceiptLine[],
  chargeIds: readonly number[] = [],
): Promise<contract.LandedPosted> {
  const costs = planCosts(
    changes.map(({ part }) => part),
    poolsOf(lines),
  );
  const entry = await Entry.open(act);
  for (const { itemId, lineId, amount, toStock, toGone, variance } of costs) {
    const line = lines.find((one) => one.lineId === lineId) as ReceiptLine;
    entry.add(line.inventoryAccount, toStock, itemId);
    entry.add(line.costAccount, toGone);
    entry.add('cost-variance', variance);
    entry.add('landed-clearing', amount.neg());
  }
  if (id !== null && !act.tx.readOnly) {
    const chargeOf = (change: Change & { chargeId?: number }) => change.chargeId ?? (chargeIds[change.charge] as number);
    await act.tx.rows(
      `INSERT INTO landed_share (charge_id, line_id, left_out, typed, amount, share, to_stock) SELECT * FROM unnest($1::int[], $2::bigint[], $3::boolean[], $4::numeric[], $5::numeric[], $6::numeric[], $7::numeric[])
       ON CONFLICT (charge_id, line_id) DO UPDATE SET left_out = excluded.left_out, typed = excluded.typed, amount = excluded.amount, share = excluded.share, to_stock = landed_share.to_stock + excluded.to_stock`,
      [
        changes.map(chargeOf),
        changes.map(({ lineId }) => lineId),
        changes.map(({ leftOut }) => leftOut),
        changes.map(({ typed }) => typed?.toFixed(4) ?? null),
        changes.map(({ amount }) => amount.toFixed(2)),
        changes.map(({ part }) => part.share.toFixed(10)),
        costs.map(({ toStock }) => toStock.toFixed(2)),
      ],
    );
    const written = costs.map((cost, index) => ({ ...cost, chargeId: chargeOf(changes[index] as Change) }));
    await writeCosts(
      act,
      act.today,
      'landed cost',
      written.filter(({ amount }) => !amount.isZero()),
    );
    await writeEntry(act, { effectiveOn: act.today, text: `${number ?? ''}: landed cost`, sheetId: id }, entry);
  }
  return {
    id,
    number,
    toStock: sum(costs.map(({ toStock }) => toStock)).toFixed(2),
    toSold: sum(costs.map(({ toGone }) => toGone)).toFixed(2),
    ...entry.effects(),
  };
}
