import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, zero, type Decimal } from '../decimal';
import {
  creditable,
  creditedTaxes,
  creditOf,
  creditParts,
  invoicedAmount,
  openOf,
  openParts,
  overInvoiced,
  taxesOf,
  uncovered,
  type CreditedLine,
} from './invoicing';

const texts = (values: readonly Decimal[]) => values.map(String);
/** Half away from zero, in whole numbers: of `amount` cents the share `part` of `whole`. */
const share = (amount: bigint, part: bigint, whole: bigint): bigint => (2n * amount * part + whole) / (2n * whole);

describe('what of the goods that went out is to be invoiced', () => {
  const gone = (movementLineId: number, salesLineId: number, quantity: string, covered = '0', back = '0') => ({
    movementLineId,
    salesLineId,
    quantity: decimal(quantity),
    back: decimal(back),
    covered: decimal(covered),
  });
  const open = (...all: ReturnType<typeof gone>[]) =>
    openParts(openOf(all)).map(
      ({ quantity, covers }) => `${quantity.toFixed()}: ${covers.map((one) => `${one.quantity.toFixed()} of ${one.movementLineId}`).join(', ')}`,
    );
  test('what came back is not invoiced; what of it is invoiced already stands against what else of the line went out', () => {
    expect(open(gone(1, 7, '5', '0', '2'))).toEqual(['3: 3 of 1']);
    expect(open(gone(1, 7, '5', '3', '2'))).toEqual([]);
    expect(open(gone(1, 7, '5', '5', '2'), gone(2, 7, '3'))).toEqual(['1: 1 of 2']);
    expect(open(gone(1, 7, '5', '5', '5'), gone(2, 7, '3'))).toEqual([]);
    expect(open(gone(1, 7, '5', '5', '2'), gone(2, 8, '3'))).toEqual(['3: 3 of 2']);
  });
  test('credited is what the customer has not kept, from what was invoiced last', () => {
    const over = (dispatched: number, returned: number, invoiced: number) =>
      overInvoiced({ dispatched: decimal(dispatched), returned: decimal(returned), invoiced: decimal(invoiced) }).toFixed();
    expect([over(5, 2, 5), over(5, 2, 3), over(5, 5, 4), over(5, 0, 5)]).toEqual(['2', '0', '4', '0']);
    const invoiced = [3, 0, 2].map((quantity, lineId) => ({ lineId, quantity: decimal(quantity) }));
    expect(creditParts(invoiced, decimal(4)).map(({ lineId, quantity }) => [lineId, quantity.toFixed()])).toEqual([
      [2, '2'],
      [0, '2'],
    ]);
  });
  test('by order line, in the order it went, less what invoices cover; what is covered whole is left out', () => {
    const parts = openParts(openOf([gone(1, 7, '4', '4'), gone(2, 8, '1'), gone(3, 7, '5', '2'), gone(4, 7, '1')]));
    expect(parts.map(({ salesLineId, quantity, covers }) => [salesLineId, quantity.toFixed(), covers.map((one) => one.movementLineId)])).toEqual([
      [8, '1', [2]],
      [7, '4', [3, 4]],
    ]);
  });
  test('a line of 3 for 10.00, sent one by one: 3.33, 3.34, 3.33', () => {
    const line = { amount: decimal(10), baseQuantity: decimal(3) };
    let had = { quantity: zero, amount: zero };
    const asked = [1, 2, 3].map(() => {
      const amount = invoicedAmount(line, had, decimal(1));
      had = { quantity: had.quantity.plus(1), amount: had.amount.plus(amount) };
      return amount.toFixed(2);
    });
    expect(asked).toEqual(['3.33', '3.34', '3.33']);
  });
  test('yen have no decimals', () =>
    expect(invoicedAmount({ amount: decimal(10), baseQuantity: decimal(3) }, { quantity: zero, amount: zero }, decimal(1), 0).toFixed()).toBe('3'));
});

describe('tax of an invoice', () => {
  test('is rounded once for each rate, and once more in company currency', () => {
    const lines = [
      { amount: decimal('0.03'), rate: decimal('20') },
      { amount: decimal('0.02'), rate: decimal('20.0') },
      { amount: decimal('9'), rate: decimal(0) },
    ];
    expect(taxesOf(lines, decimal('0.85')).map(({ rate, base, tax, company }) => [rate, ...texts([base, tax, company])])).toEqual([
      ['20', '0.05', '0.01', '0.01'],
      ['0', '9', '0', '0'],
    ]);
  });
});

