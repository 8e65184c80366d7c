import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { partsApart, sharesAgree, type PartOut } from './apart';

const part = (planned: number, good: number, worth: number | null, share: number | null = null): PartOut => ({
  planned: decimal(planned),
  good: decimal(good),
  share: share === null ? null : decimal(share),
  worth: worth === null ? null : decimal(worth),
});
/** What each takes of 100. */
const of100 = (parts: readonly PartOut[]) => partsApart(parts).map(({ part: own, whole }) => own.times(100).div(whole).toDecimalPlaces(2).toNumber());

test('what it had cost goes to the parts by what they cost now', () => {
  // Four boards of 2.00, eight screws of 0.25, a roof of 10.00: 8, 2 and 10 of 20.
  expect(of100([part(4, 4, 2), part(8, 8, 0.25), part(1, 1, 10)])).toEqual([40, 10, 50]);
});

test('typed shares count for what they cost now', () => {
  expect(of100([part(4, 4, 2, 1), part(8, 8, 0.25, 3)])).toEqual([25, 75]);
  expect(sharesAgree([part(1, 1, 1, 1), part(1, 1, 1)])).toBe(false);
  expect(sharesAgree([part(1, 1, 1), part(1, 1, 1)])).toBe(true);
});

test('with what is missing or no good its cost is lost; the others take no more for it', () => {
  expect(of100([part(4, 3, 2), part(8, 0, 0.25), part(1, 1, 10)])).toEqual([30, 0, 50]);
});

test('where nothing says what the parts cost they weigh by their number, and one of which it is not known weighs nothing', () => {
  expect(of100([part(3, 3, null), part(1, 1, null)])).toEqual([75, 25]);
  expect(of100([part(3, 3, 2), part(1, 1, null)])).toEqual([100, 0]);
});

test('more than it should give is what it should have given', () => {
  expect(of100([part(1, 3, 2), part(1, 1, 2)])).toEqual([75, 25]);
});

const count = fc.integer({ min: 1, max: 40 });
test('for any parts: all good is all of the cost, and each that is missing lowers only its own', () => {
  fc.assert(
    fc.property(fc.array(fc.record({ planned: count, missing: fc.nat(40), worth: fc.nat(900) }), { minLength: 1, maxLength: 12 }), (rows) => {
      const all = partsApart(rows.map(({ planned, worth }) => part(planned, planned, worth)));
      expect(sum(all.map((one) => one.part)).toString()).toBe(all[0]?.whole.toString());
      const some = partsApart(rows.map(({ planned, missing, worth }) => part(planned, Math.max(planned - missing, 0), worth)));
      const [whole] = rows.some(({ worth }) => worth > 0)
        ? [rows.reduce((total, { planned, worth }) => total + planned * worth, 0)]
        : [rows.reduce((total, { planned }) => total + planned, 0)];
      rows.forEach(({ planned, missing, worth }, index) => {
        // In whole numbers: part × planned × the whole of mine = weight × good × the whole it gives.
        const good = Math.max(planned - missing, 0);
        const weight = rows.some((row) => row.worth > 0) ? planned * worth : planned;
        const own = some[index] as { part: ReturnType<typeof decimal>; whole: ReturnType<typeof decimal> };
        const difference = own.part.div(own.whole).minus(
          decimal(weight)
            .times(good)
            .div(decimal(planned).times(whole as number)),
        );
        expect(difference.abs().lt('1e-30')).toBe(true);
      });
    }),
  );
});
