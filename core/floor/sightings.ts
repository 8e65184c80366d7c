/** Codes that a camera has in view, and when each was seen last, in milliseconds. */
export type InView = ReadonlyMap<string, number>;

/** A code that was out of view for so long is meant anew when it is seen again, in milliseconds. */
export const awayFor = 1200;

/**
 * What the codes in a picture mean: each that was not in view lately is a scan, in the order they were found; one that is held before the camera is one scan, not many.
 * Gives the scans, and what is in view from then on.
 */
export function sighted(inView: InView, codes: readonly string[], now: number): { scans: string[]; inView: InView } {
  const still = [...inView].filter(([, seen]) => now - seen < awayFor);
  const before = new Set(still.map(([code]) => code));
  const found = [...new Set(codes.map((code) => code.trim()).filter((code) => code !== ''))];
  return { scans: found.filter((code) => !before.has(code)), inView: new Map([...still, ...found.map((code) => [code, now] as const)]) };
}
