import { zero, type Decimal } from '../decimal';
import { placeOf } from './facts';
import type { LedgerState, MovementLine, PlaceKind } from './types';

/** Kinds of documents whose lines movements serve. `component` and `product` are the two sides of making. */
export type DocumentKind = 'purchase' | 'sales' | 'transfer' | 'loan' | 'component' | 'product';

/** How a kind of document stands to stock. */
export interface DocumentRule {
  /** Which of a movement line's two documents it is: the one whose goods come, or the one they go for. */
  side: 'supply' | 'demand';
  /** Where what was drawn for it waits until it is finished; null where nothing is drawn. */
  waitsAt: PlaceKind | null;
  /** Where it is once it has left there, when it is not finished then. */
  goesBy?: PlaceKind;
}

export const documentRules: Readonly<Record<DocumentKind, DocumentRule>> = {
  purchase: { side: 'supply', waitsAt: null },
  product: { side: 'supply', waitsAt: null },
  sales: { side: 'demand', waitsAt: 'bench' },
  transfer: { side: 'demand', waitsAt: 'bench', goesBy: 'transit' },
  loan: { side: 'demand', waitsAt: 'holder' },
  component: { side: 'demand', waitsAt: 'in-work' },
};

/**
 * What a document line counts, in base units. `arrived`: came in for it (received, at the other site, made). `drawn`: taken off the shelf for it (picked, sent, lent, given to the work).
 * `sent`: of what was drawn, came straight from a supplier and never off the shelf. `gone`: of what was drawn, has left the site (of a transfer). `finished`: of what was drawn, has reached its end
 * (dispatched, arrived, lost on the way, brought back, used).
 * `returned`: came back from the customer; of a loan, was brought back.
 */
export const counters = ['arrived', 'drawn', 'sent', 'gone', 'finished', 'returned'] as const;
export type Counter = (typeof counters)[number];

/** One row: for lines of this kind, a move from here to there adds (1) to the counter or takes off it (-1). */
export interface CounterRule {
  document: DocumentKind;
  counter: Counter;
  /** Whether it counts what is moved, or what that is worth: signed as the pool sees it, with what no pool bears. */
  measure: 'quantity' | 'value';
  from: PlaceKind;
  to: PlaceKind;
  sign: 1 | -1;
}

type Row = [document: DocumentKind, from: PlaceKind, to: PlaceKind, ...counts: `${'+' | '-'}${Counter}${'' | ' value'}`[]];

const rows: readonly Row[] = [
  ['purchase', 'supplier', 'bin', '+arrived', '+arrived value'],
  ['purchase', 'supplier', 'used-up', '+arrived', '+arrived value'],
  ['purchase', 'supplier', 'customer', '+arrived', '+arrived value'],
  ['purchase', 'bin', 'supplier', '-arrived', '+arrived value'],
  ['purchase', 'used-up', 'supplier', '-arrived', '+arrived value'],
  ['purchase', 'customer', 'supplier', '-arrived', '+arrived value'],
  ['sales', 'bin', 'bench', '+drawn'],
  ['sales', 'bench', 'bin', '-drawn'],
  ['sales', 'bench', 'customer', '+finished', '-finished value'],
  ['sales', 'nowhere', 'customer', '+drawn', '+finished', '-finished value'],
  ['sales', 'supplier', 'customer', '+drawn', '+sent', '+finished', '+finished value'],
  ['sales', 'customer', 'bin', '+returned', '-finished value'],
  ['sales', 'customer', 'scrap', '+returned', '-finished value'],
  ['sales', 'customer', 'supplier', '+returned', '+finished value'],
  ['transfer', 'bin', 'bench', '+drawn'],
  ['transfer', 'bench', 'bin', '-drawn'],
  ['transfer', 'bench', 'transit', '+gone'],
  ['transfer', 'bin', 'transit', '+drawn', '+gone'],
  ['transfer', 'transit', 'bin', '+finished', '+arrived'],
  ['transfer', 'transit', 'found-or-lost', '+finished'],
  ['loan', 'bin', 'holder', '+drawn'],
  ['loan', 'holder', 'bin', '+finished', '+returned'],
  ['loan', 'holder', 'found-or-lost', '+finished'],
  ['loan', 'holder', 'customer', '+finished'],
  ['loan', 'holder', 'scrap', '+finished'],
  ['component', 'bin', 'in-work', '+drawn'],
  ['component', 'in-work', 'bin', '-drawn'],
  ['component', 'in-work', 'made', '+finished', '-finished value'],
  ['product', 'made', 'bin', '+arrived', '+arrived value'],
];

/** Which move changes which counter: the one table that the plan, the undo, the database's rule and the audit go by. */
export const counterRules: readonly CounterRule[] = rows.flatMap(([document, from, to, ...counts]) =>
  counts.map((count): CounterRule => {
    const [counter, measure] = count.slice(1).split(' ') as [Counter, 'value' | undefined];
    return { document, counter, measure: measure ?? 'quantity', from, to, sign: count.startsWith('+') ? 1 : -1 };
  }),
);

/**
 * By how much a line changes the counters of a document line of this kind, in base units. An undo goes the way of what it undoes, and takes off what that added.
 */
export function countersMoved(
  state: Pick<LedgerState, 'places'>,
  line: MovementLine,
  document: DocumentKind,
  isUndo: boolean,
): Partial<Record<Counter, Decimal>> {
  const ends = [placeOf(state, line.fromPlaceId).kind, placeOf(state, line.toPlaceId).kind] as const;
  const [from, to] = isUndo ? [ends[1], ends[0]] : ends;
  const moved: Partial<Record<Counter, Decimal>> = {};
  for (const rule of counterRules)
    if (rule.measure === 'quantity' && rule.document === document && rule.from === from && rule.to === to)
      moved[rule.counter] = (moved[rule.counter] ?? zero).plus(line.quantity.times(rule.sign * (isUndo ? -1 : 1)));
  return moved;
}
