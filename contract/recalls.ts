import { z } from 'zod';
import { endpoint } from './endpoint';
import { LetterForm } from './post';
import { Amount, Id, PathId } from './values';

/** Recall: whoever has something of a lot or a unit is written to. */

const one = z.object({ id: PathId });
const Words = LetterForm.pick({ subject: true, text: true });
const Template = z.object({ subject: z.string(), text: z.string() });
export const recallList = endpoint({
  method: 'GET',
  path: '/api/stock/lots/:id/recall',
  summary: 'Whom to write to about a lot or unit: who got it and did not bring it back, and who has it on loan',
  right: 'outbound.sell',
  shows: ['lot', 'stock', 'party', 'sale', 'loan', 'letter'],
  seenBy: 'sites',
  params: one,
  response: z.object({
    itemId: Id,
    sku: z.string(),
    name: z.string(),
    lot: z.string(),
    /** Of them all. */
    quantity: Amount,
    rows: z.array(
      z.object({
        partyId: Id,
        who: z.string(),
        /** What they have: the lot itself, or one that it went into. */
        sku: z.string(),
        item: z.string(),
        lot: z.string(),
        holds: z.enum(['bought', 'on loan']),
        email: z.string(),
        quantity: Amount,
        /** Orders, or loans, they have it from. */
        documents: z.array(z.string()),
        /** When they were written to about it. */
        written: z.array(z.object({ letterId: Id, at: z.string(), to: z.string(), state: z.enum(['waiting', 'sent', 'not sent']) })),
      }),
    ),
    template: Template,
  }),
});
export type RecallRow = z.infer<typeof recallList.response>['rows'][number];
export const sendRecall = endpoint({
  method: 'POST',
  path: '/api/stock/lots/:id/recall',
  summary: 'Write to those who have something of a lot or unit, a letter each, in the words that are kept for recalls',
  right: 'outbound.sell',
  changes: ['letter'],
  params: one,
  body: z.object({
    to: z
      .array(z.object({ partyId: Id, to: LetterForm.shape.to }))
      .min(1, 'Choose whom to write to.')
      .max(1000, 'At most 1,000 letters at once.'),
    ...Words.shape,
  }),
  response: z.object({ letters: z.number().int() }),
});
export const keepRecallTemplate = endpoint({
  method: 'PUT',
  path: '/api/post/recall-template',
  summary: 'Keep the words that are written when a lot is recalled',
  right: 'outbound.sell',
  changes: ['letter'],
  body: Words,
  response: Template,
});
