/** What one field of a document line says: how many, and which words or code to look for. */
export interface LineEntry {
  quantity: string;
  words: string;
}

/**
 * Reads "12 smoker", "smoker 12", "12 x smoker" or "smoker". A number in front is the quantity; else one behind is, except that
 * a number behind which belongs to the words ("strips 10 pack") stays there. Without a number the quantity is 1.
 * Returns null when nothing is typed. A lone number is words: it may be a scanned code.
 */
export function parseLineEntry(text: string): LineEntry | null {
  const typed = text.trim().replace(/\s+/g, ' ');
  if (typed === '') return null;
  const front = /^(\d{1,9}(?:\.\d{1,4})?)\s*(?:x|×)?\s+(.+)$/i.exec(typed);
  if (front) return { quantity: front[1] as string, words: front[2] as string };
  const behind = /^(.+?)\s+(?:x\s*|×\s*)?(\d{1,9}(?:\.\d{1,4})?)$/i.exec(typed);
  if (behind) return { quantity: behind[2] as string, words: behind[1] as string };
  return { quantity: '1', words: typed };
}
