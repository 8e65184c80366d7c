/** Levels that were suggested. */
interface SuggestedLevels {
  point: number;
  upTo: number;
}

/** Beyond this share of what was refused another suggestion is another one. */
const asGoodAs = 0.2;

/** Whether what was refused still stands: what is suggested now is, within a fifth, what it was then. */
export const standsRefused = (refused: SuggestedLevels, now: SuggestedLevels): boolean =>
  (['point', 'upTo'] as const).every((level) => Math.abs(now[level] - refused[level]) <= asGoodAs * Math.max(1, refused[level]));
