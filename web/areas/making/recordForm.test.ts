import { describe, expect, test } from '@jest/globals';
import type { WorkOrder } from '@larder/contract/workOrders';
import { goodOf, leftOf, lotsKept, lotsOf, proposedCharge, proposedUsed, recordBody, recordDraft, recordField, untakenOf, withScanned } from './recordForm';

const line = (id: number, part: object) => ({
  ...{ id, itemId: id * 10, sku: `P-${id}`, name: '', unit: 'each', step: '1', tracking: 'none', stocked: true },
  ...{ needed: '8', taken: '8', used: '0', atWork: '8', lots: [{ lotId: null, lot: null, useBy: null, quantity: '8' }] },
  ...part,
});
const order = {
  version: 3,
  lines: [
    line(1, {}),
    line(2, {
      tracking: 'lot',
      needed: '4',
      taken: '4',
      atWork: '4',
      lots: [
        { lotId: 71, lot: 'L-1', useBy: '2026-05-01', quantity: '3' },
        { lotId: 72, lot: 'L-2', useBy: '2026-06-01', quantity: '1' },
      ],
    }),
    line(3, { stocked: false }),
  ],
  products: [
    {
      id: 9,
      itemId: 90,
      sku: 'HIVE',
      name: '',
      unit: 'each',
      step: '1',
      tracking: 'none',
      quantity: '4',
      made: '0',
      scrapped: '0',
      share: null,
      binId: 5,
      bin: 'A-1',
      inspected: false,
      nextLot: null,
    },
    {
      id: 10,
      itemId: 91,
      sku: 'CHIPS',
      name: '',
      unit: 'kg',
      step: '0.1',
      tracking: 'none',
      quantity: '1',
      made: '0',
      scrapped: '0',
      share: null,
      binId: 5,
      bin: 'A-1',
      inspected: false,
      nextLot: null,
    },
  ],
  costs: [{ position: 1, name: 'Joiner', per: 'hour', quantity: '2', charged: '0', rate: '18.00', accountId: 54 }],
} as unknown as WorkOrder;

describe('what is proposed', () => {
  test('is all of it at first: what is left to be made, and what the order says for that, lot by lot', () => {
    const draft = recordDraft(order);
    expect(recordBody(draft, 3)).toMatchObject({
      version: 3,
      used: [
        { lineId: 1, lotId: null, quantity: '8' },
        { lineId: 2, lotId: 71, quantity: '3' },
        { lineId: 2, lotId: 72, quantity: '1' },
      ],
      made: [
        { lineId: 9, quantity: '4', scrapped: '0', binId: 5 },
        { lineId: 10, quantity: '1' },
      ],
      charges: [{ name: 'Joiner', quantity: '2', rate: null, accountId: null }],
      rest: 'goes on',
    });
    expect(untakenOf(draft)).toEqual([]);
  });

  test('follows how many were made; what was typed stays', () => {
    const draft = recordDraft(order);
    const some = { ...draft, made: draft.made.map((row, index) => (index === 0 ? { ...row, good: '1', scrapped: '1' } : row)) };
    expect([
      proposedUsed(some, 0),
      proposedUsed(some, 1),
      proposedUsed(some, 2),
      proposedCharge(some, 0),
      goodOf(some, 1).toFixed(),
      leftOf(some).toFixed(),
    ]).toEqual(['4', '2', '0', '1', '0.5', '2']);
    const typed = { ...some, rest: 'new order' as const, used: some.used.map((row, index) => (index === 0 ? { ...row, quantity: '5' } : row)) };
    expect(recordBody(typed, 3)).toMatchObject({ used: [{ quantity: '5' }, { quantity: '2' }, { quantity: '0' }], rest: 'new order' });
  });

  test('of what was recorded before only the rest is, and nothing of the rest is said when all is made', () => {
    const before = recordDraft({
      ...order,
      lines: order.lines.map((one) => (one.id === 1 ? { ...one, used: '3', atWork: '5' } : one)),
      products: order.products.map((one) => (one.id === 9 ? { ...one, made: '1' } : one)),
      costs: order.costs.map((one) => ({ ...one, charged: '0.75' })),
    });
    expect(recordBody({ ...before, rest: 'given up' }, 4)).toMatchObject({
      used: [{ quantity: '5' }, {}, {}],
      made: [{ quantity: '3' }, {}],
      charges: [{ quantity: '1.25' }],
      rest: 'goes on',
    });
  });
});

