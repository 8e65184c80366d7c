import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { isOwned, type PlaceKind } from '../ledger/types';
import { traceOf, type TraceEnd, type TraceLine } from './trace';

const at = (placeId: number, kind: PlaceKind): TraceEnd => ({ placeId, kind });
const mill = at(1, 'supplier');
const bin = at(2, 'bin');
const bench = at(3, 'bench');
const school = at(4, 'customer');
const lost = at(5, 'found-or-lost');
const line = (from: TraceEnd, to: TraceEnd, quantity: string, document = ''): TraceLine => ({ from, to, quantity, document });

describe('tracing a lot', () => {
  test('from its deliveries to who got it: what went back is told, what moved inside is not', () => {
    const { came, went, here } = traceOf([
      line(mill, bin, '100', 'PO-1'),
      line(bin, mill, '10', 'PO-1'),
      line(bin, bench, '30', 'SO-7'),
      line(bench, school, '30', 'SO-7'),
      line(school, bin, '2', 'SO-7'),
      line(bin, lost, '3'),
      line(mill, school, '5', 'PO-2'),
    ]);
    const told = (rows: typeof came) => rows.map(({ placeId, document, quantity, back }) => [placeId, document, quantity.toFixed(), back.toFixed()]);
    expect(told(came)).toEqual([
      [1, 'PO-1', '100', '10'],
      [1, 'PO-2', '5', '0'],
    ]);
    expect(told(went)).toEqual([
      [4, 'SO-7', '30', '2'],
      [5, '', '3', '0'],
      [4, 'PO-2', '5', '0'],
    ]);
    expect(here.toFixed()).toBe('59');
  });
  test('more found than lost has come, and nothing is told twice', () => {
    const { came, went } = traceOf([line(lost, bin, '5'), line(bin, lost, '2')]);
    expect([came.length, went.length, came[0]?.back.toFixed()]).toEqual([1, 0, '2']);
  });
  test('whatever happened, what is here is what the places of ours hold', () => {
    const places = [mill, bin, bench, school, lost, at(6, 'scrap'), at(7, 'opening')];
    const any = fc.record({
      from: fc.constantFrom(...places),
      to: fc.constantFrom(...places),
      quantity: fc.integer({ min: 1, max: 50 }).map(String),
      document: fc.constantFrom('', 'A', 'B'),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 40 }), (lines) => {
        const held = sum(lines.map(({ from, to, quantity }) => decimal(quantity).times(Number(isOwned(to.kind)) - Number(isOwned(from.kind)))));
        expect(traceOf(lines).here.eq(held)).toBe(true);
      }),
    );
  });
});
