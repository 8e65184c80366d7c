import type { LabelForm } from '@larder/contract/printing';
import { sheets } from '@larder/core/printing/sheets';

export const symbologies = [
  ['best', 'What fits best'],
  ['code128', 'Code 128'],
  ['ean13', 'EAN-13'],
  ['qr', 'QR'],
  ['gs1datamatrix', 'GS1 DataMatrix'],
] as const;

export const measures = {
  pageWidth: '210',
  pageHeight: '297',
  width: '60',
  height: '30',
  columns: '3',
  rows: '8',
  left: '10',
  top: '12',
  gapX: '2',
  gapY: '2',
};

export const measureNames: Record<keyof typeof measures, string> = {
  pageWidth: 'Page width, mm',
  pageHeight: 'Page height, mm',
  width: 'Label width, mm',
  height: 'Label height, mm',
  columns: 'Across',
  rows: 'Down',
  left: 'From the left, mm',
  top: 'From the top, mm',
  gapX: 'Between, across',
  gapY: 'Between, down',
};

/** How labels are to be printed, as it is typed. */
export interface PaperForm {
  sheet: string;
  own: typeof measures;
  startAt: string;
  copies: string;
  symbology: LabelForm['symbology'];
  /** What a code sheet is of: `site-3`, `category-5`; empty for the labels that were chosen. */
  codeSheet: string;
}

/** What labels were asked for in the address. */
export interface Asked {
  items: readonly number[];
  bins: readonly number[];
  lots: readonly number[];
}

/** The ids in a part of an address, apart by commas. */
export const ids = (text: string | null): number[] =>
  (text ?? '')
    .split(',')
    .map(Number)
    .filter((id) => id > 0);

export const paperForm = (codeSheet: string): PaperForm => ({
  sheet: sheets[0]?.key ?? '',
  own: measures,
  startAt: '1',
  copies: '1',
  symbology: 'best',
  codeSheet,
});

/** A number, or what was typed instead of one, which is for the contract to say. */
const number = (text: string): number => (/^\d+([.,]\d+)?$/.test(text.trim()) ? Number(text.trim().replace(',', '.')) : (text as never));

/** A sheet of one's own, by its measures as they were typed. */
const ownSheet = (own: typeof measures): LabelForm['own'] => ({
  page: { width: number(own.pageWidth), height: number(own.pageHeight) },
  label: { width: number(own.width), height: number(own.height) },
  columns: number(own.columns),
  rows: number(own.rows),
  left: number(own.left),
  top: number(own.top),
  gapX: number(own.gapX),
  gapY: number(own.gapY),
});

/** What is sent of it. */
export function sentLabels({ sheet, own, startAt, copies, symbology, codeSheet }: PaperForm, { items, bins, lots }: Asked): LabelForm {
  const of = (kind: string) => Number(codeSheet.startsWith(`${kind}-`) ? codeSheet.slice(kind.length + 1) : 0) || null;
  const isSheet = codeSheet !== '';
  return {
    sheet,
    own: sheet === 'own' ? ownSheet(own) : null,
    startAt: number(startAt),
    // A code sheet hangs at the bench: each code is on it once.
    copies: isSheet ? 1 : number(copies),
    symbology,
    items: isSheet ? [] : [...items],
    bins: isSheet ? [] : [...bins],
    lots: isSheet ? [] : [...lots],
    binsOfSite: of('site'),
    itemsOfCategory: of('category'),
  };
}

/** The field that something sent stands in. */
export function sentAs(path: string): string {
  const measure = { 'own.page.width': 'pageWidth', 'own.page.height': 'pageHeight', 'own.label.width': 'width', 'own.label.height': 'height' }[path];
  if (measure !== undefined) return `own.${measure}`;
  return path === 'binsOfSite' || path === 'itemsOfCategory' ? 'codeSheet' : path;
}
