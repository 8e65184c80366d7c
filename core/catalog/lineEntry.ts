import { numberPart } from '../number';
/** What one field of a document line says: how many, and which words or code to look for. */
export interface LineEntry {
  quantity: string;
  words: string;
}

const inFront = new RegExp(`^(${numberPart('quantity')})[x×]?$`, 'i');
const atTheEnd = new RegExp(`^[x×]?(${numberPart('quantity')})$`, 'i');

/**
 * Reads "12 smoker", "smoker 12", "12 x smoker" or "smoker". A number in front is the quantity; else one behind is, except that
 * a number behind which belongs to the words ("strips 10 pack") stays there. Without a number the quantity is 1.
 * Returns null when nothing is typed. A lone number is words: it may be a scanned code.
 */
export function parseLineEntry(text: string): LineEntry | null {
  const typed = text.trim().replace(/\s+/g, ' ');
  if (typed === '') return null;
  const [first = '', second = '', ...others] = typed.split(' ');
  const front = inFront.exec(first)?.[1];
  const signFirst = /^[x×]$/i.test(second) && others.length > 0;
  if (front && second !== '') return { quantity: front, words: (signFirst ? others : [second, ...others]).join(' ') };
  const at = typed.lastIndexOf(' ');
  const behind = at < 0 ? undefined : atTheEnd.exec(typed.slice(at + 1))?.[1];
  if (behind) return { quantity: behind, words: typed.slice(0, at).replace(/ [x×]$/i, '') };
  return { quantity: '1', words: typed };
}
