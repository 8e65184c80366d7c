import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { differenceInWords } from '../inbound/billing';
import { bookPurposes, moveFault, purposeWords, type MappedAccount } from './purpose';
import { plainEntries, plainHead, type BookEntry } from './plainText';
import { clearEstimate } from './clearEstimate';

const cents = fc.integer({ min: 0, max: 10_000_000 }).map((n) => decimal(n).div(100));

/** The whole journal, as a file has it. */
const plainJournal = (entries: readonly BookEntry[], currency: string): string =>
  plainHead(
    entries.flatMap(({ lines }) => lines),
    currency,
  ) + plainEntries(entries, currency);

describe('clearing an estimate', () => {
  test.each([
    // open, billed, final, cleared, variance
    ['640.00', '640.00', false, '640.00', '0.00'],
    ['640.00', '700.00', false, '640.00', '60.00'],
    ['640.00', '500.00', false, '500.00', '0.00'],
    ['640.00', '500.00', true, '640.00', '-140.00'],
    ['0.00', '12.00', false, '0.00', '12.00'],
  ])('open %s, billed %s, final %p: clears %s, variance %s', (open, billed, final, cleared, variance) => {
    const settled = clearEstimate(decimal(open), decimal(billed), final);
    expect([settled.cleared.toFixed(2), settled.variance.toFixed(2)]).toEqual([cleared, variance]);
  });
  test('a run of bills, the last one final, takes the estimate to zero, and all that was billed is accounted for', () => {
    fc.assert(
      fc.property(cents, fc.array(cents, { minLength: 1, maxLength: 6 }), (estimate, bills) => {
        let open = estimate;
        let variance = decimal(0);
        bills.forEach((billed, index) => {
          const settled = clearEstimate(open, billed, index === bills.length - 1);
          open = open.minus(settled.cleared);
          variance = variance.plus(settled.variance);
          expect(open.gte(0)).toBe(true);
        });
        expect(open.toFixed(2)).toBe('0.00');
        expect(variance.eq(sum(bills).minus(estimate))).toBe(true);
      }),
    );
  });
});

describe('a bill beside its order', () => {
  test('differences are said in words', () => {
    const words = (ordered: string, billed: string, quantity: string, open: string) =>
      differenceInWords({ ordered: decimal(ordered), billed: decimal(billed), quantity: decimal(quantity), open: decimal(open) });
    expect(words('2', '2', '10', '10')).toBe('');
    expect(words('2', '2.10', '10', '10')).toBe('0.10 more for each than ordered, 1.00 in all');
    expect(words('2', '1.5', '4', '10')).toBe('0.50 less for each than ordered, 2.00 in all; 6 received and not billed yet');
    expect(words('2', '2', '12', '10')).toBe('2 billed before they have come');
  });
});

test('the plain-text journal has one entry a posting, and refuses one that does not balance', () => {
  const line = (code: string, name: string, type: 'inventory' | 'liability', amount: string) => ({ code, name, type, amount: decimal(amount) });
  const entry = {
    id: 4,
    day: '2026-11-24',
    text: 'Bill; of\nHexley | Joinery',
    document: 'BILL-1001',
    lines: [line('1200', 'Inventory', 'inventory', '10'), line('2100', 'Payable:  trade', 'liability', '-10')],
  };
  expect(plainJournal([entry, { ...entry, id: 5, lines: [] }], 'GBP')).toBe(
    '; Tidy Larder journal\ncommodity 1,000.00 GBP\naccount assets:1200 Inventory\naccount liabilities:2100 Payable trade\n\n' +
      '2026-11-24 (BILL-1001) Bill of Hexley Joinery\n    assets:1200 Inventory  10.00 GBP\n    liabilities:2100 Payable trade  -10.00 GBP\n',
  );
  const [inventory, payable] = entry.lines;
  if (!inventory || !payable) throw new Error('two lines');
  const bare = { ...entry, text: '', document: '', lines: [payable, inventory] };
  expect(plainJournal([bare, { ...entry, id: 6, document: 'BILL (2)' }], 'GBP').split('\n\n')).toEqual([
    '; Tidy Larder journal\ncommodity 1,000.00 GBP\naccount assets:1200 Inventory\naccount liabilities:2100 Payable trade',
    '2026-11-24 (E4) \n    liabilities:2100 Payable trade  -10.00 GBP\n    assets:1200 Inventory  10.00 GBP',
    '2026-11-24 (BILL 2) Bill of Hexley Joinery\n    assets:1200 Inventory  10.00 GBP\n    liabilities:2100 Payable trade  -10.00 GBP\n',
  ]);
  expect(() => plainJournal([{ ...entry, lines: entry.lines.slice(0, 1) }], 'GBP')).toThrow('does not balance');
});

describe('which account a purpose has', () => {
  const account = (part: Partial<MappedAccount>): MappedAccount => ({
    code: '5210',
    name: 'Price variance',
    type: 'expense',
    purpose: null,
    used: false,
    ...part,
  });
  const now = account({ purpose: 'price-variance', used: true });
  const free = account({ code: '5211', name: 'Wood' });
  test('moves to an account of the same kind that is used for nothing, whatever was posted', () => {
    expect(moveFault('price-variance', now, free)).toBeNull();
    expect(moveFault('price-variance', now, account({ ...free, used: true }))).toBeNull();
  });
  test('does not move to itself, to one in use, or to one of another kind', () => {
    expect(moveFault('price-variance', now, now)).toBe('Price variance is used for this already.');
    expect(moveFault('price-variance', now, account({ ...free, purpose: 'bank' }))).toContain('Wood is used for what is paid');
    expect(moveFault('price-variance', now, account({ ...free, type: 'asset' }))).toBe('Wood is an account of asset; this asks for one of expense.');
  });
  test('an account held item by item moves only while nothing was posted to either', () => {
    const clearing = account({ code: '2130', name: 'Clearing', type: 'liability', purpose: 'landed-clearing' });
    const other = account({ code: '2131', name: 'Other', type: 'liability' });
    expect(moveFault('landed-clearing', clearing, other)).toBeNull();
    expect(moveFault('landed-clearing', { ...clearing, used: true }, other)).toContain('Clearing was posted to already');
    expect(moveFault('landed-clearing', clearing, { ...other, used: true })).toContain('Other was posted to already');
  });
  test('every purpose is said in words of its own', () => expect(new Set(Object.values(purposeWords)).size).toBe(bookPurposes.length));
});
