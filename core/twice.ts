/** Where the first stands that says the same as one before it; -1 when none does. `wordOf` gives undefined for what may repeat. Capitals make no difference. */
export function twiceAt<T>(list: readonly T[], wordOf: (one: T) => string | undefined): number {
  const seen = new Set<string>();
  return list.findIndex((one) => {
    const word = wordOf(one)?.toLowerCase();
    if (word === undefined) return false;
    if (seen.has(word)) return true;
    seen.add(word);
    return false;
  });
}
