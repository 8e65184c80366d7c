import { grantedSomewhere, type Grant, type Right } from '@larder/contract/rights';

/** An area of the application, in the order goods travel. */
export interface AreaEntry {
  key: 'today' | 'items' | 'inbound' | 'stock' | 'outbound' | 'making' | 'planning' | 'books' | 'setup';
  name: string;
  to: string;
  /** Where else in the application this area is. */
  also: readonly string[];
  /** Who has one of these works in it; nobody needs one to look. */
  works: readonly Right[];
}

export const areas: readonly AreaEntry[] = [
  { key: 'today', name: 'Today', to: '/', also: [], works: ['look'] },
  { key: 'items', name: 'Items', to: '/items', also: ['/import', '/labels'], works: ['items.edit'] },
  { key: 'inbound', name: 'Inbound', to: '/inbound', also: ['/post'], works: ['inbound.receive', 'inbound.order'] },
  { key: 'stock', name: 'Stock', to: '/stock', also: [], works: ['stock.correct', 'stock.count', 'stock.transfer', 'stock.move', 'stock.lend'] },
  { key: 'outbound', name: 'Outbound', to: '/outbound', also: [], works: ['outbound.ship', 'outbound.sell'] },
  { key: 'making', name: 'Making', to: '/making', also: [], works: ['making.write', 'making.plan', 'making.record'] },
  { key: 'planning', name: 'Planning', to: '/planning', also: [], works: ['planning.top-up'] },
  { key: 'books', name: 'Books', to: '/books', also: [], works: ['books.bill', 'books.pay'] },
  { key: 'setup', name: 'Setup', to: '/setup', also: [], works: ['setup.edit'] },
];

/** Whether an address is in an area. */
export const isIn = ({ to, also }: AreaEntry, pathname: string): boolean =>
  pathname === to || (to !== '/' && pathname.startsWith(`${to}/`)) || also.includes(pathname);

/** In which order the areas are wanted on the floor. */
const onTheFloor: readonly AreaEntry['key'][] = ['today', 'inbound', 'stock', 'outbound', 'items', 'making', 'planning', 'books', 'setup'];
const mostInBar = 5;

/** The areas that fit the bar of a phone, those this person works in first, and the others; each in its usual order. `seen` are those the person may see. */
export function parted(seen: readonly AreaEntry[], grants: readonly Grant[]): { bar: AreaEntry[]; more: AreaEntry[] } {
  const worksIn = ({ works }: AreaEntry) => works.some((right) => grantedSomewhere(grants, right));
  const wanted = onTheFloor.flatMap((key) => seen.filter((area) => area.key === key));
  const first = [...wanted.filter(worksIn), ...wanted.filter((area) => !worksIn(area))].slice(0, mostInBar);
  return { bar: seen.filter((area) => first.includes(area)), more: seen.filter((area) => !first.includes(area)) };
}
