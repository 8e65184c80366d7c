import { describe, expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { plan } from './plan';
import { reversalOf, type PostedMovement } from './reversal';
import type { Movement, Plan } from './types';
import { after, emptyWorld, line, movement, receipt, stateOf, told } from './world';

/** Three units worth 10.00, and what it comes to when the business uses some of them itself: account 7, tax on 97. */
const stocked = after(emptyWorld(), plan(receipt(3, '10.00'), stateOf(emptyWorld())));
const state = { ...stateOf(stocked), reasonAccount: 7 };
const rate = decimal('17.5');
const taxed = (part: Partial<Movement> = {}): Movement =>
  movement([line(1, 9, 1)], { bearer: { accountId: null, departmentId: 4, tax: { taxCodeId: 2, rate, posted: null } }, ...part });
const entry = ({ journal }: Plan) =>
  journal.map(({ accountId, departmentId, amount }) => `${accountId}${departmentId === null ? '' : `/${departmentId}`} ${amount.toFixed(2)}`);

describe('own use', () => {
  test('posts tax at its rate on what the goods had cost, to the department that bears it', () => {
    const planned = plan(taxed(), state);
    // 17.5 % of 3.33 is 0.58275.
    expect(entry(planned)).toEqual(['1 -3.33', '7/4 3.91', '97 -0.58']);
    expect(planned.borne).toEqual({ accountId: 7, departmentId: 4, tax: { taxCodeId: 2, rate, base: decimal('3.33'), owed: decimal('0.58') } });
    expect(told(planned, state).costNotes).toEqual(['Tax of 0.58 is due on what is used: 17.5 % of 3.33.']);
  });
  test('is taxed once over all of its lines, what comes back of it taken off', () => {
    // 6.67 goes and 3.33 comes back: 17.5 % of 3.34.
    expect(entry(plan(taxed({ lines: [line(1, 9, 2), line(9, 1, 1)] }), state)).at(-1)).toBe('97 -0.58');
  });
  test('without a tax, or of what costs nothing, nothing is due', () => {
    expect(entry(plan(taxed({ bearer: { accountId: null, departmentId: null, tax: null } }), state))).toEqual(['1 -3.33', '7 3.33']);
    const free = { ...stateOf(after(emptyWorld(), plan(receipt(3, '0.00'), stateOf(emptyWorld())))), reasonAccount: 7 };
    expect([entry(plan(taxed(), free)), told(plan(taxed(), free), free).costNotes]).toEqual([[], []]);
  });
  test('undone, takes back just the tax that was posted, from the account and the department that bore it', () => {
    const planned = plan(taxed(), state);
    const { borne } = planned;
    const posted: PostedMovement = {
      id: 9,
      kind: 'correction',
      reasonId: 1,
      lines: planned.lines,
      // A rate that would come to something else now is not looked at again.
      bearer: { accountId: 7, departmentId: 4, tax: { taxCodeId: 2, rate: decimal(99), posted: borne?.tax ?? null } },
    };
    const moved = { ...stateOf(after(stocked, planned)), reasonAccount: 7 };
    const undone = plan(reversalOf(posted, '2026-11-23', ''), moved);
    expect(entry(undone)).toEqual(['1 3.33', '7/4 -3.91', '97 0.58']);
    expect(undone.borne?.tax).toMatchObject({ base: decimal('-3.33'), owed: decimal('-0.58') });
    expect(told(undone, moved).costNotes).toEqual(['Tax of 0.58 is not due any more.']);
  });
});

test('what goes for no reason is borne by nobody', () => {
  expect(plan(movement([line(1, 3, 1)], { kind: 'pick', reasonId: null }), { ...state, reasonAccount: null }).borne).toBeNull();
});
