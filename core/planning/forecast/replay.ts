/** How an item is reordered. */
export interface Levels {
  point: number;
  upTo: number;
  /** Base units in a pack; 0: any number. */
  pack: number;
  /** Days from ordering until it is there. */
  leadDays: number;
}

/** What a past would have been with these levels. */
export interface Replayed {
  /** Days at whose end somebody waited for some. */
  daysOut: number;
  /** Wanted, and not given at once: it waits until there is some. */
  late: number;
  averageStock: number;
  orders: number;
  /** How much lay there at the end of each day. */
  stock: number[];
}

/**
 * Runs the past through levels, day by day: what was ordered comes in in the morning; what is wanted goes out, what cannot waits and goes first; in the
 * evening the position (what is there and on order, less what
 * waits) is held against the point, and what is missing up to the level is ordered in whole packs. It begins with the level in stock, and nothing on order.
 */
export function replayed(wanted: readonly number[], { point, upTo, pack, leadDays }: Levels): Replayed {
  const arrivals = new Map<number, number>();
  const seen: Replayed = { daysOut: 0, late: 0, averageStock: 0, orders: 0, stock: [] };
  let [here, waiting, onOrder] = [upTo, 0, 0];
  for (const [day, asked] of wanted.entries()) {
    const came = arrivals.get(day) ?? 0;
    here += came;
    onOrder -= came;
    const given = Math.min(here, waiting + asked);
    here -= given;
    waiting = waiting + asked - given;
    if (waiting > 0) seen.daysOut += 1;
    seen.late += Math.min(asked, waiting);
    const position = here + onOrder - waiting;
    if (position <= point && upTo > position) {
      const missing = upTo - position;
      const many = pack > 0 ? Math.ceil(missing / pack) * pack : missing;
      arrivals.set(day + Math.max(1, leadDays), (arrivals.get(day + Math.max(1, leadDays)) ?? 0) + many);
      onOrder += many;
      seen.orders += 1;
    }
    seen.stock.push(here);
  }
  seen.averageStock = seen.stock.length === 0 ? 0 : seen.stock.reduce((all, value) => all + value, 0) / seen.stock.length;
  return seen;
}
