import type { ResponseOf } from '@larder/contract/endpoint';
import { count } from '../../kit/format';
import type { firstSteps, today } from '@larder/contract/planning';
import { steps } from './steps';

type Today = ResponseOf<typeof today>;
type First = ResponseOf<typeof firstSteps>;
type Does = Readonly<Record<'receive' | 'ship' | 'sell' | 'topUp', boolean>>;

/** The first of the first steps that was not done yet; null when all were, or they were put away. */
function firstStep(first: First | undefined): { label: string; to: string } | null {
  const open = first?.away === false ? first.steps.find(({ done }) => !done) : undefined;
  return open ? { label: steps[open.key].next, to: steps[open.key].to } : null;
}

/**
 * What the day wants next of what this person does: what should be here first, then what must go out, what nobody has confirmed, what runs low; where there is
 * none of it, the first step that was not done yet.
 */
export function todaysNext({ day, comingIn, goingOut, low, counts }: Today, does: Does, first?: First): { label: string; to: string } | null {
  const due = comingIn.find(({ expectedOn }) => expectedOn !== null && expectedOn <= day);
  if (does.receive && due) return { label: `Receive ${due.number}`, to: `/inbound/desk?order=${due.id}` };
  const going = goingOut[0];
  if (does.ship && going) return { label: `Open ${going.number}`, to: `/outbound/orders/${going.id}` };
  if (does.sell && counts.quotes > 0) return { label: 'Look at the quotes', to: '/outbound?show=quotes' };
  if (does.topUp && low.length > 0) return { label: `Top up ${count(counts.low, 'item')}`, to: '/planning' };
  return firstStep(first) ?? (does.sell ? { label: 'Write a quote', to: '/outbound/orders/new' } : null);
}