test('the lot that is made is all that is good, also when that changes, until somebody says how many of it', () => {
  const nextLot = { code: 'WO-9-1', useBy: '2026-06-01' };
  const draft = recordDraft({ ...order, products: order.products.map((line) => ({ ...line, tracking: 'lot' as const, nextLot })) });
  const sent = (part: Partial<(typeof draft)['made'][number]>) =>
    recordBody({ ...draft, made: draft.made.map((row, index) => (index === 0 ? { ...row, ...part } : row)) }, 3).made?.[0]?.lots;
  expect(sent({})).toEqual([{ ...nextLot, quantity: '4' }]);
  expect(sent({ good: '3' })).toEqual([{ ...nextLot, quantity: '3' }]);
  expect(sent({ good: '0', scrapped: '4' })).toEqual([]);
  // Another code for all of it still follows; two lots are as they were typed.
  const renamed = lotsKept([{ code: 'MINE', useBy: null, quantity: '4' }], '4');
  expect(lotsOf({ lots: renamed }, '2')).toEqual([{ code: 'MINE', useBy: null, quantity: '2' }]);
  const two: (typeof draft)['made'][number]['lots'] = [
    { ...nextLot, quantity: '1' },
    { code: 'MINE', useBy: null, quantity: '' },
  ];
  expect([lotsKept(two, '1'), sent({ lots: two })]).toEqual([two, two]);
  expect(sent({ lots: [{ ...nextLot, quantity: '2' }] })).toEqual([{ ...nextLot, quantity: '2' }]);
});

test('what was used beyond what was taken is told by its line', () => {
  const draft = recordDraft(order);
  const more = { ...draft, used: draft.used.map((row, index) => ({ ...row, quantity: index === 0 ? '9' : index === 2 ? '3' : row.quantity })) };
  expect(untakenOf(more)).toEqual([
    { lineId: 1, sku: 'P-1', quantity: '1' },
    { lineId: 2, sku: 'P-2', quantity: '2' },
  ]);
});

test('what is no number counts as nothing until it is one, and is sent as it was typed', () => {
  const draft = recordDraft(order);
  const odd = { ...draft, made: draft.made.map((row, index) => (index === 0 ? { ...row, good: 'two' } : row)) };
  expect([goodOf(odd, 0).toFixed(), proposedUsed(odd, 0)]).toEqual(['0', '0']);
  expect(recordBody(odd, 3).made?.[0]?.quantity).toBe('two');
});

test('a scan counts one: of a component, of its lot, or of what is made', () => {
  const draft = recordDraft(order);
  const once = withScanned(draft, 10, null, '1');
  expect(once?.said).toBe('1 of P-1 used.');
  expect(withScanned(once?.draft ?? draft, 10, null, '2')?.said).toBe('3 of P-1 used.');
  expect(withScanned(draft, 20, 72, '1')?.draft.used.map(({ quantity }) => quantity)).toEqual([null, null, '1']);
  expect(withScanned(draft, 90, null, '1')?.said).toBe('1 of HIVE made.');
  expect(withScanned(draft, 77, null, '1')).toBeNull();
});

test('what is refused stands at the field it was typed in', () => {
  const draft = recordDraft(order);
  const twice = {
    ...draft,
    charges: [
      { ...(draft.charges[0] as (typeof draft.charges)[number]), quantity: '0' },
      { ...(draft.charges[0] as (typeof draft.charges)[number]), name: 'Saw', quantity: '1' },
    ],
  };
  expect([
    recordField('made.0.quantity', draft),
    recordField('made.0.lots.1.code', draft),
    recordField('used.2.quantity', draft),
    recordField('charges.0.accountId', twice),
  ]).toEqual(['made.0.good', 'made.0.lots.1.code', 'used.2.quantity', 'charges.1.accountId']);
});
