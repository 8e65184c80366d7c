import { describe, expect, test } from '@jest/globals';
import { decimal, zero } from '../decimal';
import { plan } from './plan';
import { reversalOf, type PostedMovement } from './reversal';
import { bySerial, releaseLost, serve } from './serving';
import { balanceKey, type LedgerState, type Movement, type Place } from './types';
import { after, demandLine, emptyWorld, line, movement, receipt, refusal, stateOf, type World, told } from './world';

describe('at the edges', () => {
  const stocked = (quantity = 5, value = '10.00') => after(emptyWorld(), plan(receipt(quantity, value), stateOf(emptyWorld())));
  test('a retired bin takes nothing in, but what lies in it can leave', () => {
    const state = stateOf(stocked());
    const retired = (id: number) => new Map(state.places).set(id, { ...(state.places.get(id) as Place), retired: true });
    expect(refusal(() => plan(movement([line(6, 1, 1)]), { ...state, places: retired(1) }))).toMatchObject({
      type: 'place-retired',
      errors: [{ field: 'lines.0.quantity' }],
    });
    expect(plan(movement([line(1, 6, 1)]), { ...state, places: retired(1) }).lines).toHaveLength(1);
  });
  test('from the bench goes what is picked of the line, and no more: two lines together count', () => {
    const picked = {
      ...stocked(6),
      balances: new Map([
        [1, decimal(2)],
        [3, decimal(4)],
      ]),
    };
    const goes = (...quantities: number[]) =>
      plan(
        movement(
          quantities.map((quantity) => line(3, 5, quantity, { serves: [{ kind: 'sales', lineId: 1 }] })),
          { kind: 'dispatch' },
        ),
        stateOf(picked),
      );
    expect(goes(4).lines[0]?.value.toFixed(2)).toBe('-6.67');
    expect(refusal(() => goes(3, 2))).toMatchObject({ type: 'not-picked', message: 'Only 4 of SO-1 line 1 wait on the bench.' });
  });
  test('no more goes back to a supplier than was received of the line', () => {
    const back = (quantity: number) =>
      movement([line(1, 4, quantity, { serves: [{ kind: 'purchase', lineId: 101 }], valuation: { by: 'current' } })], { kind: 'supplier-return' });
    const world = {
      ...stocked(),
      balances: new Map([
        [1, decimal(9)],
        [4, decimal(-5)],
      ]),
      quantity: decimal(9),
    };
    expect(plan(back(5), stateOf(world)).lines).toHaveLength(1);
    expect(refusal(() => plan(back(6), stateOf(world))).message).toBe('Only 5 of PO-1 line 1 have been received.');
  });
  test('all that is there may leave, and takes all the value; a bin that held just as much on every day lets it go', () => {
    const all = plan(movement([line(1, 6, 5)], { effectiveOn: '2026-11-10' }), {
      ...stateOf(stocked()),
      lowestSince: new Map([[balanceKey(1, null, 1), decimal(5)]]),
    });
    expect([all.lines[0]?.value.toFixed(2), all.lines[0]?.variance.toFixed(2)]).toEqual(['-10.00', '0.00']);
  });
  test('the day after a closed period is open, and today is not the future', () => {
    expect(plan(movement([line(1, 6, 1)], { effectiveOn: '2026-11-01' }), stateOf(stocked())).lines).toHaveLength(1);
    expect(plan(movement([line(1, 6, 1)], { effectiveOn: '2026-11-23' }), { ...stateOf(stocked()), closedThrough: null }).lines).toHaveLength(1);
  });
  test('found when nothing is left: at what the last ones were worth, multiplied first; else at the purchase price; else it asks', () => {
    const found = (lastHeld: { quantity: number; value: string } | null, purchasePrice: string | null, quantity = 2) => {
      const state = stateOf(emptyWorld());
      const one = state.items.get(1);
      if (!one) throw new Error('no item');
      const held = lastHeld && { quantity: decimal(lastHeld.quantity), value: decimal(lastHeld.value) };
      const items = new Map([[1, { ...one, lastHeld: held, purchasePrice: purchasePrice === null ? null : decimal(purchasePrice) }]]);
      return plan(movement([line(6, 1, quantity)]), { ...state, items }).lines[0]?.value.toFixed(2);
    };
    expect([found({ quantity: 3, value: '10.00' }, '9'), found({ quantity: 3, value: '10.00' }, '9', 3), found(null, '1.005', 1)]).toEqual([
      '6.67',
      '10.00',
      '1.01',
    ]);
    expect(refusal(() => found(null, null))).toMatchObject({ type: 'no-cost-known', errors: [{ field: 'lines.0.quantity' }] });
  });
  test('found while some lie here: at what those are worth', () => {
    expect(plan(movement([line(6, 1, 2)]), stateOf(stocked(3, '10.00'))).lines[0]?.value.toFixed(2)).toBe('6.67');
  });
  test('more than any account can hold is refused by the line: of one line, of lines together, of all that would lie there', () => {
    const worth = (...values: string[]) =>
      movement(
        values.map((value) => line(4, 1, 1, { valuation: { by: 'stated', value: decimal(value) }, field: `lines.${value}` })),
        { kind: 'receipt' },
      );
    expect(refusal(() => plan(worth('1e12'), stateOf(emptyWorld())))).toMatchObject({ type: 'too-large', errors: [{ field: 'lines.1e12' }] });
    expect(refusal(() => plan(worth('6e11', '4e11'), stateOf(emptyWorld()))).type).toBe('too-large');
    expect(refusal(() => plan(worth('5'), stateOf({ ...stocked(), value: decimal('999999999999') }))).type).toBe('too-large');
    expect(plan(worth('999999999999'), stateOf(emptyWorld())).lines).toHaveLength(1);
  });
});

