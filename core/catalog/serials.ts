export const mostSerials = 5000;

export interface SerialEntry {
  codes: string[];
  /** What could not be read, in words. */
  faults: string[];
}

/**
 * Serials as they are typed, scanned one after the other, or pasted: apart by lines, tabs, commas or semicolons; `LX-0001..LX-0040` is a range.
 * A range counts the digits at the end and keeps their number; both ends are in it. What stands there twice is told.
 */
export function parseSerials(text: string): SerialEntry {
  const codes: string[] = [];
  const faults: string[] = [];
  const seen = new Set<string>();
  for (const part of text
    .split(/[\n\r\t,;]+/)
    .map((one) => one.trim())
    .filter((one) => one !== '')) {
    const range = part.includes('..') ? serialRange(part) : { codes: [part] };
    if ('fault' in range) faults.push(range.fault);
    else
      for (const code of range.codes) {
        if (seen.has(code.toLowerCase())) faults.push(`${code} stands there twice.`);
        else codes.push(code);
        seen.add(code.toLowerCase());
      }
  }
  return { codes, faults };
}

function serialRange(text: string): { codes: string[] } | { fault: string } {
  const [from = '', to = '', ...more] = text.split('..').map((end) => end.trim());
  const [prefix, first] = endingInNumber(from);
  const [endPrefix, last] = endingInNumber(to);
  if (first === '' || last === '' || more.length > 0) return { fault: `“${text}” is no range: both ends must end in a number, as in LX-0001..LX-0040.` };
  if (endPrefix !== '' && endPrefix !== prefix) return { fault: `“${text}” is no range: its ends begin differently.` };
  const many = Number(last) - Number(first) + 1;
  if (many < 1) return { fault: `“${text}” runs backwards.` };
  if (many > mostSerials) return { fault: `“${text}” is more than ${mostSerials} serials.` };
  return { codes: Array.from({ length: many }, (_, index) => prefix + String(Number(first) + index).padStart(first.length, '0')) };
}

/** A code parted into what stands before the number it ends in, and that number; empty when it ends in none. */
function endingInNumber(code: string): [prefix: string, number: string] {
  let at = code.length;
  while (at > 0 && /\d/.test(code.charAt(at - 1))) at -= 1;
  return [code.slice(0, at), code.slice(at)];
}
