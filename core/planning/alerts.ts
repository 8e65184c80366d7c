/** What somebody can be told of. */
export const alertKinds = ['low', 'out', 'short', 'overdue', 'late', 'due-back', 'use-by', 'count-due', 'attribute', 'price-rise', 'below-cost'] as const;
export type AlertKind = (typeof alertKinds)[number];

/** What each is called, and when it is told. */
export const alertWords: Record<AlertKind, { name: string; when: string }> = {
  low: { name: 'Low', when: 'an item falls to its reorder point' },
  out: { name: 'Out of stock', when: 'nothing is left of an item that has levels' },
  short: { name: 'Short for a customer', when: 'an order lacks goods' },
  overdue: { name: 'Purchase overdue', when: 'a delivery has not come on its day' },
  late: { name: 'Late to ship', when: 'an order has not gone out on its day' },
  'due-back': { name: 'Due back', when: 'a loan is due' },
  'use-by': { name: 'Near its day', when: 'a lot is within 30 days of its use-by day' },
  'count-due': { name: 'Count due', when: 'items of a site are due to be counted' },
  attribute: { name: 'Own date', when: 'a day of your own is a week away' },
  'price-rise': { name: 'Price rise on a bill', when: 'a supplier bills more than was agreed' },
  'below-cost': { name: 'Sold below cost', when: 'goods went out for less than they cost' },
};

/** Those that happen, once each; the others are so until they are not any more. */
export const happenings: readonly AlertKind[] = ['price-rise', 'below-cost'];

/** What a person wants to be told, of which sites and categories (null: all), and how. */
export interface AlertWish {
  kind: AlertKind;
  siteIds: readonly number[] | null;
  categoryIds: readonly number[] | null;
}

/** Of what something is that can be told: its site and its category, where it has them. */
export interface AlertOf {
  kind: AlertKind;
  siteId: number | null;
  categoryId: number | null;
}

/** Whether somebody wants to be told of this. What has no site or no category is told whatever was chosen. */
export const isWanted = (wish: AlertWish, { kind, siteId, categoryId }: AlertOf): boolean =>
  wish.kind === kind &&
  (wish.siteIds === null || siteId === null || wish.siteIds.includes(siteId)) &&
  (wish.categoryIds === null || categoryId === null || wish.categoryIds.includes(categoryId));

/** A time of day as hours and minutes, such as "07:30". */
export const isTimeOfDay = (text: string): boolean => /^([01]\d|2[0-3]):[0-5]\d$/.test(text);

/**
 * Whether a round-up is due: its time of day has come, and none was sent today yet. A clock that goes back brings none again, and one that jumps over the
 * time brings it late.
 */
export const isRoundUpDue = ({ at, now, today, last }: { at: string; now: string; today: string; last: string | null }): boolean =>
  now >= at && (last === null || last < today);

/** So many lines a round-up has at most; what is beyond is counted, and stands on the page it leads to. */
const mostLines = 200;

/** The text of a round-up: what is so now, kind by kind, one line for each. */
export function roundUpText(found: readonly { kind: AlertKind; text: string }[], address: string): { subject: string; text: string } {
  const lines: string[] = [];
  let left = mostLines;
  for (const kind of alertKinds) {
    const own = found.filter((one) => one.kind === kind);
    if (own.length === 0) continue;
    const shown = own.slice(0, left);
    left -= shown.length;
    lines.push(`${alertWords[kind].name} (${own.length})`, ...shown.map(({ text }) => `  ${text}`));
    if (shown.length < own.length) lines.push(`  and ${own.length - shown.length} more`);
    lines.push('');
  }
  const many = `${found.length} ${found.length === 1 ? 'thing' : 'things'}`;
  return {
    subject: `Round-up: ${many} to look at`,
    text: [...lines, `Open them: ${address}/alerts`, `Change what you are told: ${address}/alerts/settings`].join('\n'),
  };
}