describe('lots and counts', () => {
  const tracked = (tracking: 'lot' | 'serial' | 'none', lotKinds: [number, 'lot' | 'serial'][] = []) => ({ ...emptyWorld(), tracking, lotKinds });
  const comes = (lotId: number | null, part: Partial<Movement> = {}) =>
    movement([line(4, 1, 1, { lotId, valuation: { by: 'stated', value: decimal(2) } })], { kind: 'receipt', ...part });
  test('what is kept by lots comes in with one, what is not without; a serial is no lot', () => {
    expect(refusal(() => plan(comes(null), stateOf(tracked('lot'))))).toMatchObject({ type: 'tracking-changed', message: 'SM-STD is kept by lots.' });
    expect(refusal(() => plan(comes(7), stateOf(tracked('none', [[7, 'lot']])))).message).toBe('SM-STD is kept without lots or serials.');
    expect(refusal(() => plan(comes(7), stateOf(tracked('lot', [[7, 'serial']])))).type).toBe('tracking-changed');
    expect(plan(comes(7), stateOf(tracked('serial', [[7, 'serial']]))).lines).toHaveLength(1);
    expect(plan(comes(-1), stateOf(tracked('lot'))).lines).toHaveLength(1); // new in a preview
  });
  test('an undo from before says why; relabelling may; what never lies here is not asked', () => {
    expect(refusal(() => plan(comes(null, { kind: 'undo' }), stateOf(tracked('lot')))).message).toContain('cannot be undone; correct the stock instead');
    expect(plan(comes(null, { kind: 'relabel' }), stateOf(tracked('lot'))).lines).toHaveLength(1);
    const direct = movement([line(4, 5, 1, { valuation: { by: 'stated', value: decimal(2) } })], { kind: 'drop-shipment' });
    expect(plan(direct, stateOf(tracked('lot'))).lines).toHaveLength(1);
  });
  const counted = (seq: number, day: string) => ({
    ...after(emptyWorld(), plan(receipt(5, '10.00'), stateOf(emptyWorld()))),
    counted: [[balanceKey(1, null, 1), { seq, day }]] as World['counted'],
  });
  test('an undo of what a count contains asks; of what came after it, or when the person has said so, not', () => {
    const undo = (seq: number, part: Partial<Movement> = {}) =>
      movement([line(1, 4, 1, { undoes: { seq, layerMoves: [] } })], { kind: 'undo', reversesId: 1, ...part });
    const world = stateOf(counted(4, '2026-11-20'));
    expect(refusal(() => plan(undo(4), world))).toMatchObject({
      type: 'counted-since',
      asks: ['counted-since'],
      message: 'bin-1 was counted on 2026-11-20, and that count of SM-STD contains this already. Undo it all the same?',
    });
    expect([plan(undo(5), world), plan(undo(4, { countedAgreed: true }), world)].map(({ lines }) => lines.length)).toEqual([1, 1]);
  });
  test('what is dated before a count asks, into the bin or out of it; on its day or after not', () => {
    const world = stateOf(counted(4, '2026-11-20'));
    for (const [from, to] of [
      [6, 1],
      [1, 6],
    ] as const)
      expect(refusal(() => plan(movement([line(from, to, 1)], { effectiveOn: '2026-11-19' }), world)).message).toContain('Enter it all the same?');
    expect(plan(movement([line(6, 1, 1)], { effectiveOn: '2026-11-20' }), world).lines).toHaveLength(1);
  });
});

