import { describe, expect, test } from '@jest/globals';
import { decimal, zero } from '../decimal';
import { counterRules, countersMoved, documentRules, type DocumentKind } from './counters';
import { plan } from './plan';
import { isOwned, siteKey, type LedgerState, type PlaceKind } from './types';
import { after, demandLine, emptyWorld, line, movement, places, receipt, refusal, stateOf, told } from './world';

const kinds: PlaceKind[] = ['bin', 'bench', 'transit', 'holder', 'in-work', 'supplier', 'customer', 'scrap', 'made', 'used-up', 'nowhere', 'found-or-lost'];
const state: Pick<LedgerState, 'places'> = {
  places: new Map(
    kinds.map((kind, index) => [index, { id: index, kind, siteId: isOwned(kind) ? 1 : null, code: kind, sellable: kind === 'bin', retired: false }]),
  ),
};
const id = (kind: PlaceKind) => kinds.indexOf(kind);
const moved = (document: DocumentKind, from: PlaceKind, to: PlaceKind, isUndo = false) =>
  Object.fromEntries(
    Object.entries(countersMoved(state, line(id(from), id(to), 3), document, isUndo)).map(([counter, quantity]) => [counter, quantity.toNumber()]),
  );

describe('which move changes which counter', () => {
  test.each<[DocumentKind, PlaceKind, PlaceKind, Record<string, number>]>([
    ['purchase', 'supplier', 'bin', { arrived: 3 }],
    ['purchase', 'bin', 'supplier', { arrived: -3 }],
    ['purchase', 'supplier', 'customer', { arrived: 3 }],
    ['sales', 'bin', 'bench', { drawn: 3 }],
    ['sales', 'bench', 'customer', { finished: 3 }],
    ['sales', 'nowhere', 'customer', { drawn: 3, finished: 3 }],
    ['sales', 'supplier', 'customer', { drawn: 3, sent: 3, finished: 3 }],
    ['sales', 'customer', 'bin', { returned: 3 }],
    ['transfer', 'bin', 'bench', { drawn: 3 }],
    ['transfer', 'bench', 'transit', { gone: 3 }],
    ['transfer', 'bin', 'transit', { drawn: 3, gone: 3 }],
    ['transfer', 'transit', 'bin', { arrived: 3, finished: 3 }],
    ['transfer', 'transit', 'found-or-lost', { finished: 3 }],
    ['loan', 'bin', 'holder', { drawn: 3 }],
    ['loan', 'holder', 'bin', { finished: 3, returned: 3 }],
    ['loan', 'holder', 'found-or-lost', { finished: 3 }],
    ['component', 'bin', 'in-work', { drawn: 3 }],
    ['component', 'in-work', 'made', { finished: 3 }],
    ['product', 'made', 'bin', { arrived: 3 }],
    ['purchase', 'bin', 'bench', {}],
    ['sales', 'supplier', 'bin', {}],
  ])('%s: %s to %s', (document, from, to, counted) => {
    expect(moved(document, from, to)).toEqual(counted);
    // Undone, it takes off just that, though the goods go the other way.
    expect(moved(document, to, from, true)).toEqual(Object.fromEntries(Object.entries(counted).map(([counter, quantity]) => [counter, -quantity])));
  });
  test('what is sent is undone as sent, though it comes back the way goods arrive', () => {
    expect(moved('transfer', 'transit', 'bin', true)).toEqual({ drawn: -3, gone: -3 });
  });
  test('each row stands once, and what is drawn waits where its kind says', () => {
    const keys = counterRules.map(({ document, counter, measure, from, to }) => [document, counter, measure, from, to].join(' '));
    expect(new Set(keys).size).toBe(keys.length);
    for (const { document, counter, measure, from, to, sign } of counterRules) {
      const { waitsAt, goesBy, side } = documentRules[document];
      if (measure === 'quantity' && counter === 'drawn' && from === 'bin' && sign === 1) expect([waitsAt, goesBy]).toContain(to);
      if (counter === 'gone') expect(to).toBe(goesBy);
      if (measure === 'quantity' && counter === 'finished' && isOwned(from)) expect(from).toBe(goesBy ?? waitsAt);
      if (counter === 'drawn') expect(side).toBe('demand');
    }
  });
});

describe('goods that go from a supplier straight to a customer', () => {
  const away = 2;
  const world = { ...after(emptyWorld(), plan(receipt(6, '12.00'), stateOf(emptyWorld()))) };
  const there = (part = {}): LedgerState => {
    const known = stateOf(world);
    const site = {
      itemId: 1,
      siteId: away,
      siteName: 'Shop',
      onHand: decimal(4),
      bench: zero,
      demand: [demandLine(1, { wanted: decimal(5), reserved: decimal(4), ...part })],
    };
    return { ...known, sites: new Map([...known.sites, [siteKey(1, away), site]]) };
  };
  const straight = (quantity: number) =>
    movement(
      [
        line(4, 5, quantity, {
          valuation: { by: 'stated', value: decimal('8.00') },
          serves: [
            { kind: 'purchase', lineId: 101 },
            { kind: 'sales', lineId: 1 },
          ],
        }),
      ],
      { kind: 'drop-shipment' },
    );
  test('serve both orders, and nothing that is promised of the stock is touched: that they are not wanted of a site was decided before', () => {
    const state = there();
    const planned = plan(straight(3), state);
    expect([planned.releases, planned.reserves, told(planned, state).rows]).toEqual([[], [], []]);
    const { drawn, finished } = planned.after.documents.get(1) ?? {};
    expect([drawn?.toFixed(), finished?.toFixed(), planned.after.documents.get(101)?.arrived.toFixed()]).toEqual(['3', '3', '9']);
    expect(planned.after.sites.get(siteKey(1, away))?.demand[0]?.wanted.toFixed()).toBe('5');
  });
});

test('what waits for a document is named by where it waits', () => {
  const known = stateOf(emptyWorld());
  const bin = places[0]?.id as number;
  const transit = { id: 50, kind: 'transit' as const, siteId: 1, code: 'van', sellable: false, retired: false };
  const documents = new Map([[7, { label: 'T-1 line 1', arrived: zero, drawn: decimal(3), gone: decimal(2), finished: zero, open: zero }]]);
  const arrives = movement([line(50, bin, 3, { serves: [{ kind: 'transfer', lineId: 7 }] })], { kind: 'shelf-move' });
  expect(refusal(() => plan(arrives, { ...known, documents, places: new Map([...known.places, [50, transit]]) })).message).toBe(
    'Only 2 of T-1 line 1 are in transit.',
  );
  const leaves = movement([line(3, 50, 2, { serves: [{ kind: 'transfer', lineId: 7 }] })], { kind: 'transfer' });
  expect(refusal(() => plan(leaves, { ...known, documents, places: new Map([...known.places, [50, transit]]) })).message).toBe(
    'Only 1 of T-1 line 1 wait on the bench.',
  );
});
