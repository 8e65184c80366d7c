import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from '../decimal';
import { attributeFault } from './attribute';
import { combinations, memberName, parseValues, proposedPattern, shortCode, skuFrom } from './family';
import { isStocked, itemKinds, kindFaults } from './kind';
import { remindsOn } from './reminder';
import { parseSerials } from './serials';
import { factorFault, fitsStock, inUnits, toBase } from './units';

const axis = (name: string, ...values: string[]) => ({ name, values: values.map((value) => ({ name: value, code: shortCode(value) })) });
const size = axis('Size', '114 g', '227 g', '340 g');
const lid = axis('Lid', 'Gold', 'Black');

describe('variant families', () => {
  test('values come typed with commas or pasted in lines; the same again is left out', () => {
    expect(parseValues('S, M ,L,, m\nXL\tXXL;')).toEqual(['S', 'M', 'L', 'XL', 'XXL']);
  });
  test('every combination is made once, the last axis turning fastest', () => {
    expect(combinations([size, lid]).map((values) => values.map(({ code }) => code).join('-'))).toEqual([
      '114G-GOL',
      '114G-BLA',
      '227G-GOL',
      '227G-BLA',
      '340G-GOL',
      '340G-BLA',
    ]);
    expect(combinations([])).toEqual([]);
    expect(combinations([size, axis('Lid')])).toEqual([]);
  });
  test('as many combinations as the product of the values, all different', () => {
    const values = fc.uniqueArray(fc.string({ minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(fc.array(values, { minLength: 1, maxLength: 3 }), (lists) => {
        const made = combinations(lists.map((list, index) => ({ name: String(index), values: list.map((name) => ({ name, code: name })) })));
        expect(made).toHaveLength(lists.reduce((product, list) => product * list.length, 1));
        expect(new Set(made.map((one) => JSON.stringify(one))).size).toBe(made.length);
      }),
    );
  });
  test.each([
    ['340 g', '340G'],
    ['Gold lid', 'GL'],
    ['Smoker', 'SMO'],
    ['1.5 kg', '15K'],
    ['Façade bleue', 'FB'],
    ['—', ''],
  ])('%p is %p in a SKU', (words, code) => {
    expect(shortCode(words)).toBe(code);
  });
  test('SKUs follow the pattern; what it does not know is left to be seen', () => {
    const values = [size.values[2], lid.values[0]].map((value) => value as { name: string; code: string });
    expect(skuFrom(proposedPattern([size, lid]), 'JAR', [size, lid], values)).toBe('JAR-340G-GOL');
    expect(skuFrom('{name}.{lid:axis}{Lid}/{size}', 'JAR', [size, lid], values)).toBe('JAR.LIDGOL/340G');
    expect(skuFrom('{name}-{Colour}', 'JAR', [size, lid], values)).toBe('JAR-{Colour}');
    expect(memberName('Honey jar', values)).toBe('Honey jar, 340 g, Gold');
  });
});

describe('units', () => {
  test('a case of 12, a third of a roll and a gross', () => {
    expect(factorFault({ numerator: 12, denominator: 1 })).toBeNull();
    expect(factorFault({ numerator: 1, denominator: 3 })).toContain('4 decimals');
    expect(factorFault({ numerator: 0, denominator: 1 })).toContain('above zero');
    expect(factorFault({ numerator: 1.5, denominator: 1 })).toContain('whole numbers');
    expect(factorFault({ numerator: 453, denominator: 1000 })).toBeNull();
  });
  test('cases are bought, pieces are kept', () => {
    const dozen = { numerator: 12, denominator: 1 };
    expect(toBase(decimal('2.5'), dozen).toFixed()).toBe('30');
    expect(inUnits(decimal(30), dozen)).toEqual({ whole: decimal(2), left: decimal(6) });
    expect(fitsStock(decimal('0.00001'), dozen)).toBe(false);
  });
  test('whole numbers of any good factor fit stock', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), fc.integer({ min: 1, max: 9999 }), fc.integer({ min: 1, max: 999 }), (numerator, denominator, many) => {
        fc.pre(factorFault({ numerator, denominator }) === null);
        expect(fitsStock(decimal(many), { numerator, denominator })).toBe(true);
      }),
    );
  });
});

describe('serials', () => {
  test('typed, pasted and as a range', () => {
    expect(parseSerials('A1, A2\nA3\tA4')).toEqual({ codes: ['A1', 'A2', 'A3', 'A4'], faults: [] });
    expect(parseSerials('LX-0008..LX-0011').codes).toEqual(['LX-0008', 'LX-0009', 'LX-0010', 'LX-0011']);
    expect(parseSerials('LX-8..11').codes).toEqual(['LX-8', 'LX-9', 'LX-10', 'LX-11']);
  });
  test('twice, backwards, differing and too many are told', () => {
    expect(parseSerials('A1,a1').faults).toEqual(['a1 stands there twice.']);
    expect(parseSerials('A9..A1').faults[0]).toContain('backwards');
    expect(parseSerials('A1..B4').faults[0]).toContain('begin differently');
    expect(parseSerials('A1..A99999').faults[0]).toContain('more than');
    expect(parseSerials('A..B').faults[0]).toContain('no range');
  });
});

test('a value fits its attribute, or is told why not', () => {
  const of = (kind: string, value: string) => attributeFault({ id: 1, name: 'Fact', kind, choices: ['a', 'b'] }, value);
  expect([of('text', 'anything'), of('number', '-1.5'), of('date', '2026-02-28'), of('choice', 'b')]).toEqual([null, null, null, null]);
  expect([of('number', '1,5'), of('date', '2026-02-29'), of('choice', 'c')]).toEqual([
    'Fact is a number, such as 12.5.',
    'Fact is a day.',
    'Fact is one of a, b.',
  ]);
  expect(attributeFault(undefined, 'x')).toBe('There is no such attribute.');
});

describe('what an item is', () => {
  const service = { kind: 'service', tracking: 'none', costMethod: 'average', reordered: 0 } as const;
  test('only goods kept in stock lie in places of ours', () => expect(itemKinds.filter(isStocked)).toEqual(['stocked']));
  test('what is not kept has no lots, no cost of layers and no reorder point; each is told by its field', () => {
    expect(kindFaults(service)).toEqual([]);
    expect(kindFaults({ ...service, tracking: 'serial' }).map(({ field }) => field)).toEqual(['tracking']);
    expect(kindFaults({ ...service, costMethod: 'fifo' }).map(({ field }) => field)).toEqual(['costMethod']);
    expect(kindFaults({ ...service, reordered: 2 }).map(({ field }) => field)).toEqual(['policies.0.reorderPoint']);
    expect(kindFaults({ kind: 'stocked', tracking: 'lot', costMethod: 'fifo', reordered: 3 })).toEqual([]);
  });
});

describe('a day that reminds', () => {
  test('so many days before or after it', () => {
    expect(remindsOn('2026-12-10', -14)).toBe('2026-11-26');
    expect(remindsOn('2026-12-10', 3)).toBe('2026-12-13');
    expect(remindsOn('2028-03-01', -1)).toBe('2028-02-29');
  });
  test('of nothing, or without a reminder, there is none', () => {
    expect([remindsOn('', -14), remindsOn('soon', -14), remindsOn('2026-12-10', null)]).toEqual([null, null, null]);
  });
});