describe('where the other side of an entry stands', () => {
  const stocked = after(emptyWorld(), plan(receipt(5, '10.00'), stateOf(emptyWorld())));
  const told = (from: number, to: number, part: Partial<LedgerState> = {}, more: Parameters<typeof line>[3] = {}) =>
    plan(movement([line(from, to, 1, more)]), { ...stateOf(stocked), ...part }).journal.map(
      ({ accountId, itemId, amount }) => `${accountId}${itemId ? '*' : ''} ${amount.toFixed(2)}`,
    );
  const worth = { valuation: { by: 'stated' as const, value: decimal(2) } };
  test.each([
    ['from a supplier without an order', 4, 1, ['1* 2.00', '8 -2.00'], worth],
    ['opening stock', 8, 1, ['1* 2.00', '5 -2.00'], worth],
    ['lost, by its reason', 1, 6, ['1* -2.00', '6 2.00'], {}],
    ['scrapped, by its reason', 1, 11, ['1* -2.00', '6 2.00'], {}],
    ['used in the business, by its reason', 1, 9, ['1* -2.00', '6 2.00'], {}],
    ['to a customer', 3, 5, ['1* -2.00', '3 2.00'], {}],
    ['from bin to bin, nothing', 1, 2, [], {}],
  ] as const)('%s', (_, from, to, entry, more) => {
    const picked = { balances: new Map([...stateOf(stocked).balances, [balanceKey(1, null, 3), decimal(1)]]) };
    expect(told(from, to, picked, more)).toEqual(entry);
  });
  test('brought back by a customer it comes off cost of sales; thrown away as it comes, the account of the reason bears it; undone, all comes back', () => {
    const part = { ofLineId: 3, returnId: 4, quantity: decimal(1), value: decimal(2) };
    const back = (toPlaceId: number, more: Parameters<typeof line>[3] = {}) =>
      movement([line(5, toPlaceId, 1, { ...worth, serves: [{ kind: 'sales', lineId: 1 }], cameBack: [part], ...more })], { kind: 'customer-return' });
    const entry = (planned: ReturnType<typeof plan>) =>
      planned.journal.map(({ accountId, itemId, amount }) => `${accountId}${itemId ? '*' : ''} ${amount.toFixed(2)}`);
    const toShelf = plan(back(1), stateOf(stocked));
    expect([entry(toShelf), toShelf.costNotes]).toEqual([['1* 2.00', '3 -2.00'], []]);
    const scrapped = plan(back(11, { lossAccount: 77 }), stateOf(stocked));
    expect([entry(scrapped), scrapped.costNotes]).toEqual([['3 -2.00', '77 2.00'], ['2.00 that SM-STD had cost is written off.']]);
    expect(entry(plan(back(11), { ...stateOf(stocked), reasonAccount: null }))).toEqual(['3 -2.00', '6 2.00']);
    const undo = reversalOf({ id: 3, kind: 'customer-return', reasonId: null, lines: scrapped.lines }, '2026-11-23', '');
    expect(undo.lines[0]?.cameBack).toMatchObject([{ ofLineId: 3, returnId: 4, quantity: decimal(-1), value: decimal(-2) }]);
    const undone = plan(undo, stateOf(stocked));
    expect([entry(undone), undone.costNotes]).toEqual([['3 2.00', '77 -2.00'], ['2.00 that SM-STD had cost is written off no more.']]);
  });
  test('without an account of the reason: stock differences, own use', () => {
    expect([told(1, 6, { reasonAccount: null }), told(1, 9, { reasonAccount: null })]).toEqual([
      ['1* -2.00', '6 2.00'],
      ['1* -2.00', '7 2.00'],
    ]);
    expect(told(1, 9, { reasonAccount: 55 })).toEqual(['1* -2.00', '55 2.00']);
  });
  test('goods sent back: the order counts what it paid, the difference is price variance; undone, both come back', () => {
    const back = movement(
      [
        line(1, 4, 1, {
          valuation: { by: 'returned', value: decimal(3), moved: null },
          serves: [{ kind: 'purchase', lineId: 101 }],
          takenOff: [{ lineId: 9, layerSeq: 1, quantity: decimal(1), value: decimal(3), calledOff: decimal(1) }],
        }),
      ],
      { kind: 'supplier-return' },
    );
    const planned = plan(back, stateOf(stocked));
    expect(planned.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [1, '-2.00'],
      [2, '3.00'],
      [99, '-1.00'],
    ]);
    expect(planned.notes).toEqual([]);
    const undo = reversalOf({ id: 3, kind: 'supplier-return', reasonId: null, lines: planned.lines }, '2026-11-23', 'mine');
    expect(undo.lines[0]).toMatchObject({
      valuation: { by: 'returned', value: decimal(3), moved: decimal(2) },
      takenOff: [{ lineId: 9, layerSeq: 1, quantity: decimal(-1), value: decimal(-3), calledOff: decimal(-1) }],
      undoes: { seq: 2, layerMoves: [] },
      fromPlaceId: 4,
      toPlaceId: 1,
    });
    expect(undo).toMatchObject({ kind: 'undo', reversesId: 3, note: 'mine', countedAgreed: false });
    expect(plan(undo, stateOf(after(stocked, planned))).journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [1, '2.00'],
      [2, '-3.00'],
      [99, '1.00'],
    ]);
  });
  test('what was billed already and goes back is a credit expected; an order line nobody read counts from nothing', () => {
    const back = movement([line(1, 4, 1, { valuation: { by: 'returned', value: decimal(3), moved: null }, serves: [{ kind: 'purchase', lineId: 101 }] })], {
      kind: 'supplier-return',
    });
    const state = stateOf(stocked);
    const lines = new Map([[101, { label: 'PO-1 line 1', arrived: decimal(5), drawn: zero, gone: zero, finished: zero, open: decimal(1) }]]);
    expect(plan(back, { ...state, documents: lines }).journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [1, '-2.00'],
      [2, '1.00'],
      [98, '2.00'],
      [99, '-1.00'],
    ]);
  });
  test('an undo is the lines the last first, each turned round', () => {
    const posted: PostedMovement = { id: 1, kind: 'correction', reasonId: 1, lines: plan(movement([line(1, 6, 1), line(6, 2, 2)]), stateOf(stocked)).lines };
    expect(reversalOf(posted, '2026-11-23', '', true)).toMatchObject({
      countedAgreed: true,
      lines: [
        { fromPlaceId: 2, toPlaceId: 6 },
        { fromPlaceId: 6, toPlaceId: 1 },
      ],
    });
  });
});

