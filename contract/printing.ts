import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { Id, PathId } from './values';

const Millimetres = z.number('Give millimetres, such as 63.5.').min(0, 'Not less than 0 mm.').max(2000, 'At most 2,000 mm.');
const whole = 'Give a whole number.';
const Many = z.number(whole).int(whole).min(1, 'At least 1.').max(50, 'At most 50.');
const OwnSheet = z.object({
  page: z.object({ width: Millimetres, height: Millimetres }),
  label: z.object({ width: Millimetres, height: Millimetres }),
  columns: Many,
  rows: Many,
  left: Millimetres,
  top: Millimetres,
  gapX: Millimetres,
  gapY: Millimetres,
});

export const LabelForm = z.object({
  /** Key of a sheet, or `own` with its measures. */
  sheet: z.string().max(40),
  own: OwnSheet.nullable().default(null),
  startAt: z.number(whole).int(whole).min(1, 'Start at label 1 or a later one.').max(500, 'At most 500.').default(1),
  copies: z.number(whole).int(whole).min(1, 'Print at least one.').max(500, 'At most 500.').default(1),
  /** `best`: EAN-13 where the item has one, Code 128 for other codes, GS1 DataMatrix for lots and serials. */
  symbology: z.enum(['best', 'code128', 'ean13', 'qr', 'gs1datamatrix']).default('best'),
  items: z.array(Id).max(2000).default([]),
  bins: z.array(Id).max(2000).default([]),
  lots: z.array(Id).max(2000).default([]),
  /** A code sheet to hang at the bench: all bins of a site, or all items of a category. */
  binsOfSite: Id.nullable().default(null),
  itemsOfCategory: Id.nullable().default(null),
});
export type LabelForm = z.infer<typeof LabelForm>;

/** The first page as it will be printed, as an SVG in millimetres. */
export const previewLabels = endpoint({
  method: 'POST',
  path: '/api/printing/preview',
  summary: 'How labels will look',
  reads: true,
  heavy: true,
  right: 'look',
  shows: ['item', 'lot', 'place'],
  seenBy: 'everyone',
  body: LabelForm,
  response: z.object({ svg: z.string(), labels: z.number(), pages: z.number() }),
});
export const printLabels = endpoint({
  method: 'POST',
  path: '/api/printing/labels',
  summary: 'Print labels',
  heavy: true,
  right: 'look',
  changes: ['print'],
  seenBy: 'everyone',
  body: LabelForm,
  response: z.object({ id: Id, pages: z.number(), labels: z.number() }),
});
export const listPrints = endpoint({
  method: 'GET',
  path: '/api/printing/jobs',
  summary: 'What was printed last',
  right: 'look',
  shows: ['print'],
  seenBy: 'everyone',
  response: z.object({ rows: z.array(z.object({ id: Id, at: z.string(), person: z.string(), title: z.string(), pages: z.number() })) }),
});
export const getPrint = endpoint({
  method: 'GET',
  path: '/api/printing/jobs/:id/pdf',
  summary: 'What was printed, as PDF',
  right: 'look',
  seenBy: 'everyone',
  file: 'application/pdf',
  params: z.object({ id: PathId }),
  response: FileAnswer,
});
