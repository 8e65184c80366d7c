import type { LabelForm } from '@larder/contract/printing';

export const symbologies = [
  ['best', 'What fits best'],
  ['code128', 'Code 128'],
  ['ean13', 'EAN-13'],
  ['qr', 'QR'],
  ['gs1datamatrix', 'GS1 DataMatrix'],
] as const;

export const ids = (text: string | null): number[] =>
  (text ?? '')
    .split(',')
    .map(Number)
    .filter((id) => id > 0);

export const number = (text: string, otherwise: number): number => (/^\d+(\.\d+)?$/.test(text.trim()) ? Number(text) : otherwise);

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

/** A sheet of one's own, by its measures as they were typed. */
export const ownSheet = (own: typeof measures): LabelForm['own'] => ({
  page: { width: number(own.pageWidth, 0), height: number(own.pageHeight, 0) },
  label: { width: number(own.width, 0), height: number(own.height, 0) },
  columns: Math.max(1, Math.round(number(own.columns, 1))),
  rows: Math.max(1, Math.round(number(own.rows, 1))),
  left: number(own.left, 0),
  top: number(own.top, 0),
  gapX: number(own.gapX, 0),
  gapY: number(own.gapY, 0),
});
