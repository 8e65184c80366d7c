import { readNumber, type NumberKind } from '@larder/core/number';
import type { LandedForm, LandedLine, OrderedCharge, Sheet } from '@larder/contract/landed';
import { landedCost, unmeasured, type LandedCharge, type SpreadBy } from '@larder/core/costing/landed';
import { decimal, money, sum, zero, type Decimal } from '@larder/core/decimal';

/** A charge while it is typed. */
export interface ChargeDraft {
  id?: number;
  name: string;
  by: SpreadBy;
  amount: string;
  currency: string;
  rate: string;
  party: { id: number; name: string } | null;
  leftOut: readonly number[];
  /** Parts typed by hand, by receipt line. */
  typed: Readonly<Record<number, string>>;
  /** It has a bill already and stays as it is. */
  billed: boolean;
}

/** A worksheet while it is typed. */
export interface SheetDraft {
  charges: ChargeDraft[];
}

/** The field of a charge that something sent stands in; what has none of its own is said at the name. */
export function chargeField(path: string): string {
  const [list, at, name = ''] = path.split('.');
  return list === 'charges' && at !== undefined && !['amount', 'currency', 'rate'].includes(name) ? `charges.${at}.name` : path;
}

export const emptyCharge = (currency: string): ChargeDraft => ({
  name: '',
  by: 'value',
  amount: '',
  currency,
  rate: '1',
  party: null,
  leftOut: [],
  typed: {},
  billed: false,
});

/** What a new worksheet begins with: the charges its orders name, billed by their supplier, else a freight to be filled in. */
export const firstCharges = (ordered: readonly OrderedCharge[], currency: string): ChargeDraft[] =>
  ordered.length === 0
    ? [{ ...emptyCharge(currency), name: 'Freight' }]
    : ordered.map(({ partyId, party, ...charge }) => ({ ...emptyCharge(currency), ...charge, party: { id: partyId, name: party } }));

export const chargesOf = (sheet: Sheet): ChargeDraft[] =>
  sheet.charges.map(({ id, name, by, amount, currency, rate, partyId, party, leftOut, typed, billed }) => ({
    id,
    name,
    by,
    amount,
    currency,
    rate,
    party: partyId === null ? null : { id: partyId, name: party ?? '' },
    leftOut,
    typed: Object.fromEntries(typed.map(({ lineId, part }) => [lineId, part])),
    billed,
  }));

const isAbove = (text: string, kind: NumberKind): boolean => readNumber(text, kind)?.gt(0) ?? false;

/** Charges that are filled far enough to be spread. */
export const ready = (charge: ChargeDraft): boolean => isAbove(charge.amount, 'amount') && isAbove(charge.rate, 'rate');

/** What is wrong with what is typed of a charge; fields that are empty still are not wrong. */
export const chargeFaults = ({ amount, rate, currency }: ChargeDraft): { amount?: string; rate?: string; currency?: string } => ({
  ...(amount.trim() === '' || isAbove(amount, 'amount') ? {} : { amount: 'An amount above zero, such as 640.00.' }),
  ...(rate.trim() === '' || isAbove(rate, 'rate') ? {} : { rate: 'A rate above zero, such as 0.86.' }),
  ...(currency.trim() === '' || /^[A-Z]{3}$/.test(currency.trim()) ? {} : { currency: 'Three letters, such as EUR.' }),
});

/** A line with its share of each charge; null for a charge that cannot be spread yet. */
export interface WorkedLine {
  line: LandedLine;
  ordered: Decimal;
  billed: Decimal;
  shares: (Decimal | null)[];
  landed: Decimal;
}

export interface WorkedSheet {
  lines: WorkedLine[];
  /** In company currency, of each charge. */
  estimates: Decimal[];
  /** For each charge the lines that have nothing to measure it by. */
  without: LandedLine[][];
  goods: Decimal;
  total: Decimal;
}

/** The worksheet worked out as it is typed, by the same rules as when it is posted. Unit costs are for one base unit. */
export function workSheet(lines: readonly LandedLine[], charges: readonly ChargeDraft[]): WorkedSheet {
  const measured = lines.map((line) => ({
    quantity: decimal(line.quantity),
    value: decimal(line.value),
    weight: decimal(line.weight ?? 0),
    volume: decimal(line.volume ?? 0),
  }));
  const estimates = charges.map((charge) => (ready(charge) ? money(decimal(charge.amount.trim()).times(charge.rate.trim())) : zero));
  const spreads = charges.map(({ by, leftOut, typed }, index): LandedCharge => ({
    amount: estimates[index] ?? zero,
    by,
    leftOut: lines.flatMap(({ lineId }, at) => (leftOut.includes(lineId) ? [at] : [])),
    typed: lines.map(({ lineId }) => readNumber(typed[lineId] ?? '', 'amount') ?? zero),
  }));
  const missing = spreads.map((charge) => unmeasured(measured, charge));
  const spreadable = spreads.map((charge, index) => charge.leftOut?.length !== lines.length && missing[index]?.length === 0);
  const results = landedCost(
    measured,
    spreads.filter((_, index) => spreadable[index]),
  );
  const worked = lines.map((line, at): WorkedLine => {
    const own = [...(results[at]?.shares ?? [])];
    const shares = spreads.map((_, index) => (spreadable[index] ? (own.shift() ?? zero) : null));
    const billed = decimal(line.value).plus(line.billedDifference);
    const quantity = decimal(line.quantity);
    const total = sum([billed, ...shares.map((share) => share ?? zero)]);
    return { line, ordered: decimal(line.value).div(quantity), billed: billed.div(quantity), shares, landed: total.div(quantity) };
  });
  const goods = sum(lines.map((line) => decimal(line.value).plus(line.billedDifference)));
  return {
    lines: worked,
    estimates,
    without: missing.map((list) => list.flatMap((at) => lines[at] ?? [])),
    goods,
    total: goods.plus(sum(worked.flatMap(({ shares }) => shares.map((share) => share ?? zero)))),
  };
}

/** The worksheet as it is sent. */
export const sentSheet = (movementIds: readonly number[], note: string, charges: readonly ChargeDraft[]): LandedForm => ({
  movementIds: [...movementIds],
  note,
  charges: charges.map(({ id, name, by, amount, currency, rate, party, leftOut, typed }) => ({
    ...(id === undefined ? {} : { id }),
    name,
    by,
    amount: amount.trim(),
    currency,
    rate: rate.trim(),
    partyId: party?.id ?? null,
    leftOut: [...leftOut],
    typed: by === 'typed' ? Object.entries(typed).map(([lineId, part]) => ({ lineId: Number(lineId), part: part.trim() === '' ? '0' : part.trim() })) : [],
  })),
});
