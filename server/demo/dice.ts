/** Repeatable chance from a seed (the mulberry32 generator): the demo is the same business every time. */
export interface Dice {
  /** At least 0, below 1. */
  roll(): number;
  /** A whole number from `from` to `to`, both included. */
  between(from: number, to: number): number;
  pick<T>(list: readonly T[]): T;
}

export function dice(seed: number): Dice {
  let state = seed;
  const roll = (): number => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
  const between = (from: number, to: number) => from + Math.floor(roll() * (to - from + 1));
  return { roll, between, pick: (list) => list[Math.floor(roll() * list.length)] as (typeof list)[number] };
}
