import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from './decimal';
import { purchaseStages, purchaseState, salesStages, salesState, type PurchaseProgress, type SalesProgress } from './stage';

const shown = (stages: ReturnType<typeof salesStages>) => stages.map(({ name, done, of }) => `${name} ${done.toFixed()}/${of.toFixed()}`);
const sale = (ordered: number, picked: number, dispatched: number, unkept = { ordered: 0, dispatched: 0 }): SalesProgress => ({
  confirmed: true,
  cancelled: false,
  closed: false,
  ordered: decimal(ordered),
  picked: decimal(picked),
  dispatched: decimal(dispatched),
  straight: { ordered: decimal(0), sent: decimal(0) },
  unkept: { ordered: decimal(unkept.ordered), dispatched: decimal(unkept.dispatched) },
});

describe('a sales order', () => {
  test('is a quote, confirmed, picked and dispatched, by quantity', () => {
    expect(shown(salesStages(sale(10, 4, 2)))).toEqual(['Quote 1/1', 'Confirmed 1/1', 'Picked 4/10', 'Dispatched 2/10']);
    expect(shown(salesStages({ ...sale(10, 0, 0), confirmed: false }))[1]).toBe('Confirmed 0/1');
  });
  test('picks only what is kept in stock; services alone are not picked at all', () => {
    expect(shown(salesStages(sale(10, 5, 2, { ordered: 3, dispatched: 2 })))).toEqual(['Quote 1/1', 'Confirmed 1/1', 'Picked 3/7', 'Dispatched 2/10']);
    expect(shown(salesStages(sale(3, 0, 0, { ordered: 3, dispatched: 0 })))).toEqual(['Quote 1/1', 'Confirmed 1/1', 'Dispatched 0/3']);
  });
  test('is one word in a list', () => {
    expect(salesState({ ...sale(5, 0, 0), cancelled: true })).toBe('cancelled');
    expect(salesState(sale(5, 0, 0))).toBe('confirmed');
    expect(salesState(sale(5, 5, 5))).toBe('dispatched');
    expect(salesState({ ...sale(5, 2, 2), closed: true })).toBe('rest cancelled');
    expect(salesState(sale(5, 4, 2))).toBe('waiting on the bench');
    expect(salesState(sale(5, 3, 3, { ordered: 3, dispatched: 3 }))).toBe('part dispatched');
  });
  test('never has done more of a stage than there is', () => {
    const parts = fc.record({ kept: fc.nat(50), picked: fc.nat(50), gone: fc.nat(50), services: fc.nat(20), served: fc.nat(20) });
    fc.assert(
      fc.property(parts, ({ kept, picked, gone, services, served }) => {
        const [took, sent, did] = [Math.min(kept, picked), Math.min(kept, picked, gone), Math.min(services, served)];
        for (const { done, of } of salesStages(sale(kept + services, took + did, sent + did, { ordered: services, dispatched: did })))
          expect(done.gte(0) && done.lte(of)).toBe(true);
      }),
    );
  });
});

describe('a purchase order', () => {
  const order = (part: Partial<PurchaseProgress> = {}): PurchaseProgress => ({
    placed: true,
    closed: false,
    cancelled: false,
    ordered: decimal(24),
    received: decimal(0),
    direct: false,
    ...part,
  });
  test('is received here, or delivered to the customer it goes to', () => {
    expect(purchaseStages(order({ received: decimal(6) })).map(({ name }) => name)).toEqual(['Draft', 'Placed', 'Received']);
    expect(purchaseStages(order({ direct: true })).at(-1)?.name).toBe('Delivered');
    expect([purchaseState(order({ direct: true, received: decimal(6) })), purchaseState(order({ direct: true, received: decimal(24) }))]).toEqual([
      'part delivered',
      'delivered',
    ]);
  });
  test('more than ordered is received; nothing ordered any more is rest cancelled', () => {
    expect(purchaseState(order({ received: decimal(30) }))).toBe('received');
    expect(purchaseState(order({ ordered: decimal(0) }))).toBe('rest cancelled');
    expect(purchaseState(order({ cancelled: true, received: decimal(3) }))).toBe('cancelled');
  });
});

test('what a supplier sends straight is no part of picking; when it is all of an order, nothing is picked', () => {
  const straight = (ordered: number, sent: number) => ({ ordered: decimal(ordered), sent: decimal(sent) });
  // Of ten six come straight, two of which were sent, and one of the other four was picked.
  expect(shown(salesStages({ ...sale(10, 3, 2), straight: straight(6, 2) }))).toEqual(['Quote 1/1', 'Confirmed 1/1', 'Picked 1/4', 'Dispatched 2/10']);
  expect(shown(salesStages({ ...sale(10, 2, 2), straight: straight(10, 2) }))).toEqual(['Quote 1/1', 'Confirmed 1/1', 'Dispatched 2/10']);
  expect([0, 8].map((gone) => salesState({ ...sale(10, gone, gone), straight: straight(2, 0) }))).toEqual(['confirmed', 'waiting for the supplier']);
});
