import { sentenceOf } from '@larder/contract/sentences';
import { Refusal } from '@larder/core/refusal';
import type { z } from 'zod';

/** What is asked for, out of what was sent. Refuses with a sentence for every field that does not fit. */
export function shaped<T extends z.ZodType>(type: T, value: unknown): z.output<T> {
  const parsed = type.safeParse(value, { error: sentenceOf });
  if (parsed.success) return parsed.data;
  const errors = parsed.error.issues.map((issue) => ({ field: issue.path.join('.'), sentence: issue.message }));
  throw new Refusal(422, 'not-valid', errors[0]?.sentence ?? 'Something in this does not fit.', errors);
}
