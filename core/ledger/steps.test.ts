import { describe, expect, test } from '@jest/globals';
import { decimal, zero } from '../decimal';
import { plan } from './plan';
import { planSteps } from './steps';
import { crossDock } from './crossDock';
import { siteKey, type ItemState, type LedgerState, type SiteState } from './types';
import { after, demandLine, emptyWorld, line, movement, receipt, refusal, stateOf } from './world';

describe('goods made of others', () => {
  const made = { id: 12, kind: 'made' as const, siteId: null, code: 'made', sellable: false, retired: false };
  const known = stateOf({ ...after(emptyWorld(), plan(receipt(3, '10.00'), stateOf(emptyWorld()))) });
  const [component] = [...known.items.values()] as [ItemState];
  const product = { ...component, id: 2, sku: 'KIT', pool: { quantity: zero, value: zero }, layers: [], lastSeq: 0, lastHeld: null };
  const site = { ...([...known.sites.values()][0] as SiteState), itemId: 2, onHand: zero, bench: zero, demand: [] };
  const state: LedgerState = {
    ...known,
    places: new Map([...known.places, [12, made]]),
    items: new Map([...known.items, [2, product]]),
    sites: new Map([...known.sites, [siteKey(2, 1), site]]),
  };
  const output = (quantity: number, part: number, whole: number) =>
    line(12, 1, quantity, { itemId: 2, valuation: { by: 'inputs', part: decimal(part), whole: decimal(whole) } });
  test('are worth what was put into them, to the last cent, however many parts it is in; nothing is left between', () => {
    const planned = plan(movement([line(1, 12, 2), output(1, 1, 3), output(1, 1, 3), output(1, 1, 3)]), state);
    expect(planned.lines.map(({ value }) => value.toFixed(2))).toEqual(['-6.67', '2.22', '2.23', '2.22']);
    expect(planned.journal.map(({ accountId, itemId, amount }) => [accountId, itemId, amount.toFixed(2)])).toEqual([
      [1, 1, '-6.67'],
      [1, 2, '6.67'],
    ]);
    expect(planned.after.items.get(2)?.pool).toMatchObject({ quantity: decimal(3), value: decimal('6.67') });
  });
  test('what no product takes goes to cost variance', () => {
    const planned = plan(movement([line(1, 12, 3), output(2, 1, 2)]), state);
    expect(planned.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [1, '-10.00'],
      [1, '5.00'],
      [4, '5.00'],
    ]);
  });
});

describe('steps that follow on from one another', () => {
  const short = { ...emptyWorld(), demand: [demandLine(1, { wanted: decimal(4) })] };
  const state = stateOf(short);
  const comes = movement([line(4, 1, 6, { of: 0, valuation: { by: 'stated', value: decimal('9.00') }, serves: [{ kind: 'purchase', lineId: 101 }] })], {
    kind: 'receipt',
  });
  const straight = planSteps(comes, [crossDock(new Set([0]))], state);
  test('what comes in is carried to the bench for who waits, and the effects are the difference of first and last', () => {
    expect(straight.steps.map(({ movement: { kind, lines } }) => [kind, ...lines.map(({ quantity }) => quantity.toFixed())])).toEqual([
      ['receipt', '6'],
      ['pick', '4'],
    ]);
    expect(straight.effects.rows.map(({ measure, before, after: then }) => `${measure} ${before} ${then}`)).toEqual([
      'on hand 0 2',
      'free 0 2',
      'short 4 0',
      'on the bench 0 4',
      'value 0.00 9.00',
      'unit cost 0.0000 1.5000',
    ]);
    expect(straight.effects.notes).toEqual(['SO-1 line 1 gets 4 it was short of.', '4 of SM-STD go straight to the bench of Barn store.']);
  });
  test('only lines that were asked for, into bins that are sold from; else nothing follows', () => {
    expect(planSteps(comes, [crossDock(new Set([1]))], state).steps).toHaveLength(1);
    expect(
      planSteps(movement([line(4, 10, 6, { of: 0, valuation: { by: 'stated', value: decimal(9) } })]), [crossDock(new Set([0]))], state).steps,
    ).toHaveLength(1);
  });
  test('the bench is for documents whose goods go over it; others get them where they came to', () => {
    const lent = stateOf({ ...emptyWorld(), demand: [demandLine(1, { kind: 'loan', wanted: decimal(4) })] });
    const planned = planSteps(comes, [crossDock(new Set([0]))], lent);
    expect(planned.steps.map(({ movement: { kind } }) => kind)).toEqual(['receipt']);
    expect(planned.effects.notes).toEqual(['SO-1 line 1 gets 4 it was short of.']);
    expect(straight.steps[1]?.movement.lines[0]?.serves).toEqual([{ kind: 'sales', lineId: 1 }]);
  });
  test('one that may not be lets none of them be', () => {
    const tooMuch = { movement: movement([line(1, 6, 7)]), notes: [] };
    expect(refusal(() => planSteps(comes, [() => tooMuch], state)).type).toBe('not-enough-stock');
  });
});
