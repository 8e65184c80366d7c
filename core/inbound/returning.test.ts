import { describe, expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { coveredBy, takenOff, type ReceiptStand } from './cover';
import { afterReturn, expectedAgain, returnParts, type ReturnSource } from './returning';

const stand = (lineId: number, net: number, part: Partial<Record<'here' | 'covered', number>> & { lotId?: number } = {}): ReceiptStand => ({
  lineId,
  lotId: part.lotId ?? null,
  net: decimal(net),
  here: decimal(part.here ?? net),
  covered: decimal(part.covered ?? 0),
});
const said = (parts: readonly { lineId: number; quantity: { toFixed: () => string } }[]) =>
  parts.map(({ lineId, quantity }) => `${lineId}:${quantity.toFixed()}`);

describe('which receipts a bill covers', () => {
  const bill = (receipts: ReceiptStand[], quantity: number) => said(coveredBy(receipts, decimal(quantity)));
  test('it goes on where the last one ended', () => {
    expect(bill([stand(1, 10), stand(2, 20), stand(3, 5)], 12)).toEqual(['1:10', '2:2']);
    expect(bill([stand(1, 10, { covered: 10 }), stand(2, 20, { covered: 2 }), stand(3, 5)], 23)).toEqual(['2:18', '3:5']);
  });
  test('what has not come, or went back after it was billed, is covered by none', () => {
    expect(bill([stand(1, 10, { covered: 4 })], 20)).toEqual(['1:6']);
    expect(bill([stand(1, 2, { covered: 5 }), stand(2, 5)], 4)).toEqual(['2:4']);
    expect(bill([stand(1, 0)], 3)).toEqual([]);
  });
});

describe('which receipts goods that go back are taken off', () => {
  const back = (receipts: ReceiptStand[], quantity: number, lotId: number | null = null, named: number | null = null) =>
    said(takenOff(receipts, decimal(quantity), lotId, named));
  test('the oldest of which some are here', () => {
    expect(back([stand(1, 5), stand(2, 5)], 3)).toEqual(['1:3']);
    expect(back([stand(1, 5, { here: 0 }), stand(2, 5)], 3)).toEqual(['2:3']);
    expect(back([stand(1, 5, { here: 2 }), stand(2, 5)], 4)).toEqual(['1:2', '2:2']);
  });
  test('what is not here any more comes off the oldest that brought any', () => {
    expect(back([stand(1, 5, { here: 0 }), stand(2, 5, { here: 1 })], 3)).toEqual(['1:2', '2:1']);
  });
  test('the one that is named, or those that brought the lot', () => {
    expect(back([stand(1, 5), stand(2, 5)], 3, null, 2)).toEqual(['2:3']);
    expect(back([stand(1, 5, { lotId: 8 }), stand(2, 5, { lotId: 9 })], 3, 9)).toEqual(['2:3']);
  });
  test('never more than came', () => expect(back([stand(1, 2), stand(2, 1)], 9)).toEqual(['1:2', '2:1']));
});

describe('what the order paid for goods that go back', () => {
  const source = (lineId: number, quantity: number, amount: string): ReturnSource => ({
    ...stand(lineId, quantity),
    seq: lineId * 10,
    brought: { quantity: decimal(quantity), amount: decimal(amount) },
    returned: { quantity: decimal(0), amount: decimal(0) },
  });
  test('3 at 10.00 go back one by one at 3.33, 3.34 and 3.33', () => {
    let sources = [source(1, 3, '10.00')];
    const values = [1, 2, 3].map(() => {
      const parts = returnParts(sources, decimal(1), null);
      sources = afterReturn(sources, parts);
      return parts[0]?.value.toFixed(2);
    });
    expect(values).toEqual(['3.33', '3.34', '3.33']);
    expect(sources[0]).toMatchObject({ net: decimal(0), here: decimal(0), returned: { quantity: decimal(3), amount: decimal(10) } });
    expect(returnParts(sources, decimal(1), null)).toEqual([]);
  });
  test('each receipt gives back its own, and names its layer', () => {
    const parts = returnParts([source(1, 2, '6.66'), source(2, 1, '3.34')], decimal(3), null);
    expect(parts.map(({ layerSeq, value }) => [layerSeq, value.toFixed(2)])).toEqual([
      [10, '6.66'],
      [20, '3.34'],
    ]);
    expect(afterReturn([source(1, 2, '6.66'), source(3, 4, '1')], parts.slice(0, 1))[1]?.net.toFixed()).toBe('4');
  });
});

describe('what is expected again once goods have gone back', () => {
  const again = (received: number, cancelled: number, quantity: number, active = true) =>
    expectedAgain({ active, baseQuantity: decimal(10), cancelled: decimal(cancelled), received: decimal(received) }, decimal(quantity)).toFixed();
  test('as many, of an order that is open', () => expect([again(8, 0, 2), again(10, 0, 1)]).toEqual(['2', '1']));
  test('less what had come beyond the order; none of an order that is over', () =>
    expect([again(12, 0, 3), again(12, 0, 2), again(8, 0, 2, false)]).toEqual(['1', '0', '0']));
  test('what was called off before is not expected', () => expect(again(8, 2, 2)).toBe('2'));
});
