import { decimal, greatest, least, sum, zero, type Decimal } from '../decimal';
import { neededFor, type Bill } from './bill';

/** Up to whole steps: what has to be taken of a part that is kept in steps. The quotient of two decimals that divide without a rest comes out whole. */
export const inSteps = (many: Decimal, step: Decimal): Decimal => many.div(step).ceil().times(step);

/** How many base units of each part making so many takes, in whole steps of the part. */
export const plannedParts = (bill: Pick<Bill, 'makes' | 'parts'>, many: Decimal, step: (itemId: number) => Decimal): { itemId: number; quantity: Decimal }[] =>
  bill.parts.map((part) => ({ itemId: part.itemId, quantity: inSteps(neededFor(many, bill, part), step(part.itemId)) }));

/** How far a work order is. Base units: of the item to be made, and of all its components together. */
export interface WorkProgress {
  released: boolean;
  /** Closed, cancelled or finished: nothing more is made on it. */
  ended: boolean;
  quantity: Decimal;
  made: Decimal;
  scrapped: Decimal;
  needed: Decimal;
  drawn: Decimal;
  used: Decimal;
}

export const workStates = ['planned', 'released', 'picked', 'in work', 'part made', 'made', 'cancelled'] as const;
export type WorkState = (typeof workStates)[number];

/** How it stands, in a word. */
export function workState({ released, ended, quantity, made, scrapped, needed, drawn, used }: WorkProgress): WorkState {
  if (ended) return made.plus(scrapped).gt(zero) ? 'made' : 'cancelled';
  if (made.plus(scrapped).gte(quantity)) return 'made';
  if (made.gt(zero)) return 'part made';
  if (used.gt(zero)) return 'in work';
  if (drawn.gt(zero) && drawn.gte(needed)) return 'picked';
  return released ? 'released' : 'planned';
}

export interface WorkStage {
  name: string;
  done: Decimal;
  of: Decimal;
}

/** Its stages, each with how much of it is done: released whole or not, the others by what was counted. */
export const workStages = ({ released, quantity, made, needed, drawn, used }: WorkProgress): WorkStage[] => [
  { name: 'Planned', done: decimal(1), of: decimal(1) },
  { name: 'Released', done: decimal(released ? 1 : 0), of: decimal(1) },
  { name: 'Picked', done: least(drawn, needed), of: needed },
  { name: 'In work', done: least(used, needed), of: needed },
  { name: 'Made', done: made, of: quantity },
];

/** A component as recording goes by it. Base units. */
export interface ComponentNow {
  /** For the whole of the order. */
  needed: Decimal;
  step: Decimal;
  drawn: Decimal;
  used: Decimal;
}

/**
 * What was used of a component as it is proposed once so many more are made: what the order says for all that is made by then, in whole steps, less what was recorded before. With the last of them it
 * is all that the order says.
 */
export function proposedUse({ needed, step, used }: ComponentNow, order: { quantity: Decimal; madeBefore: Decimal }, many: Decimal): Decimal {
  const madeThen = order.madeBefore.plus(many);
  const byThen = madeThen.gte(order.quantity) ? needed : least(inSteps(needed.times(madeThen).div(order.quantity), step), needed);
  return greatest(byThen.minus(used), zero);
}

/** How many of a component the rest of an order needs, once so many are left to be made: what the order says for those, less what was used beyond what is made by then. */
export function restNeeded(component: ComponentNow, quantity: Decimal, rest: Decimal): Decimal {
  const due = proposedUse({ ...component, used: zero }, { quantity, madeBefore: zero }, quantity.minus(rest));
  return greatest(component.needed.minus(greatest(component.used, due)), zero);
}

/** How many of a component are used by a record and were never taken from a shelf: while there are any, the work cannot be completed. */
export const notTaken = ({ drawn, used }: Pick<ComponentNow, 'drawn' | 'used'>, recorded: Decimal): Decimal => greatest(used.plus(recorded).minus(drawn), zero);

/** What comes of a record: so many of an output, and by what the cost is spread over the outputs. */
export interface OutputNow {
  made: Decimal;
  weight: Decimal;
}

/**
 * Which part of what is in progress each output of a record takes: as much as was made of all that is made or still to be made, spread by the weights of the outputs that are good. The last takes the
 * rest. `still` is what is to be made of the main item afterwards, `ends` when nothing more is. Empty where nothing good was made.
 */
export function outputParts(outputs: readonly OutputNow[], main: { made: Decimal; still: Decimal }, ends: boolean): { part: Decimal; whole: Decimal }[] {
  const good = outputs.map(({ made, weight }) => (made.gt(zero) ? weight : zero));
  const weights = sum(good).gt(zero) ? good : outputs.map(({ made }) => made);
  const all = sum(weights);
  if (all.isZero()) return outputs.map(() => ({ part: zero, whole: decimal(1) }));
  const [made, whole] = ends || main.made.isZero() ? [decimal(1), decimal(1)] : [main.made, main.made.plus(greatest(main.still, zero))];
  return weights.map((weight) => ({ part: weight.times(made), whole: all.times(whole) }));
}
