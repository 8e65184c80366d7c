import { expect, test } from '@jest/globals';
import type { TopUpRow } from '@larder/contract/planning';
import { arithmetic, belowMinimum, breakInWords, grouped, noteInWords, totals } from './proposals';

const row = (part: Partial<TopUpRow> = {}): TopUpRow => ({
  ...{
    itemId: 1,
    sku: 'VASE',
    name: 'Vase',
    unit: 'each',
    step: '1',
    siteId: 1,
    site: 'Barn store',
    by: 'buy',
    supplierId: 7,
    supplier: 'Hexley',
    fromSiteId: null,
    fromSite: null,
    note: null,
  },
  ...{
    free: '7',
    onOrder: '0',
    coming: '0',
    drafted: '0',
    short: '0',
    position: '7',
    reorderPoint: '8',
    orderUpTo: '24',
    coverDays: null,
    packSize: '6',
    minimum: '0',
  },
  ...{ propose: '18', price: '2', amount: '36.00', nextBreak: null, weightKg: '0.5', volumeM3: null, putOff: null },
  ...part,
});

test('a proposal explains itself in one line', () => {
  expect(arithmetic(row())).toBe('7 free + 0 on order − 0 short = 7, reorder at 8; up to 24 takes 17, 18 in packs of 6');
  expect(arithmetic(row({ coming: '2', drafted: '3', coverDays: 10, position: '12', propose: '12' }))).toBe(
    '7 free + 0 on order + 2 from other sites + 3 in drafts − 0 short = 12, reorder at 8 (10 days of cover); up to 24 takes 12',
  );
  expect(arithmetic(row({ by: 'bring', propose: '4' }))).toContain('takes 17, of which 4 come from there');
  expect(noteInWords(row({ by: 'bring', fromSite: 'Harbour shop', note: 'giver-short' }))).toBe('Harbour shop has no more free; it is topped up itself.');
});

test('a price break says what it costs and saves, also where it costs less in all', () => {
  const nextBreak = { quantity: '50', price: '1.8', costs: '54.00', saves: '10.00' };
  expect(breakInWords(row({ nextBreak }))).toBe('50 at 1.80 each: 54.00 more in all, 10.00 saved on them');
  expect(breakInWords(row({ nextBreak: { ...nextBreak, costs: '-1.50' } }))).toContain('1.50 less in all');
  expect(breakInWords(row())).toBeNull();
});

test('what is brought comes first, then what is made, what is ordered, and what nobody sends', () => {
  const rows = [row({ supplier: null, supplierId: null }), row(), row({ by: 'make' }), row({ by: 'bring', fromSiteId: 2, fromSite: 'Harbour shop' })];
  expect(grouped(rows).map(([name]) => name)).toEqual(['From Harbour shop to Barn store', 'Made here', 'Hexley', 'No supplier']);
});

test('chosen ones come to money, weight and room; an order below what its supplier asks is told by site', () => {
  const chosen = [
    { row: row(), many: '18' },
    { row: row({ itemId: 2, price: '1.333', weightKg: null }), many: '3' },
    { row: row({ itemId: 3, siteId: 2, site: 'Harbour shop', price: '100' }), many: '1' },
    { row: row({ itemId: 4 }), many: 'some' },
  ];
  expect(totals(chosen)).toEqual({ amount: '140.00', weightKg: '9.5', volumeM3: null });
  expect(belowMinimum(chosen, [{ supplierId: 7, amount: '40.00' }])).toEqual(
    [{ supplierId: 7, supplier: 'Hexley', siteId: 1, site: 'Barn store', comesTo: '40.00', least: '40.00' }].slice(1),
  );
  expect(belowMinimum(chosen, [{ supplierId: 7, amount: '40.01' }]).map(({ site, comesTo }) => [site, comesTo])).toEqual([['Barn store', '40.00']]);
});
