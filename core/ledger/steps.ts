import { effectsBetween } from './effects';
import { plan } from './plan';
import type { Effects, LedgerState, Movement, Plan } from './types';

/** One movement of several, with what was decided of it. */
export interface Step {
  movement: Movement;
  plan: Plan;
}

/** What follows on from the steps before, decided over the state they leave; null when nothing does. */
export type NextStep = (done: readonly Step[], state: LedgerState) => { movement: Movement; notes: string[] } | null;

/**
 * Decides movements that follow on from one another: each over the state the one before leaves. The effects are the difference between the first
 * state and the last, so what is shown before and what is posted cannot disagree. Throws Refusal when one of them may not be.
 */
export function planSteps(first: Movement, more: readonly NextStep[], state: LedgerState): { steps: Step[]; effects: Effects } {
  const steps: Step[] = [{ movement: first, plan: plan(first, state) }];
  const [begun] = steps as [Step];
  let last = begun.plan.after;
  const notes = [...begun.plan.notes];
  const costNotes = [...begun.plan.costNotes];
  for (const next of more) {
    const step = next(steps, last);
    if (step === null) continue;
    const planned = plan(step.movement, last);
    steps.push({ movement: step.movement, plan: planned });
    notes.push(...planned.notes, ...step.notes);
    costNotes.push(...planned.costNotes);
    last = planned.after;
  }
  return { steps, effects: effectsBetween(state, last, notes, costNotes) };
}
