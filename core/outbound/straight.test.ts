import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, least, zero } from '../decimal';
import {
  beyondOpen,
  bySupplierAndAddress,
  directCalledOff,
  directDecided,
  directKept,
  directOrdered,
  openStraight,
  toOrderStraight,
  wantedOfSite,
  type StraightState,
} from './straight';

/** A line in whole thousandths, as the books keep it, so that what is reckoned here is exact. */
interface Books {
  base: number;
  shelf: number;
  sent: number;
  onOrder: number;
  direct: number;
}
const text = (thousandths: number) => decimal(thousandths).div(1000).toFixed();
const stateOf = ({ base, shelf, sent, onOrder, direct }: Books): StraightState => ({
  base: text(base),
  picked: text(shelf + sent),
  sent: text(sent),
  onOrder: text(onOrder),
  direct: text(direct),
});
const thousandths = (value: { times: (by: number) => { toNumber: () => number } }) => value.times(1000).toNumber();

const deeds = ['decide', 'order', 'send', 'send back', 'call off', 'pick', 'put back', 'sell fewer'] as const;
const deed = fc.record({ what: fc.constantFrom(...deeds), part: fc.integer({ min: 0, max: 1000 }) });

test('whatever is decided, ordered, sent, undone, called off, picked and sold less of, a line never waits for more than was sold', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 50_000 }), fc.array(deed, { maxLength: 40 }), (base, all) => {
      const books: Books = { base, shelf: 0, sent: 0, onOrder: 0, direct: 0 };
      for (const { what, part } of all) {
        const state = stateOf(books);
        const some = (of: number) => Math.floor((of * part) / 1000);
        const wanted = thousandths(wantedOfSite(state, decimal(state.direct)));
        if (what === 'decide') books.direct = thousandths(directDecided(state, decimal(text(some(thousandths(openStraight(state)))))));
        if (what === 'order') {
          const many = some(thousandths(openStraight(state)));
          books.direct = thousandths(directOrdered(state, decimal(text(many))));
          books.onOrder += many;
        }
        if (what === 'send') {
          const many = some(books.onOrder);
          books.onOrder -= many;
          books.sent += many;
        }
        if (what === 'send back') {
          const many = some(books.sent);
          books.onOrder += many;
          books.sent -= many;
        }
        if (what === 'call off') {
          const many = some(books.onOrder);
          books.direct = thousandths(directCalledOff(state, decimal(text(many))));
          books.onOrder -= many;
        }
        if (what === 'pick') books.shelf += some(wanted);
        if (what === 'put back') books.shelf -= some(books.shelf);
        if (what === 'sell fewer') {
          books.base -= some(thousandths(openStraight(state)));
          books.direct = thousandths(directKept(stateOf(books)));
        }
        const after = stateOf(books);
        expect(books.sent + books.onOrder).toBeLessThanOrEqual(books.direct);
        expect(books.direct).toBeLessThanOrEqual(books.base - books.shelf);
        expect(wantedOfSite(after, decimal(after.direct)).gte(zero)).toBe(true);
        expect(openStraight(after).gte(toOrderStraight(after))).toBe(true);
        // Everything sold is picked, sent, on its way, to be ordered, or wanted of the site, and nothing twice.
        const known = books.shelf + books.sent + books.onOrder + thousandths(toOrderStraight(after)) + thousandths(wantedOfSite(after, decimal(after.direct)));
        expect(known).toBe(books.base);
      }
    }),
    { seed: 20261129, numRuns: 300 },
  );
});

test('what was decided is ordered first, and what is ordered beyond it is decided with it', () => {
  const line = { base: '10', picked: '3', sent: '1', onOrder: '2', direct: '5' };
  expect([directOrdered(line, decimal(2)).toFixed(), directOrdered(line, decimal(5)).toFixed()]).toEqual(['5', '8']);
  expect([openStraight(line).toFixed(), toOrderStraight(line).toFixed(), wantedOfSite(line, decimal(5)).toFixed()]).toEqual(['5', '2', '3']);
});

test('asking twice for the same line is held against what the first left, also when the first asked too much', () => {
  const open = new Map([
    [1, decimal(5)],
    [2, decimal(1)],
  ]);
  const asked = [
    { lineId: 1, quantity: '4' },
    { lineId: 2, quantity: '1' },
    { lineId: 1, quantity: '2' },
    { lineId: 3, quantity: '9' },
    { lineId: 1, quantity: '1' },
  ];
  expect(beyondOpen(asked, (id) => open.get(id)).map((one) => [one.index, one.open.toFixed()])).toEqual([
    [2, '1'],
    [4, '0'],
  ]);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 8 }), fc.integer({ min: 0, max: 30 }), (many, all) => {
      const faults = beyondOpen(
        many.map((quantity) => ({ lineId: 1, quantity: String(quantity) })),
        () => decimal(all),
      );
      expect(faults.length === 0).toBe(many.reduce((total, one) => total + one, 0) <= all);
      expect(faults.every(({ open }) => least(open, decimal(all)).eq(open) && open.gte(zero))).toBe(true);
    }),
    { seed: 20261129 },
  );
});

test('one order for each supplier, site, customer and address, in the order they are asked for', () => {
  const line = (id: number, shipTo = '', customerId = 1, siteId = 1) => ({ id, siteId, customerId, shipTo });
  const rows = [
    { asked: { supplierId: 7 }, line: line(1) },
    { asked: { supplierId: 8 }, line: line(1) },
    { asked: { supplierId: 7 }, line: line(2) },
    { asked: { supplierId: 7 }, line: line(3, 'The mill') },
    { asked: { supplierId: 7 }, line: line(4, '', 2) },
    { asked: { supplierId: 7 }, line: line(5, '', 1, 2) },
  ];
  expect(bySupplierAndAddress(rows).map((group) => group.map((row) => row.line.id))).toEqual([[1, 2], [1], [3], [4], [5]]);
});