describe('what a movement does to what is promised', () => {
  const stocked = (demand: World['demand'], quantity = 6) => ({ ...after(emptyWorld(), plan(receipt(quantity, '12.00'), stateOf(emptyWorld()))), demand });
  const changes = (planned: ReturnType<typeof plan>) =>
    [...planned.releases, ...planned.reserves].map(({ lineId, itemId, siteId, quantity }) => `${lineId}:${itemId}@${siteId} ${quantity.toFixed()}`);
  test('a pick uses what its own line has, and leaves the others theirs; back on the shelf, it is wanted again and served first', () => {
    const world = stocked([demandLine(1, { reserved: decimal(3) }), demandLine(2, { reserved: decimal(3), neededOn: '2026-11-24' })]);
    const pick = plan(movement([line(1, 3, 2, { serves: [{ kind: 'sales', lineId: 1 }] })], { kind: 'pick' }), stateOf(world));
    expect(changes(pick)).toEqual(['1:1@1 -2']);
    expect(told(pick, stateOf(world)).rows.map(({ measure, before, after: then }) => `${measure} ${before} ${then}`)).toEqual([
      'on hand 6 4',
      'reserved 6 4',
      'on the bench 0 2',
    ]);
    const then = {
      ...after(world, pick),
      demand: [demandLine(1, { wanted: decimal(3), reserved: decimal(1) }), demandLine(2, { reserved: decimal(3), neededOn: '2026-11-24' })],
    };
    const unpick = plan(movement([line(3, 1, 2, { serves: [{ kind: 'sales', lineId: 1 }] })], { kind: 'undo', reversesId: 1 }), stateOf(then));
    expect(changes(unpick)).toEqual(['1:1@1 2']);
    expect(unpick.notes).toEqual([]);
  });
  test('into quarantine they are no longer on hand: the last served gives back', () => {
    const planned = plan(
      movement([line(1, 10, 4)], { kind: 'shelf-move' }),
      stateOf(stocked([demandLine(1, { reserved: decimal(3), neededOn: '2026-11-24' }), demandLine(2, { reserved: decimal(3) })])),
    );
    expect(changes(planned)).toEqual(['2:1@1 -3', '1:1@1 -1']);
    expect(planned.notes).toEqual(['SO-2 line 1 becomes short of 3.', 'SO-1 line 1 becomes short of 1.']);
  });
  test('from bin to bin nothing of it changes', () => {
    const state = stateOf(stocked([demandLine(1, { reserved: decimal(5) })]));
    const planned = plan(movement([line(1, 2, 4)], { kind: 'shelf-move' }), state);
    expect([changes(planned), told(planned, state).rows]).toEqual([[], []]);
  });
  test('what is promised does not go back to a supplier, nor to a customer who has not been promised it', () => {
    const state = stateOf(stocked([demandLine(1, { reserved: decimal(5) })]));
    const back = movement([line(1, 4, 2, { serves: [{ kind: 'purchase', lineId: 101 }] })], { kind: 'supplier-return' });
    expect(refusal(() => plan(back, state))).toMatchObject({
      type: 'promised-elsewhere',
      message: 'Only 1 of SM-STD may be taken at Barn store; 5 are promised to other orders.',
      errors: [{ field: 'lines.0.quantity' }],
    });
    expect(refusal(() => plan(movement([line(1, 5, 2)], { kind: 'dispatch' }), state)).type).toBe('promised-elsewhere');
    expect(refusal(() => plan(movement([line(1, 6, 1), line(1, 5, 2)]), state)).type).toBe('promised-elsewhere');
  });
  test('an order may take what is its own and what is free, not what another is promised', () => {
    const state = stateOf(stocked([demandLine(1, { reserved: decimal(2) }), demandLine(2, { reserved: decimal(3), neededOn: '2026-11-24' })]));
    const pick = (quantity: number) => movement([line(1, 3, quantity, { serves: [{ kind: 'sales', lineId: 1 }] })], { kind: 'pick' });
    expect(changes(plan(pick(3), state))).toEqual(['1:1@1 -2']);
    expect(refusal(() => plan(pick(4), state)).message).toBe('Only 3 of SM-STD may be taken at Barn store; 3 are promised to other orders.');
    expect(refusal(() => plan(pick(6), state)).message).toBe('SO-1 wants 1 fewer of SM-STD than that.');
  });
  test('what is lost of one is not held against what another line only passes on', () => {
    const state = stateOf(stocked([demandLine(1, { reserved: decimal(5) })]));
    const two = movement([line(1, 6, 4), line(4, 5, 2, { valuation: { by: 'stated', value: decimal('4.00') }, serves: [{ kind: 'purchase', lineId: 101 }] })]);
    const { notes, costNotes } = plan(two, state);
    expect([notes, costNotes]).toEqual([['SO-1 line 1 becomes short of 3.'], ['4.00 for SM-STD is cost at once: none of it lies here.']]);
  });
  test('a lot past its day is not on hand: it serves nobody as it comes in', () => {
    const world = {
      ...emptyWorld(),
      demand: [demandLine(1)],
      tracking: 'lot' as const,
      lotKinds: [
        [7, 'lot'],
        [8, 'lot'],
      ] as World['lotKinds'],
      pastUse: [7],
    };
    const comes = (lotId: number) =>
      plan(movement([line(4, 1, 3, { lotId, valuation: { by: 'stated', value: decimal(3) } })], { kind: 'receipt' }), stateOf(world));
    expect([changes(comes(7)), changes(comes(8))]).toEqual([[], ['1:1@1 3']]);
  });
  test('promises come before ship-by days, then the number of the order, then the line; what is made first is served first', () => {
    const lines = [
      demandLine(1, { number: 'SO-10', position: 2 }),
      demandLine(2, { number: 'SO-10', position: 1 }),
      demandLine(3, { number: 'SO-9' }),
      demandLine(4, { number: 'SO-99', neededOn: '2026-11-24' }),
      demandLine(5, { number: 'SO-99', promisedOn: '2026-12-02' }),
      demandLine(6, { number: 'SO-98', promisedOn: '2026-12-01' }),
    ];
    expect([...lines].sort(bySerial).map(({ lineId }) => lineId)).toEqual([6, 5, 4, 3, 2, 1]);
    expect(
      [...lines]
        .reverse()
        .sort(bySerial)
        .map(({ lineId }) => lineId),
    ).toEqual([6, 5, 4, 3, 2, 1]);
    const served = (first: number[]) =>
      serve(decimal(5), lines, first)
        .filter(({ reserved }) => reserved.gt(0))
        .map(({ lineId }) => lineId);
    expect([served([]), served([1]), served([3])]).toEqual([[6], [1], [3]]);
    expect(
      releaseLost(
        decimal(2),
        lines.map((one) => ({ ...one, reserved: decimal(1) })),
      )
        .filter(({ reserved }) => reserved.gt(0))
        .map(({ lineId }) => lineId)
        .sort(),
    ).toEqual([5, 6]);
  });
});
