import { z } from 'zod';
import { endpoint } from './endpoint';

const Progress = z.object({
  /** `gone` once it is answered, or when nothing under this key was asked. */
  state: z.enum(['waiting', 'working', 'gone']),
  /** How many labels, rows or entries are done. */
  done: z.number().int(),
  /** Of how many; null where that is not known before the end. */
  total: z.number().int().nullable(),
});
export type Progress = z.infer<typeof Progress>;

/** Asked beside a request that takes long, by the Idempotency-Key that it was sent with. */
export const getProgress = endpoint({
  method: 'GET',
  path: '/api/work/:key/progress',
  summary: 'How far something is that this person waits for',
  right: 'look',
  seenBy: 'everyone',
  params: z.object({ key: z.string().min(1).max(200) }),
  response: Progress,
});
