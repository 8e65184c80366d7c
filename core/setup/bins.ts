export const mostBins = 2000;

/**
 * Bin codes from a pattern: `B-{01..06}-{1..4}` counts in braces, numbers keeping their width and letters going from one to the other;
 * `{A,C,F}` takes each. The last braces turn fastest. Throws RangeError, with a sentence, on what cannot be read or is more than 2,000.
 */
export function binCodes(pattern: string): string[] {
  const parts = pattern.trim().split(/(\{[^{}]*\})/);
  if (parts.some((part) => !part.startsWith('{') && /[{}]/.test(part))) throw new RangeError('A brace is open or closed too often.');
  const codes = parts.reduce<string[]>(
    (sofar, part) => {
      const choices = part.startsWith('{') ? choicesOf(part.slice(1, -1)) : [part];
      if (sofar.length * choices.length > mostBins) throw new RangeError(`That is more than ${mostBins} bins at once.`);
      return sofar.flatMap((one) => choices.map((choice) => one + choice));
    },
    [''],
  );
  return codes.filter((code) => code !== '');
}

function choicesOf(inner: string): string[] {
  if (!inner.includes('..')) {
    const list = inner.split(',').map((one) => one.trim());
    if (list.some((one) => one === '')) throw new RangeError(`{${inner}} lacks a value.`);
    return list;
  }
  const [from = '', to = ''] = inner.split('..').map((one) => one.trim());
  if (/^\d+$/.test(from) && /^\d+$/.test(to)) return counted(Number(from), Number(to), inner).map((n) => String(n).padStart(from.length, '0'));
  if (/^[A-Za-z]$/.test(from) && /^[A-Za-z]$/.test(to)) return counted(from.charCodeAt(0), to.charCodeAt(0), inner).map((code) => String.fromCharCode(code));
  throw new RangeError(`{${inner}} is no range: give two numbers or two letters.`);
}

function counted(from: number, to: number, inner: string): number[] {
  if (to < from) throw new RangeError(`{${inner}} runs backwards.`);
  if (to - from >= mostBins) throw new RangeError(`That is more than ${mostBins} bins at once.`);
  return Array.from({ length: to - from + 1 }, (_, index) => from + index);
}

/** Where a bin stands by its code: aisle and bay are the parts before its last, apart by dashes; what has one part only stands by itself. */
export function binPath(code: string): { aisle: string; bay: string } {
  const parts = code.split('-');
  return { aisle: parts.length > 1 ? (parts[0] as string) : '', bay: parts.length > 2 ? parts.slice(0, -1).join('-') : '' };
}
