import { z } from 'zod';
import { endpoint, FileAnswer } from './endpoint';
import { Text } from './values';

/** Papers on which the business has words of its own. */
export const paperKinds = [
  'quote',
  'confirmation',
  'pick list',
  'packing slip',
  'parcel label',
  'invoice',
  'credit note',
  'return receipt',
  'transfer note',
  'job sheet',
  'purchase order',
] as const;
export type PaperKind = (typeof paperKinds)[number];

const PaperWords = z.object({ kind: z.enum(paperKinds), opening: Text, closing: Text });
const Papers = z.object({
  /** Where the business is, by which number tax offices know it, and how it is paid. */
  address: Text,
  taxNumber: z.string().trim().max(60, 'At most 60 characters.'),
  payTo: Text,
  words: z.array(PaperWords).max(paperKinds.length),
});
export type Papers = z.infer<typeof Papers>;

export const getPapers = endpoint({
  method: 'GET',
  path: '/api/setup/papers',
  summary: 'What stands on the papers of the business',
  right: 'look',
  seenBy: 'everyone',
  shows: ['setting'],
  response: Papers.extend({ hasLogo: z.boolean() }),
});
export const keepPapers = endpoint({
  method: 'PUT',
  path: '/api/setup/papers',
  summary: 'Keep what stands on the papers of the business',
  right: 'setup.edit',
  changes: ['setting'],
  body: Papers,
  response: z.object({}),
});
/** Sent as base64; it is kept as a PNG. */
export const keepLogo = endpoint({
  method: 'PUT',
  path: '/api/setup/papers/logo',
  summary: 'Keep the picture that stands on the papers of the business, or (null) none',
  right: 'setup.edit',
  changes: ['setting'],
  heavy: true,
  body: z.object({ base64: z.string().min(1, 'Choose a picture.').max(14_000_000, 'The picture is larger than 10 MB.').nullable() }),
  response: z.object({}),
});
export const logoFile = endpoint({
  method: 'GET',
  path: '/api/setup/papers/logo',
  summary: 'The picture that stands on the papers of the business',
  right: 'look',
  seenBy: 'everyone',
  response: FileAnswer,
  file: 'image/png',
});
