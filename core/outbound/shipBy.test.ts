import { expect, test } from '@jest/globals';
import { dayFaults, promisePassed, proposedShipBy, shipByPassed } from './shipBy';

test('what is proposed falls on a working day', () => {
  expect(proposedShipBy('2026-11-26', 1)).toBe('2026-11-27');
  expect(proposedShipBy('2026-11-27', 1)).toBe('2026-11-30');
});

test('days that have passed are told by their fields; today and no day are none of them', () => {
  const lines = [
    { shipBy: '2026-11-27', promisedOn: null },
    { shipBy: null, promisedOn: '2026-11-27' },
    { shipBy: '2026-11-26', promisedOn: '2026-11-26' },
  ];
  expect(dayFaults(lines, '2026-11-27', 'added')).toEqual([
    { field: 'added.2.shipBy', sentence: shipByPassed },
    { field: 'added.2.promisedOn', sentence: promisePassed },
  ]);
});
