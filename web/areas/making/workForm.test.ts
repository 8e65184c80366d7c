import { expect, test } from '@jest/globals';
import type { WorkOrder } from '@larder/contract/workOrders';
import { changeBody, followed, newPart, typedParts, workBody, workDraft, workField, type WorkDraft } from './workForm';

const part = (id: number, needed: string, taken = '0') => ({ id, itemId: id * 10, sku: `P-${id}`, name: '', unit: 'each', step: '1', needed, taken, note: '' });
const order = {
  itemId: 90,
  sku: 'HIVE',
  name: 'Hive',
  siteId: 1,
  quantity: '5',
  startsOn: '2026-03-11',
  dueOn: '2026-03-13',
  steps: 'Nail it.',
  note: '',
  lines: [part(1, '20'), part(2, '0'), part(3, '0', '2')],
  costs: [{ position: 1, name: 'Joiner', per: 'hour', quantity: '2.5', charged: '0', rate: '18.00', accountId: 54 }],
} as unknown as WorkOrder;

test('what is written is what is sent again; parts that it neither needs nor has are left out', () => {
  const draft = workDraft(order);
  expect(draft.components?.map(({ id }) => id)).toEqual([1, 3]);
  expect(changeBody(draft, 4)).toEqual({
    version: 4,
    quantity: '5',
    startsOn: '2026-03-11',
    dueOn: '2026-03-13',
    steps: 'Nail it.',
    note: '',
    components: [{ id: 1, itemId: 10, quantity: '20', note: '' }],
    costs: [{ name: 'Joiner', per: 'hour', quantity: '2.5', rate: '18.00', accountId: 54 }],
  });
});

test('parts and costs follow how many are made, in whole steps; what was typed otherwise stays', () => {
  const draft = workDraft({ ...order, lines: [part(1, '21'), part(2, '8'), part(3, '3')] } as unknown as WorkOrder);
  const rows = draft.components.map((row) => (row.id === 2 ? { ...row, quantity: '9' } : row));
  const one = { ...order, lines: [part(1, '21'), part(2, '8'), part(3, '3')] } as unknown as WorkOrder;
  // While "12" is typed "1" stands there first.
  const first = followed(one, { components: [...rows, newPart({ id: 70, sku: 'P-7', name: '', unit: 'each' }, '2')], costs: draft.costs }, '5', '1');
  expect(first.components.map(({ quantity }) => quantity)).toEqual(['5', '9', '1', '2']);
  expect(first.costs.map(({ quantity }) => quantity)).toEqual(['0.5']);
  const then = followed(one, first, '1', '12');
  expect(then.components.map(({ quantity }) => quantity)).toEqual(['51', '9', '8', '2']);
  expect(then.costs.map(({ quantity }) => quantity)).toEqual(['6']);
  expect(followed(one, then, '12', '5').components.map(({ quantity }) => quantity)).toEqual(['21', '9', '3', '2']);
});

test('a new one says nothing of its parts until they are changed', () => {
  const draft: WorkDraft = { ...workDraft(order), steps: null, byBill: true };
  expect(workBody(draft, 7, true)).toMatchObject({ itemId: 90, salesLineId: 7, components: null, costs: null, steps: null, release: true });
  const proposal = {
    bomId: 1,
    bill: '1',
    steps: '',
    components: [{ itemId: 10, sku: 'P-1', name: '', unit: 'each', step: '1', quantity: '20', free: '3', note: '' }],
    costs: [],
    byProducts: [],
  };
  const typed = { ...draft, byBill: false, ...typedParts(proposal) };
  expect(
    workBody({ ...typed, components: [...typed.components, newPart({ id: 40, sku: 'P-4', name: '', unit: 'each' }, '2')] }, null, false).components,
  ).toEqual([
    { itemId: 10, quantity: '20', note: '' },
    { itemId: 40, quantity: '2', note: '' },
  ]);
});

test('what is refused stands at the row it was typed in, past rows that were left out', () => {
  const draft: WorkDraft = {
    ...workDraft(order),
    components: [newPart({ id: 40, sku: 'P-4', name: '', unit: 'each' }, ''), newPart({ id: 50, sku: 'P-5', name: '', unit: 'each' }, '1')],
  };
  expect([workField('components.0.quantity', draft), workField('itemId', draft), workField('dueOn', draft)]).toEqual([
    'components.1.quantity',
    'item',
    'dueOn',
  ]);
});
