/** A small world for the ledger's tests: one item, two bins and a bench at one site, and who goods come from and go to. */
import { afterMoves } from '../costing/layers';
import type { CostMethodName, Layer } from '../costing/method';
import { decimal, sum, zero, type Decimal } from '../decimal';
import type { Refusal } from '../refusal';
import { effectsBetween } from './effects';
import {
  balanceKey,
  isOwned,
  siteKey,
  type DemandLine,
  type Effects,
  type LedgerState,
  type Movement,
  type MovementLine,
  type Place,
  type Plan,
} from './types';

const place = (id: number, kind: Place['kind'], siteId: number | null = null): Place => ({
  id,
  kind,
  siteId,
  code: `${kind}-${id}`,
  sellable: kind === 'bin',
  retired: false,
});
export const places = [
  place(1, 'bin', 1),
  place(2, 'bin', 1),
  place(3, 'bench', 1),
  place(4, 'supplier'),
  place(5, 'customer'),
  place(6, 'found-or-lost'),
  place(7, 'used-up'),
  place(8, 'opening'),
  place(9, 'own-use'),
  { ...place(10, 'bin', 1), sellable: false },
  place(11, 'scrap'),
];
const accounts = {
  inventory: 1,
  grni: 2,
  'cost-of-sales': 3,
  'cost-variance': 4,
  opening: 5,
  'stock-differences': 6,
  'own-use': 7,
  'own-use-tax': 97,
  'purchases-paid': 8,
  'price-variance': 99,
  'credits-expected': 98,
  'work-in-progress': 20,
  'making-variance': 21,
};

/** What the ledger holds of one item at one site, before or after a plan. */
export interface World {
  quantity: Decimal;
  value: Decimal;
  seq: number;
  balances: Map<number, Decimal>;
  demand: DemandLine[];
  method: CostMethodName;
  layers: Layer[];
  pastUse: number[];
  stocked: boolean;
  tracking?: 'none' | 'lot' | 'serial';
  lastHeld?: { quantity: Decimal; value: Decimal };
  lotKinds?: [number, 'lot' | 'serial'][];
  counted?: [string, { seq: number; day: string }][];
}

export const emptyWorld = (method: CostMethodName = 'average'): World => ({
  quantity: zero,
  value: zero,
  seq: 0,
  balances: new Map(),
  demand: [],
  method,
  layers: [],
  pastUse: [],
  stocked: true,
});

export const stateOf = (world: World): LedgerState => ({
  today: '2026-11-23',
  closedThrough: '2026-10-31',
  places: new Map(places.map((one) => [one.id, one])),
  items: new Map([
    [
      1,
      {
        id: 1,
        sku: 'SM-STD',
        name: 'Smoker',
        unit: 'each',
        stocked: world.stocked,
        costMethod: world.method,
        pool: { quantity: world.quantity, value: world.value },
        layers: world.layers.filter((layer) => layer.quantity.gt(zero)),
        lastSeq: world.seq,
        tracking: world.tracking ?? 'none',
        lastHeld: world.lastHeld ?? null,
        purchasePrice: decimal('2.50'),
        inventoryAccount: 1,
        costAccount: 3,
      },
    ],
  ]),
  balances: new Map([...world.balances].map(([id, quantity]) => [balanceKey(1, null, id), quantity])),
  lowestSince: new Map(),
  sites: new Map([
    [
      siteKey(1, 1),
      {
        itemId: 1,
        siteId: 1,
        siteName: 'Barn store',
        onHand: sum([1, 2].map((id) => world.balances.get(id) ?? zero)),
        bench: world.balances.get(3) ?? zero,
        demand: world.demand,
      },
    ],
  ]),
  pastUse: new Set(world.pastUse),
  lotKinds: new Map(world.lotKinds ?? []),
  counted: new Map(world.counted ?? []),
  documents: new Map([
    [101, { label: 'PO-1 line 1', arrived: world.balances.get(4)?.neg() ?? zero, drawn: zero, gone: zero, finished: zero, open: decimal(1_000_000) }],
    [
      1,
      {
        label: 'SO-1 line 1',
        arrived: zero,
        drawn: (world.balances.get(3) ?? zero).plus(world.balances.get(5) ?? zero),
        gone: zero,
        finished: world.balances.get(5) ?? zero,
        open: zero,
      },
    ],
  ]),
  accounts,
  reasonAccount: 6,
});

/** The world as the database's triggers would leave it. */
export function after(world: World, planned: Plan): World {
  const balances = new Map(world.balances);
  const add = (id: number, change: Decimal) => balances.set(id, (balances.get(id) ?? zero).plus(change));
  let { quantity, value } = world;
  for (const line of planned.lines) {
    add(line.fromPlaceId, line.quantity.neg());
    add(line.toPlaceId, line.quantity);
    const kind = (id: number) => Number(isOwned((places[id - 1] as Place).kind));
    quantity = quantity.plus(line.quantity.times(kind(line.toPlaceId) - kind(line.fromPlaceId)));
    value = value.plus(line.value);
  }
  const moves = planned.lines.flatMap(({ layerMoves }) => layerMoves);
  const layers = afterMoves(world.layers, moves, { lotId: null });
  return { ...world, quantity, value, balances, layers, seq: planned.lines.at(-1)?.seq ?? world.seq };
}

/** What a plan changes, figure by figure, of the state it was decided over. */
export const told = (planned: Plan, state: LedgerState): Effects => effectsBetween(state, planned.after, planned.notes, planned.costNotes);

export const line = (from: number, to: number, quantity: number, part: Partial<MovementLine> = {}): MovementLine => ({
  itemId: 1,
  lotId: null,
  quantity: decimal(quantity),
  fromPlaceId: from,
  toPlaceId: to,
  valuation: { by: 'current' },
  serves: [],
  field: 'lines.0.quantity',
  ...part,
});
export const movement = (lines: MovementLine[], part: Partial<Movement> = {}): Movement => ({
  kind: 'correction',
  effectiveOn: '2026-11-23',
  lines,
  reasonId: 1,
  reversesId: null,
  note: '',
  ...part,
});
export const receipt = (quantity: number, value: string) =>
  movement([line(4, 1, quantity, { valuation: { by: 'stated', value: decimal(value) }, serves: [{ kind: 'purchase', lineId: 101 }] })], { kind: 'receipt' });
export const demandLine = (lineId: number, part: Partial<DemandLine> = {}): DemandLine => ({
  lineId,
  kind: 'sales',
  number: `SO-${lineId}`,
  position: 1,
  neededOn: '2026-11-25',
  promisedOn: null,
  standsBack: false,
  wanted: decimal(5),
  reserved: zero,
  ...part,
});
export const refusal = (work: () => unknown): Refusal => {
  try {
    work();
  } catch (error) {
    return error as Refusal;
  }
  throw new Error('nothing was refused');
};
