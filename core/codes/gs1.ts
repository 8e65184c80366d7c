import { decimal } from '../decimal';
import { isDay } from '../day';
import { gtinFault } from './gtin';

/** What a GS1 element string says (General Specifications, section 3). Days as `YYYY-MM-DD`. */
export interface Gs1 {
  /** 01 or 02, with its check digit checked. */
  gtin?: string;
  /** 02: the GTIN is of what the parcel holds. */
  contained?: boolean;
  lot?: string;
  madeOn?: string;
  bestBefore?: string;
  useBy?: string;
  serial?: string;
  /** 30 or 37: a number of pieces. */
  count?: string;
  /** 310n: kilograms. */
  netKg?: string;
}

const separator = '\u001d';
/** Symbology identifiers that scanners may send in front: Code 128, DataMatrix, QR and DataBar with FNC1. */
const identifier = /^\](C1|d2|Q3|e0)/;
const fixedLengths: Record<string, number> = { '01': 14, '02': 14, '11': 6, '15': 6, '17': 6 };
const longest: Record<string, number> = { '10': 20, '21': 20, '30': 8, '37': 8 };

/**
 * Reads an element string: in brackets as printed under a code, or as scanned, with FNC1 (sent as GS, character 29) or without.
 * Returns null for what is none: an unknown identifier, a wrong length, a wrong check digit, a day that does not exist. Without FNC1 a lot
 * or serial runs up to the end, as nothing says where it stops.
 */
export function parseGs1(text: string): Gs1 | null {
  const elements = text.startsWith('(') ? bracketed(text) : scanned(text);
  if (!elements || elements.length === 0) return null;
  const found: Gs1 = {};
  for (const [ai, value] of elements) if (!take(found, ai, value)) return null;
  return found;
}

function bracketed(text: string): [string, string][] | null {
  const elements = [...text.matchAll(/\((\d{2,4})\)([^()]*)/g)].map(([, ai = '', value = '']): [string, string] => [ai, value.trim()]);
  return elements.map(([ai, value]) => `(${ai})${value}`).join('') === text.replace(/\s+/g, '') ? elements : null;
}

const unmarked = (text: string): string => (text.startsWith(separator) ? text.slice(1) : text);

function scanned(text: string): [string, string][] | null {
  const marked = identifier.test(text) || text.includes(separator);
  let rest = unmarked(text.replace(identifier, ''));
  if (!/^(01|02)\d{14}/.test(rest) && !marked) return null;
  const elements: [string, string][] = [];
  while (rest !== '') {
    const ai = /^310\d/.test(rest) ? rest.slice(0, 4) : rest.slice(0, 2);
    const fixed = ai.length === 4 ? 6 : fixedLengths[ai];
    if (fixed === undefined && longest[ai] === undefined) return null;
    const behind = rest.slice(ai.length);
    const end = fixed ?? (behind.includes(separator) ? behind.indexOf(separator) : behind.length);
    if (behind.length < end) return null;
    elements.push([ai, behind.slice(0, end)]);
    rest = unmarked(behind.slice(end));
  }
  return elements;
}

function take(found: Gs1, ai: string, value: string): boolean {
  if (/^310\d$/.test(ai)) return /^\d{6}$/.test(value) && Boolean((found.netKg = shifted(value, Number(ai[3]))));
  if (value.length > (fixedLengths[ai] ?? longest[ai] ?? 0) || value === '') return false;
  switch (ai) {
    case '01':
    case '02':
      if (!/^\d{14}$/.test(value) || gtinFault(value) !== null) return false;
      found.gtin = value;
      if (ai === '02') found.contained = true;
      return true;
    case '10':
      found.lot = value;
      return true;
    case '21':
      found.serial = value;
      return true;
    case '11':
    case '15':
    case '17':
      return takeDay(found, ({ '11': 'madeOn', '15': 'bestBefore', '17': 'useBy' } as const)[ai], value);
    default:
      if (!/^\d+$/.test(value)) return false;
      found.count = String(Number(value));
      return true;
  }
}

function takeDay(found: Gs1, name: 'madeOn' | 'bestBefore' | 'useBy', value: string): boolean {
  const day = gs1Day(value);
  if (day === null) return false;
  found[name] = day;
  return true;
}

/** `YYMMDD`; day 00 is the month's last (3.4.2). Years are read as 1951 to 2050, which the standard's window is until the middle of this century. */
function gs1Day(value: string): string | null {
  if (!/^\d{6}$/.test(value)) return null;
  const year = Number(value.slice(0, 2)) + (Number(value.slice(0, 2)) > 50 ? 1900 : 2000);
  const month = value.slice(2, 4);
  const last = new Date(Date.UTC(year, Number(month), 0)).getUTCDate();
  const day = `${year}-${month}-${value.endsWith('00') ? String(last).padStart(2, '0') : value.slice(4)}`;
  return isDay(day) ? day : null;
}

const shifted = (digits: string, decimals: number): string => decimal(`${digits}e-${decimals}`).toFixed();

/** The element string of a lot or serial in brackets, as it is printed and as label printers' encoders take it. */
export function gs1Text({ gtin, lot, useBy, serial }: Pick<Gs1, 'gtin' | 'lot' | 'useBy' | 'serial'>): string {
  const day = useBy === undefined ? '' : `(17)${useBy.slice(2).replaceAll('-', '')}`;
  return `${gtin === undefined ? '' : `(01)${gtin.padStart(14, '0')}`}${day}${lot === undefined ? '' : `(10)${lot}`}${serial === undefined ? '' : `(21)${serial}`}`;
}
