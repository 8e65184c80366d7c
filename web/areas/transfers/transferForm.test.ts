import { expect, test } from '@jest/globals';
import { newLine, proposedLine, quantityBy, transferBody, transferField, type Figures, type TransferDraft } from './transferForm';

const figures = (part: Partial<Figures> = {}): Figures => ({
  itemId: 4,
  sku: 'JAR',
  name: 'Jar',
  unit: 'each',
  step: '1',
  salesLineId: null,
  order: null,
  toSiteId: null,
  shipBy: null,
  free: '10',
  short: '4',
  upTo: '17',
  ...part,
});
const draft = (part: Partial<TransferDraft> = {}): TransferDraft => ({
  fromSiteId: 1,
  toSiteId: 2,
  sendBy: '2026-11-23',
  expectedOn: undefined,
  carrierId: null,
  tracking: '',
  note: '',
  lines: [newLine({ id: 4, sku: 'JAR', name: 'Jar', unit: 'each' }, ' 3 '), newLine({ id: 5, sku: 'LID', name: 'Lid', unit: 'each' }, '')],
  ...part,
});

test('a rule fills a line with no more than is free', () => {
  expect([quantityBy('free', figures()), quantityBy('short', figures()), quantityBy('level', figures())]).toEqual(['10', '4', '10']);
  expect(quantityBy('level', figures({ free: '0' }))).toBe('');
  // Where nobody may see what is free there, what is wanted is asked for.
  expect([quantityBy('level', figures({ free: null })), quantityBy('free', figures({ free: null }))]).toEqual(['17', '']);
});

test('a line for an order asks for what that is short of', () => {
  expect(proposedLine(figures({ salesLineId: 9, order: 'SO-1', short: '12' }))).toMatchObject({ salesLineId: 9, order: 'SO-1', quantity: '10' });
});

test('lines of nothing are not sent, the day it arrives is the day after unless somebody says otherwise', () => {
  expect(transferBody(draft())).toMatchObject({ expectedOn: '2026-11-24', lines: [{ itemId: 4, quantity: '3', id: null }] });
  expect(transferBody(draft({ expectedOn: null })).expectedOn).toBeNull();
});

test('what is refused stands at its field, counted by the lines that are sent', () => {
  const typed = draft({
    lines: [newLine({ id: 5, sku: 'LID', name: 'Lid', unit: 'each' }, ''), newLine({ id: 4, sku: 'JAR', name: 'Jar', unit: 'each' }, '3')],
  });
  expect(transferField('lines.0.itemId', typed)).toBe('lines.1.quantity');
  expect(transferField('lines.0.toBinId', typed)).toBe('lines.1.toBinId');
  expect(transferField('sendBy', typed)).toBe('sendBy');
});