const line = (quantity: string | null, amount: string, company = amount): CreditedLine => ({
  quantity: quantity === null ? null : decimal(quantity),
  amount: decimal(amount),
  company: decimal(company),
  credited: { quantity: zero, byQuantity: zero, allowed: zero, company: zero },
});
/** Takes something off a line, and keeps count of it. */
function credit(on: CreditedLine, asked: { quantity: Decimal } | { amount: Decimal }): { amount: Decimal; company: Decimal } {
  const taken = creditOf(on, asked);
  if ('quantity' in asked) {
    on.credited.quantity = on.credited.quantity.plus(asked.quantity);
    on.credited.byQuantity = on.credited.byQuantity.plus(taken.amount);
  } else on.credited.allowed = on.credited.allowed.plus(taken.amount);
  on.credited.company = on.credited.company.plus(taken.company);
  return taken;
}

describe('credit notes', () => {
  test('one by one of three for 10.00 come to 10.00, and to 8.51 of the company', () => {
    const on = line('3', '10.00', '8.51');
    const taken = [1, 2, 3].map(() => credit(on, { quantity: decimal(1) }));
    expect(texts(taken.map(({ amount }) => amount))).toEqual(['3.33', '3.34', '3.33']);
    expect(String(sum(taken.map(({ company }) => company)))).toBe('8.51');
    expect(creditable(on).isZero()).toBe(true);
  });
  test('after an allowance of 1.00 off ten for 100.00, all ten are worth 99.00', () => {
    const on = line('10', '100.00');
    credit(on, { quantity: decimal(3) });
    credit(on, { amount: decimal('1.00') });
    expect(credit(on, { quantity: decimal(7) }).amount.toFixed(2)).toBe('69.00');
    expect(creditable(on).isZero()).toBe(true);
  });
  test('a line that cost nothing is credited at nothing', () =>
    expect(creditOf(line('2', '0'), { quantity: decimal(1) })).toEqual({ amount: zero, company: zero }));
  test('what went out last is no longer covered first', () =>
    expect(
      uncovered(
        [
          { at: 1, quantity: decimal(4) },
          { at: 2, quantity: decimal(3) },
        ],
        decimal(5),
      ).map(({ at, quantity }) => [at, quantity.toFixed()]),
    ).toEqual([
      [2, '3'],
      [1, '2'],
    ]));

  test('however a line is credited, whole it comes to what was asked, in both currencies and in tax (reckoned again in whole cents)', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 0, max: 100_000 }),
        fc.integer({ min: 1, max: 99_999 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { maxLength: 12 }),
        (many, cents, rate, steps) => {
          const amount = decimal(cents).div(100);
          const company = amount.times(rate).div(10_000).toDecimalPlaces(2);
          const on = line(String(many), amount.toFixed(2), company.toFixed(2));
          const twenty = decimal(20);
          const taxes = taxesOf([{ amount, rate: twenty }], decimal(rate).div(10_000));
          const before: typeof taxes = [];
          let gone = 0;
          for (const step of [...steps, many]) {
            const quantity = Math.min(step, many - gone);
            if (quantity === 0) continue;
            const taken = credit(on, { quantity: decimal(quantity) });
            before.push(...creditedTaxes(taxes, before, [{ amount: taken.amount, rate: twenty }]));
            gone += quantity;
            const upTo = share(BigInt(cents), BigInt(gone), BigInt(many));
            expect(on.credited.byQuantity.times(100).toFixed()).toBe(String(upTo));
            const companyCents = BigInt(company.times(100).toFixed());
            expect(on.credited.company.times(100).toFixed()).toBe(cents === 0 ? '0' : String(share(companyCents, upTo, BigInt(cents))));
            expect(
              sum(before.map(({ tax }) => tax))
                .times(100)
                .toFixed(),
            ).toBe(cents === 0 ? '0' : String(share(share(BigInt(cents), 20n, 100n), upTo, BigInt(cents))));
          }
          expect(creditable(on).isZero()).toBe(true);
          expect(on.credited.company.eq(company)).toBe(true);
          expect(sum(before.map((one) => one.company)).eq(sum(taxes.map((one) => one.company)))).toBe(true);
        },
      ),
    ));
});
