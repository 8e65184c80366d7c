import type { BookPurpose } from '@larder/core/books/purpose';
import { settleCharge } from '@larder/core/books/settle';
import { planCosts, type CostPart, type PlannedCost } from '@larder/core/costing/adjust';
import { decimal, money, spread, sum, zero, type Decimal } from '@larder/core/decimal';
import { receiptValue } from '@larder/core/inbound/amount';
import { goodsOpen } from '@larder/core/ledger/goodsOpen';
import { billedOfReceipts, differenceInWords } from '@larder/core/inbound/billing';
import { taxParts } from '@larder/core/outbound/tax';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type * as contract from '@larder/contract/bills';
import type { BodyOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { refuseErrors } from '../../documents/lines';
import { Entry } from '../../ledger/entry';
import { poolsOf, receiptLines, type ReceiptLine } from '../../ledger/receipts';

export type Form = BodyOf<typeof contract.createBill>;
type Line = Form['lines'][number];

interface OrderedLine {
  id: number;
  label: string;
  sku: string;
  supplierId: number;
  placed: boolean;
  baseQuantity: string;
  quantity: string;
  price: string;
  amount: string;
  rate: string;
  received: string;
  billed: string;
  /** Received and not billed, in company currency. */
  open: string;
}
interface Charge {
  id: number;
  label: string;
  estimate: string;
  cleared: string;
  over: boolean;
}

export interface WorkedLine {
  line: Line;
  text: string;
  /** In the bill's currency, before tax. */
  amount: Decimal;
  /** In company currency. */
  cleared: Decimal;
  difference: Decimal;
  costs: PlannedCost[];
  words: string;
}

export interface Worked {
  lines: WorkedLine[];
  net: Decimal;
  tax: Decimal;
  /** In company currency, above zero for a bill and for a credit. */
  owed: Decimal;
  entry: Entry;
  /** Goods that are billed before they have come. */
  ahead: string[];
}

/** Works out what a bill or credit comes to and what it does to stock and accounts. Nothing is written. */
export async function workOut(act: Act, form: Form): Promise<Worked> {
  const ordered = await orderedLines(act, form);
  const charges = await openCharges(act, form);
  const entry = await Entry.open(act);
  refuseLines(form, ordered, charges, entry);
  const receipts = await receiptLines(act, { purchaseLineIds: [...ordered.keys()] });
  const rate = decimal(form.rate);
  const billed = new Map([...ordered].map(([id, line]) => [id, decimal(line.billed)]));
  const open = new Map([...charges].map(([id, charge]) => [id, decimal(charge.estimate).minus(charge.cleared)]));
  const ahead: string[] = [];
  const drafts = form.lines.map((line): Omit<WorkedLine, 'costs'> & { parts: CostPart[] } => {
    const amount = amountOf(line, ordered);
    const company = money(amount.times(rate));
    const base = { line, amount, cleared: zero, difference: zero, words: '', parts: [] as CostPart[] };
    if (line.kind === 'other') return { ...base, text: line.text };
    if (line.kind === 'charge') {
      const settled = settleCharge(open.get(line.chargeId) ?? zero, company, line.final);
      open.set(line.chargeId, (open.get(line.chargeId) ?? zero).minus(settled.cleared));
      return {
        ...base,
        text: charges.get(line.chargeId)?.label ?? '',
        cleared: settled.cleared,
        difference: settled.variance,
        words: chargeWords(settled.variance),
      };
    }
    const at = ordered.get(line.purchaseLineId) as OrderedLine;
    const mine = receipts.filter(({ purchaseLineId }) => purchaseLineId === at.id);
    const text = `${at.label}, ${at.sku}`;
    if (line.kind === 'credit') {
      const weights = mine.map(({ net }) => net);
      return { ...base, text, difference: company.neg(), parts: partsOf(mine, weights, company.neg()), words: 'comes off what these goods cost' };
    }
    if (form.kind === 'credit') return { ...base, text, ...sentBack(at, decimal(line.quantity), company) };
    const before = billed.get(at.id) ?? zero;
    const quantity = decimal(line.quantity);
    billed.set(at.id, before.plus(quantity));
    if (before.plus(quantity).gt(at.received)) ahead.push(`${at.sku} on ${at.label}`);
    const cleared = receiptValue({ amount: decimal(at.amount), baseQuantity: decimal(at.baseQuantity), rate: decimal(at.rate) }, before, quantity);
    const difference = company.minus(cleared);
    const covered = billedOfReceipts(
      mine.map(({ net }) => net),
      before,
      quantity,
    );
    const words = differenceInWords({
      ordered: decimal(at.price),
      billed: decimal(line.price),
      quantity: quantity.times(at.quantity).div(at.baseQuantity),
      open: quantity.plus(decimal(at.received).minus(before).minus(quantity)).times(at.quantity).div(at.baseQuantity),
    });
    return { ...base, text, cleared, difference, parts: partsOf(mine, covered, difference), words };
  });
  const pools = poolsOf(receipts);
  const planned = planCosts(
    drafts.flatMap(({ parts }) => parts),
    pools,
  );
  const lines = drafts.map(({ parts, ...draft }, index): WorkedLine => {
    const from = sum(drafts.slice(0, index).map((one) => decimal(one.parts.length))).toNumber();
    return { ...draft, costs: planned.slice(from, from + parts.length) };
  });
  const taxes = await taxesOf(act, form, lines);
  const net = sum(lines.map(({ amount }) => amount));
  fill(entry, form, lines, receipts, taxes, new Map([...ordered].map(([lineId, at]) => [lineId, decimal(at.open)])));
  const tax = sum(taxes.map((one) => one.tax));
  return { lines, net, tax, owed: owedOf(form, lines, taxes), entry, ahead };
}

/** Goods that went back after they were billed: the credit takes their part off what was billed; what it is short of that is price variance. */
function sentBack(at: OrderedLine, quantity: Decimal, company: Decimal): Pick<WorkedLine, 'cleared' | 'difference' | 'words'> {
  const after = decimal(at.billed).minus(quantity);
  const cleared = receiptValue({ amount: decimal(at.amount), baseQuantity: decimal(at.baseQuantity), rate: decimal(at.rate) }, after, quantity).neg();
  return { cleared, difference: company.neg().minus(cleared), words: `for ${quantity.toFixed()} sent back` };
}

const chargeWords = (variance: Decimal): string =>
  variance.isZero() ? '' : `${variance.abs().toFixed(2)} ${variance.gt(zero) ? 'above' : 'below'} the estimate: landed cost variance`;

function amountOf(line: Line, ordered: ReadonlyMap<number, OrderedLine>): Decimal {
  if (line.kind !== 'goods') return decimal(line.amount);
  const at = ordered.get(line.purchaseLineId) as OrderedLine;
  return money(decimal(line.quantity).times(at.quantity).div(at.baseQuantity).times(line.price));
}

/** A difference over the receipts it falls on; what falls on goods that have not come, or have all gone back, is carried by the first share at nothing. */
function partsOf(receipts: readonly ReceiptLine[], weights: readonly Decimal[], difference: Decimal): CostPart[] {
  const on = receipts.map((receipt, index) => ({ receipt, weight: weights[index] ?? zero })).filter(({ weight }) => weight.gt(zero));
  if (on.length === 0 || difference.isZero()) return [];
  const amounts = spread(
    difference,
    on.map(({ weight }) => weight),
  );
  return on.map(({ receipt }, index) => ({
    itemId: receipt.itemId,
    poolKey: receipt.poolKey,
    lineId: receipt.lineId,
    amount: amounts[index] ?? zero,
    share: receipt.here,
  }));
}

interface TaxPart {
  tax: Decimal;
  recoverable: Decimal;
}

async function taxesOf(act: Act, form: Form, lines: readonly WorkedLine[]): Promise<TaxPart[]> {
  const ids = [...new Set(form.lines.flatMap(({ taxCodeId }) => (taxCodeId === null ? [] : [taxCodeId])))];
  const rates = await act.tx.rows<{ id: number; rate: string; recoverable: string }>(
    'SELECT DISTINCT ON (tax_code_id) tax_code_id AS id, rate, recoverable FROM tax_rate WHERE tax_code_id = ANY($1) AND from_day <= $2 ORDER BY tax_code_id, from_day DESC',
    [ids, form.billedOn],
  );
  return taxParts(
    lines.flatMap(({ line, amount }) => {
      const rate = rates.find(({ id }) => id === line.taxCodeId);
      return rate ? [{ amount, rate: decimal(rate.rate), recoverable: decimal(rate.recoverable) }] : [];
    }),
  );
}

const owedOf = (form: Form, lines: readonly WorkedLine[], taxes: readonly TaxPart[]): Decimal =>
  sum([...lines.map(({ amount }) => money(amount.times(form.rate))), ...taxes.map(({ tax }) => money(tax.times(form.rate)))]);

function fill(
  entry: Entry,
  form: Form,
  lines: readonly WorkedLine[],
  receipts: readonly ReceiptLine[],
  taxes: readonly TaxPart[],
  open: Map<number, Decimal>,
): void {
  const sign = form.kind === 'credit' ? -1 : 1;
  const add = (account: BookPurpose | number, amount: Decimal, itemId: number | null = null) => entry.add(account, amount, itemId);
  for (const { line, amount, cleared, difference, costs } of lines) {
    if (line.kind === 'charge') {
      add('landed-clearing', cleared);
      add('landed-variance', difference);
    } else if (line.kind === 'other') add(line.accountId, money(amount.times(form.rate)).times(sign));
    else {
      clearGoods(entry, open, line.purchaseLineId, cleared);
      for (const { itemId, lineId, toStock, toGone, variance } of costs) {
        const receipt = receipts.find((one) => one.lineId === lineId) as ReceiptLine;
        add(receipt.inventoryAccount, toStock, itemId);
        add(receipt.ours ? 'price-variance' : receipt.costAccount, toGone);
        add('cost-variance', variance);
      }
      add('price-variance', difference.minus(sum(costs.map((cost) => cost.amount))));
    }
  }
  for (const { tax, recoverable } of taxes) {
    const company = money(tax.times(form.rate));
    const back = money(recoverable.times(form.rate));
    add('purchase-tax', back.times(sign));
    add('other-costs', company.minus(back).times(sign));
  }
  add('payable', owedOf(form, lines, taxes).times(-sign));
}

/** Takes so much of an order line off what waits for a bill, or off the credit that is expected for it. */
export function clearGoods(entry: Entry, open: Map<number, Decimal>, purchaseLineId: number, cleared: Decimal): void {
  const before = open.get(purchaseLineId) ?? zero;
  const { grni, creditsExpected } = goodsOpen(before, before.minus(cleared));
  open.set(purchaseLineId, before.minus(cleared));
  entry.add('grni', grni);
  entry.add('credits-expected', creditsExpected);
}

async function orderedLines({ tx }: Act, form: Form): Promise<Map<number, OrderedLine>> {
  const ids = form.lines.flatMap((line) => (line.kind === 'goods' || line.kind === 'credit' ? [line.purchaseLineId] : []));
  const rows = await tx.rows<OrderedLine>(
    `SELECT l.id, o.number || ' line ' || l.position AS label, i.sku, o.supplier_id AS "supplierId", o.placed_at IS NOT NULL AS placed, l.base_quantity AS "baseQuantity", l.quantity, l.price, l.amount, o.rate, l.received, l.billed, l.received_value - l.billed_value AS open
     FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN item i ON i.id = l.item_id WHERE l.id = ANY($1)`,
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

async function openCharges({ tx }: Act, form: Form): Promise<Map<number, Charge>> {
  const ids = form.lines.flatMap((line) => (line.kind === 'charge' ? [line.chargeId] : []));
  const rows = await tx.rows<Charge>(
    `SELECT c.id, s.number || ', ' || c.name AS label, c.estimate, c.cleared, c.settled_at IS NOT NULL OR c.removed_at IS NOT NULL AS over FROM landed_charge c JOIN landed_sheet s ON s.id = c.sheet_id WHERE c.id = ANY($1)`,
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

function refuseLines(form: Form, ordered: ReadonlyMap<number, OrderedLine>, charges: ReadonlyMap<number, Charge>, entry: Entry): void {
  refuseErrors(
    form.lines.flatMap((line, index): FieldError[] => {
      const field = (name: string) => `lines.${index}.${name}`;
      if (line.kind === 'other') {
        if (!entry.isFree(line.accountId)) return [{ field: field('accountId'), sentence: 'Choose an account that is not kept by goods or bills themselves.' }];
        return [];
      }
      if (line.kind === 'charge') {
        const charge = charges.get(line.chargeId);
        if (!charge) return [{ field: field('chargeId'), sentence: 'There is no such charge.' }];
        if (charge.over) return [{ field: field('chargeId'), sentence: `${charge.label} is settled already; nothing more is expected.` }];
        return form.kind === 'credit' ? [{ field: field('amount'), sentence: 'A credit on a charge is entered as an other line.' }] : [];
      }
      const at = ordered.get(line.purchaseLineId);
      if (!at) return [{ field: field('purchaseLineId'), sentence: 'There is no such order line.' }];
      if (at.supplierId !== form.partyId) return [{ field: field('purchaseLineId'), sentence: `${at.label} was ordered from somebody else.` }];
      if (!at.placed) return [{ field: field('purchaseLineId'), sentence: `${at.label} has not been placed.` }];
      if (line.kind === 'credit' && form.kind !== 'credit') return [{ field: field('kind'), sentence: 'Only a credit takes amounts off.' }];
      if (line.kind === 'goods' && form.kind === 'credit' && decimal(line.quantity).gt(decimal(at.billed).minus(at.received)))
        return [{ field: field('quantity'), sentence: `Not so many of ${at.sku} were billed and sent back.` }];
      if (line.kind === 'credit' && decimal(at.received).isZero()) return [{ field: field('amount'), sentence: `Nothing has been received on ${at.label}.` }];
      return [];
    }),
  );
}

/** Refuses a number of theirs that was used before, unless the person knows; and goods that have not come, unless the bill shall wait. */
export async function refuseDoubts(act: Act, form: Form, worked: Worked, ownId: number | null): Promise<void> {
  const [party] = await act.tx.rows<{ name: string; used: string | null }>(
    `SELECT p.name, (SELECT b.number FROM bill b WHERE b.party_id = p.id AND lower(b.reference) = lower($2) AND b.kind = $3 AND b.undone_at IS NULL AND b.id IS DISTINCT FROM $4 LIMIT 1) AS used FROM party p WHERE p.id = $1`,
    [form.partyId, form.reference, form.kind, ownId],
  );
  if (!party) throw refuseField(404, 'no-such-party', 'partyId', 'Choose who bills this.');
  if (party.used !== null && !form.knownReference)
    throw refuseField(409, 'number-used', 'reference', `${party.name} used ${form.reference} before: it is ${party.used}. Enter it all the same?`, [
      'known-reference',
    ]);
  if (worked.ahead.length > 0 && !form.waits)
    throw new Refusal(
      409,
      'not-received',
      `Not so many have come: ${worked.ahead.join('; ')}. Let the bill wait for them?`,
      form.lines
        .flatMap((line, index) => (line.kind === 'goods' ? [{ field: `lines.${index}.quantity`, sentence: 'More than has come and is not billed yet.' }] : []))
        .slice(0, 1),
      ['waits'],
    );
}
