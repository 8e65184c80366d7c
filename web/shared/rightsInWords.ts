import { rightScope, type Right } from '@larder/contract/rights';

/** What each right lets somebody do, as it follows "may". */
export const rightsInWords: Readonly<Record<Right, string>> = {
  look: 'look at items, stock and orders',
  'costs.see': 'see cost and margin',
  'items.edit': 'change items',
  'setup.edit': 'set up the business and let people in',
  'inbound.order': 'order from suppliers',
  'inbound.receive': 'receive goods',
  'outbound.sell': 'write quotes and customer orders',
  'outbound.ship': 'pick and dispatch',
  'outbound.hold': 'give what is reserved to another order',
  'outbound.over-limit': 'confirm orders beyond a credit limit',
  'outbound.return': 'take back what customers return',
  'outbound.return-older': 'take back what was sold before these records',
  'stock.correct': 'correct stock',
  'stock.count': 'count bins',
  'stock.transfer': 'send goods between sites',
  'stock.move': 'move goods between bins',
  'stock.lend': 'lend things and take them back',
  'making.write': 'write bills of materials',
  'making.plan': 'plan work orders and release them',
  'making.record': 'record what was used and made',
  'making.unrecorded': 'complete work whose parts nobody took from a shelf',
  'planning.top-up': 'order what runs low',
  'books.bill': 'enter bills and landed cost',
  'books.invoice': 'issue invoices and credit notes',
  'books.pay': 'pay bills and record what customers pay',
  undo: 'undo what was posted',
};

/**
 * What a role's rights let somebody do at a site, or (null) at all of them, as the end of a sentence: "look at items, receive goods and correct stock".
 * What is done for the whole company is not part of a role at one site.
 */
export function mayIn(rights: readonly Right[], siteId: number | null): string {
  const held = (Object.keys(rightsInWords) as Right[]).filter((right) => rights.includes(right) && (siteId === null || rightScope[right] === 'site'));
  const words = held.map((right) => rightsInWords[right]);
  const last = words.at(-1);
  return words.length < 2 ? (last ?? 'do nothing') : `${words.slice(0, -1).join(', ')} and ${last ?? ''}`;
}
