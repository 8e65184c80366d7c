import { describe, expect, test } from '@jest/globals';
import { type Refusal } from '../refusal';
import { priceText } from '../decimal';
import { askedLines } from './asked';
import { fillTemplate, firstTemplates, letterKinds, letterWords, refuseTemplate } from './template';

const wordsOf = (kind: (typeof letterKinds)[number]) => Object.fromEntries(letterWords[kind].map((word) => [word, `<${word}>`]));
const words = wordsOf('purchase order');

describe('what is asked of a supplier', () => {
  const line = {
    position: 1,
    sku: 'HB',
    supplierCode: '',
    name: 'Hive box',
    quantity: '2',
    baseQuantity: '24',
    cancelled: '0',
    unit: 'case',
    price: '18.5',
    pricePer: '1',
    amount: '37.00',
    expectedOn: null,
  };
  test('what was called off is not asked for, nor paid; a line called off whole is left out', () => {
    // the amount is already what the line still comes to
    const lines = askedLines([
      line,
      { ...line, position: 2, cancelled: '6', amount: '27.75', expectedOn: '2026-12-01' },
      { ...line, position: 3, cancelled: '24', amount: '0.00' },
    ]);
    expect(lines.map(({ position, name, quantity, price, amount }) => [position, name, quantity, price, amount])).toEqual([
      ['1', 'Hive box', '2 case', '18.50', '37.00'],
      ['2', 'Hive box, by 1 December 2026', '1.5 case', '18.50', '27.75'],
    ]);
  });
  test('a price for a thousand says so, and thirds of a case are not cut short', () => {
    const [asked] = askedLines([{ ...line, quantity: '3', baseQuantity: '9', cancelled: '6', pricePer: '1000' }]);
    expect([asked?.price, asked?.quantity]).toEqual(['18.50 for 1000', '1 case']);
  });
  test('a price keeps what it has beyond two decimals', () => expect([priceText('0.1255'), priceText('3')]).toEqual(['0.1255', '3.00']));
});

describe('letters', () => {
  test.each(letterKinds)('the first template of a %s names only what is known, and everything in it is filled in', (kind) => {
    refuseTemplate(firstTemplates[kind], kind);
    const { subject, text } = fillTemplate(firstTemplates[kind], wordsOf(kind));
    expect(subject).toContain('<company>');
    expect(`${subject} ${text}`).not.toMatch(/\{\w+\}/);
    expect(text).toContain(kind === 'recall' ? '<quantity>' : '<total>');
  });
  test('a word nobody knows is refused by its field, naming those that can be used', () => {
    const refused = (() => {
      try {
        refuseTemplate({ subject: 'Order', text: 'Dear {boss}' }, 'purchase order');
      } catch (error) {
        return error as Refusal;
      }
      throw new Error('nothing was refused');
    })();
    expect(refused.errors[0]?.field).toBe('text');
    expect(refused.errors[0]?.sentence).toContain('{supplier}');
  });
  test('what is filled in is not looked through again, and a subject stays on one line', () => {
    const filled = fillTemplate({ subject: 'For {supplier}', text: '{note}' }, { ...words, supplier: 'A\nB: {order}', note: '{person}' });
    expect(filled).toEqual({ subject: 'For A B: {order}', text: '{person}' });
  });
});
