import { least, sum, zero, type Decimal } from '../decimal';

/** A line that is to be picked: `may` is what is reserved for it and, beyond, what is free; never more than it wants. */
export interface Wanting {
  lineId: number;
  itemId: number;
  siteId: number;
  position: number;
  wanted: Decimal;
  may: Decimal;
  /** The bin it is said to be taken from: that goes first. */
  fromBinId?: number | null;
}

/** What lies in a bin that is sold from, of one item and lot. */
export interface Lying {
  itemId: number;
  siteId: number;
  binId: number;
  bin: string;
  /** Where the bin comes on the walk; what has no bin of its own yet comes last. */
  walk: number;
  unplaced: boolean;
  lotId: number | null;
  useBy: string | null;
  quantity: Decimal;
  /** Less than that was found there, and nobody has counted it since. */
  doubtful?: boolean;
}

export interface Pick<L extends Lying> {
  lineId: number;
  from: L;
  take: Decimal;
}

/** Which goes first: what is surely there, then what is to be used soonest, then what has a bin before what has none, then as one walks, site by site. */
const byUse = (a: Lying, b: Lying): number =>
  Number(a.doubtful ?? false) - Number(b.doubtful ?? false) ||
  (a.useBy ?? '9999').localeCompare(b.useBy ?? '9999') ||
  byWalk(a, b) ||
  (a.lotId ?? 0) - (b.lotId ?? 0);
const byWalk = (a: Lying, b: Lying): number =>
  a.siteId - b.siteId || Number(a.unplaced) - Number(b.unplaced) || a.walk - b.walk || (a.bin < b.bin ? -1 : a.bin > b.bin ? 1 : 0);

/** How much of each line may be taken, in their order: what is reserved for it and, as far as it is left by those before, what is free of its item at its site. By line. */
export function mayTake(
  lines: readonly (Omit<Wanting, 'may' | 'position'> & { reserved: Decimal })[],
  free: (itemId: number, siteId: number) => Decimal,
): Map<number, Decimal> {
  const left = new Map<string, Decimal>();
  return new Map(
    lines.map(({ lineId, itemId, siteId, wanted, reserved }) => {
      const key = `${itemId}@${siteId}`;
      const here = left.get(key) ?? free(itemId, siteId);
      const beyond = least(wanted.minus(reserved), here);
      left.set(key, here.minus(beyond));
      return [lineId, reserved.plus(beyond)];
    }),
  );
}

/**
 * What to take from which bin, in walking order, and what of each line no bin gives. Lines of the same item are served in the order they stand;
 * nothing is taken twice.
 */
export function choosePicks<L extends Lying>(lines: readonly Wanting[], lying: readonly L[]): { picks: Pick<L>[]; missing: Map<number, Decimal> } {
  const wanting = [...lines].sort((a, b) => a.position - b.position);
  const open = new Map(wanting.map((line) => [line.lineId, line.may]));
  const picks: Pick<L>[] = [];
  const lies = [...lying].sort(byUse);
  const left = new Map(lies.map((from) => [from, from.quantity]));
  const takeFor = (from: L, lineId: number) => {
    const take = least(open.get(lineId) ?? zero, left.get(from) ?? zero);
    if (take.lte(zero)) return;
    open.set(lineId, (open.get(lineId) ?? zero).minus(take));
    left.set(from, (left.get(from) ?? zero).minus(take));
    picks.push({ lineId, from, take });
  };
  const wantIt = (from: L) => wanting.filter(({ itemId, siteId }) => itemId === from.itemId && siteId === from.siteId);
  for (const from of lies) for (const { lineId, fromBinId } of wantIt(from)) if (fromBinId === from.binId) takeFor(from, lineId);
  for (const from of lies) for (const { lineId } of wantIt(from)) takeFor(from, lineId);
  const taken = (lineId: number) => sum(picks.filter((pick) => pick.lineId === lineId).map(({ take }) => take));
  const missing = wanting.map(({ lineId, wanted }) => [lineId, wanted.minus(taken(lineId))] as const).filter(([, quantity]) => quantity.gt(zero));
  const position = new Map(wanting.map((line) => [line.lineId, line.position]));
  return { picks: picks.sort((a, b) => byWalk(a.from, b.from) || (position.get(a.lineId) ?? 0) - (position.get(b.lineId) ?? 0)), missing: new Map(missing) };
}
