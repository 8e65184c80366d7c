import { parse, v7, validate, version } from 'uuid';

/** For how many days an answer is kept for the same request sent again. */
export const daysAnswersKept = 90;

/** A key for a request that is to be done once, however often it is sent: it tells when it was made (RFC 9562, version 7). */
export const newRequestKey = (): string => v7();

/** When a key was made, as milliseconds since 1970; null for a key of another kind, which does not tell. */
export function keyMadeAt(key: string): number | null {
  if (!validate(key) || version(key) !== 7) return null;
  return parse(key)
    .slice(0, 6)
    .reduce((time, byte) => time * 256 + byte, 0);
}

/** Whether a request was made so long ago that an answer to it may have been cleared, so that nobody knows any more whether it was done. */
export function isPastKnowing(key: string, now: Date): boolean {
  const made = keyMadeAt(key);
  return made !== null && now.getTime() - made > (daysAnswersKept - 1) * 86_400_000;
}
