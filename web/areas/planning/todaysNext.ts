import type { ResponseOf } from '@larder/contract/endpoint';
import { count } from '../../kit/format';
import type { today } from '@larder/contract/planning';

type Today = ResponseOf<typeof today>;
type Does = Readonly<Record<'receive' | 'ship' | 'sell' | 'topUp', boolean>>;

/** What the day wants next of what this person does: what should be here first, then what must go out, what nobody has confirmed, what runs low. */
export function todaysNext({ day, comingIn, goingOut, low, counts }: Today, does: Does): { label: string; to: string } | null {
  const due = comingIn.find(({ expectedOn }) => expectedOn !== null && expectedOn <= day);
  if (does.receive && due) return { label: `Receive ${due.number}`, to: `/inbound/desk?order=${due.id}` };
  const going = goingOut[0];
  if (does.ship && going) return { label: `Open ${going.number}`, to: `/outbound/orders/${going.id}` };
  if (does.sell && counts.quotes > 0) return { label: 'Look at the quotes', to: '/outbound?show=quotes' };
  if (does.topUp && low.length > 0) return { label: `Top up ${count(counts.low, 'item')}`, to: '/planning' };
  return does.sell ? { label: 'Write a quote', to: '/outbound/orders/new' } : null;
}
