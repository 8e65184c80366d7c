import { expect, test } from '@jest/globals';
import { axesOf, memberRows, membersOf, withTypedSkus } from './familyDraft';

const axes = axesOf([
  { name: 'Size', values: '114 g, 227 g' },
  { name: 'Lid', values: 'Gold\nGolden oak' },
  { name: '', values: 'left away' },
]);

test('values with the same short code are told apart', () => {
  expect(axes.map(({ values }) => values.map(({ code }) => code))).toEqual([
    ['114G', '227G'],
    ['GOL', 'GO'],
  ]);
  expect(axesOf([{ name: 'Lid', values: 'Gold, Golf' }])[0]?.values.map(({ code }) => code)).toEqual(['GOL', 'GOLF']);
});

test('SKUs follow the pattern until one is typed; what was typed stays when values are added', () => {
  const rows = memberRows(axes, 'JAR', '{name}-{Size}-{Lid}', []);
  expect(rows.map(({ sku }) => sku)).toEqual(['JAR-114G-GOL', 'JAR-114G-GO', 'JAR-227G-GOL', 'JAR-227G-GO']);
  const typed = withTypedSkus(
    rows.map((row, index) => (index === 1 ? { ...row, sku: 'MINE', salesPrice: '2' } : row)),
    rows,
  );
  const more = axesOf([
    { name: 'Size', values: '114 g, 227 g, 340 g' },
    { name: 'Lid', values: 'Gold, Golden oak' },
  ]);
  expect(memberRows(more, 'JAR', '{name}/{Size}/{Lid}', typed).map(({ sku, salesPrice }) => `${sku} ${salesPrice}`.trim())).toEqual([
    'JAR/114G/GOL',
    'MINE 2',
    'JAR/227G/GOL',
    'JAR/227G/GO',
    'JAR/340G/GOL',
    'JAR/340G/GO',
  ]);
});

test('combinations switched off are not sent; opening stock is, at the purchase price', () => {
  const rows = memberRows(axes, 'JAR', '{name}-{Size}-{Lid}', []).map((row, index) => ({
    ...row,
    off: index > 0 ? 'yes' : '',
    purchasePrice: '0.40',
    'stock 7': '12',
  }));
  expect(membersOf(rows, axes)).toEqual([
    {
      values: ['114 g', 'Gold'],
      sku: 'JAR-114G-GOL',
      salesPrice: null,
      purchasePrice: '0.40',
      barcode: '',
      weightKg: null,
      supplierCode: '',
      opening: [{ siteId: 7, quantity: '12', unitValue: '0.40' }],
    },
  ]);
});
