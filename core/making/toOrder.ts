import { decimal, greatest, least, sum, zero, type Decimal } from '../decimal';

/** A line of a sales order of something that is put together when it is ordered; in base units. */
export interface OrderedLine {
  /** Null: it is written just now. */
  lineId: number | null;
  itemId: number;
  siteId: number;
  /** Its site is to send so many beyond what was picked; nothing once the order has ended. */
  wanted: Decimal;
  reserved: Decimal;
  /** Other sites bring so many for it. */
  brought: Decimal;
}

/** A work order that is going on for a sales line. */
export interface GoingWork {
  id: number;
  /** Null: the line it was for is gone. */
  lineId: number | null;
  siteId: number;
  /** What it is still to make. */
  toCome: Decimal;
  /** The sales order had it made, nobody has changed it, and nothing was taken or recorded: it follows the sales order. */
  follows: boolean;
}

/**
 * What becomes of the work of a sales order. Each line wants made what is neither reserved nor free nor brought for it, `free` telling what of an item
 * is free at a site, which lines take one after the other. Work
 * that follows is called off, the last first, while more is under way for a line than it wants, and where its line is gone or comes from another site; what is missing then is made anew.
 * Returns the ids of what is called off, and how many each line, by its index, wants made beyond.
 */
export function planToOrder(
  lines: readonly OrderedLine[],
  free: (itemId: number, siteId: number) => Decimal,
  going: readonly GoingWork[],
): { off: number[]; make: { line: number; quantity: Decimal }[] } {
  const left = new Map<string, Decimal>();
  const off = going.filter((work) => work.follows && !lines.some((line) => isFor(work, line))).map(({ id }) => id);
  const make: { line: number; quantity: Decimal }[] = [];
  for (const [index, line] of lines.entries()) {
    const at = `${line.itemId} ${line.siteId}`;
    const here = left.get(at) ?? free(line.itemId, line.siteId);
    const open = greatest(line.wanted.minus(line.reserved).minus(line.brought), zero);
    const given = least(open, here);
    left.set(at, here.minus(given));
    const wants = open.minus(given);
    const mine = going.filter((work) => isFor(work, line));
    let under = sum(mine.map(({ toCome }) => toCome));
    for (const { id, toCome, follows } of [...mine].reverse()) {
      if (!follows || under.lte(wants)) continue;
      off.push(id);
      under = under.minus(toCome);
    }
    if (wants.gt(under)) make.push({ line: index, quantity: wants.minus(under) });
  }
  return { off, make };
}

const isFor = (work: GoingWork, line: OrderedLine): boolean => work.lineId !== null && work.lineId === line.lineId && work.siteId === line.siteId;

/** How many a work order is still to make. */
export const toComeOf = ({ quantity, made, scrapped }: { quantity: string; made: string; scrapped: string }): Decimal =>
  greatest(decimal(quantity).minus(made).minus(scrapped), zero);
