import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, zero } from '../decimal';
import { comingBack, comingBackFaults, heldOf, whereFault, type AskedBack, type SentOut } from './comingBack';

const sent = (lineId: number, quantity: string, cost: string, part: Partial<SentOut> = {}): SentOut => ({
  lineId,
  salesLineId: 7,
  lotId: null,
  purchaseLineId: null,
  day: '2026-03-05',
  sent: { quantity: decimal(quantity), amount: decimal(cost) },
  back: { quantity: zero, amount: zero },
  ...part,
});
const back = (quantity: string, lotId: number | null = null, salesLineId = 7) => ({ salesLineId, lotId, straight: false, quantity: decimal(quantity) });
const told = (parts: ReturnType<typeof comingBack>) =>
  parts.map((of) => of.map(({ ofLineId, quantity, value }) => `${quantity.toFixed()} of ${ofLineId} at ${value.toFixed(2)}`));

describe('what goods went out with', () => {
  test('the oldest first, each at what it left for; two lines of the same take one after the other', () => {
    const out = [sent(1, '3', '10.00'), sent(2, '2', '9.00')];
    expect(told(comingBack(out, [back('2'), back('2')], 5))).toEqual([['2 of 1 at 6.67'], ['1 of 1 at 3.33', '1 of 2 at 4.50']]);
    expect(comingBack(out, [back('1')], 5)[0]?.[0]?.returnId).toBe(5);
  });
  test('what came back before is not there any more, nor is another line or lot', () => {
    const out = [
      sent(1, '3', '10.00', { back: { quantity: decimal(1), amount: decimal('3.33') } }),
      sent(2, '1', '4.00', { lotId: 9 }),
      sent(3, '1', '4.00', { salesLineId: 8 }),
    ];
    expect(told(comingBack(out, [back('2'), back('1', 9)], 5))).toEqual([['2 of 1 at 6.67'], ['1 of 2 at 4.00']]);
    expect([heldOf(out, back('1')), heldOf(out, back('1', 9)), heldOf(out, back('1', 4))].map(String)).toEqual(['2', '1', '0']);
  });
  test('what goes straight on to a supplier is taken first of what came straight from one, whatever line it stands on', () => {
    const out = [sent(1, '3', '9.00'), sent(2, '2', '5.00', { purchaseLineId: 40 })];
    const straight = { ...back('2'), straight: true };
    expect(told(comingBack(out, [back('3'), straight], 5))).toEqual([['3 of 1 at 9.00'], ['2 of 2 at 5.00']]);
    expect(told(comingBack([out[1] as SentOut, out[0] as SentOut], [back('3'), straight], 5))).toEqual([['3 of 1 at 9.00'], ['2 of 2 at 5.00']]);
    expect([heldOf(out, back('1')), heldOf(out, straight)].map(String)).toEqual(['5', '2']);
  });
  test('however it comes back, all of it comes back at all it cost, to the cent', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 8 }), fc.integer({ min: 0, max: 99_999 }), (parts, cents) => {
        const whole = parts.reduce((total, part) => total + part, 0);
        const cost = decimal(cents).div(100);
        const all = comingBack(
          [sent(1, String(whole), cost.toFixed(2))],
          parts.map((part) => back(String(part))),
          1,
        ).flat();
        expect(sum(all.map(({ value }) => value)).toFixed(2)).toBe(cost.toFixed(2));
        // The first n of them come to the share of n, half a cent away from zero, reckoned in whole numbers.
        let so = 0;
        let value = zero;
        all.forEach((part) => {
          so += part.quantity.toNumber();
          value = value.plus(part.value);
          const share = (2n * BigInt(cents) * BigInt(so) + BigInt(whole)) / (2n * BigInt(whole));
          expect(value.times(100).toFixed(0)).toBe(String(share));
        });
      }),
    );
  });
});

describe('what cannot come back', () => {
  const asked = (quantity: string, part: Partial<AskedBack> = {}): AskedBack => ({
    ...back(quantity),
    sku: 'HT-J',
    label: 'SO-1001 line 1',
    returnable: true,
    ...part,
  });
  const faults = (lines: AskedBack[], out = [sent(1, '3', '10.00')], day = '2026-03-10') =>
    comingBackFaults(out, lines, day).map(({ field, sentence }) => `${field}: ${sentence}`);
  test('more than the customer has, all lines of the same together', () => {
    expect(faults([asked('3')])).toEqual([]);
    expect(faults([asked('4')])).toEqual(['lines.0.quantity: Only 3 of HT-J on SO-1001 line 1 are with this customer.']);
    expect(faults([asked('2'), asked('2')])).toEqual(['lines.1.quantity: Only 3 of HT-J on SO-1001 line 1 are with this customer.']);
    expect(faults([asked('1', { lotId: 9 })])).toEqual(['lines.0.quantity: Nothing of HT-J on SO-1001 line 1 is with this customer.']);
  });
  test('an item that is not taken back, and a day before it went out', () => {
    expect(faults([asked('1', { returnable: false })])).toEqual(['lines.0.quantity: HT-J is not taken back: its own page says so.']);
    expect(faults([asked('1')], undefined, '2026-03-04')).toEqual(['cameOn: HT-J on SO-1001 line 1 went out on 2026-03-05; it cannot have come back before.']);
    expect(faults([asked('1')], undefined, '2026-03-05')).toEqual([]);
  });
  test('a shelf is sold from and quarantine is not; what is thrown away goes into no bin; a bin of another site is none', () => {
    const bin = (sellable: boolean, siteId = 1) => ({ siteId, sellable });
    expect([whereFault('shelf', bin(true), 1), whereFault('quarantine', bin(false), 1), whereFault('scrap', null, 1)]).toEqual([null, null, null]);
    expect(whereFault('shelf', bin(false), 1)).toContain('nothing is sold from it');
    expect(whereFault('quarantine', bin(true), 1)).toContain('Choose a quarantine bin');
    for (const condition of ['scrap', 'supplier'] as const) expect(whereFault(condition, bin(true), 1)).toContain('goes into no bin.');
    expect(whereFault('shelf', null, 1)).toBe('Choose the bin it goes into.');
    expect(whereFault('shelf', bin(true, 2), 1)).toBe('That bin is not at the site the goods came back to.');
  });
});
