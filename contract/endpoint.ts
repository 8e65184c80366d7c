import { z } from 'zod';
import type { Noun } from './nouns';
import type { Right } from './rights';

export type Method = 'GET' | 'POST' | 'PUT';

/**
 * One thing the server can be asked. `posts` marks what writes to the ledger or to what is reserved: it needs an `Idempotency-Key`
 * and takes `?preview=true`, which answers the effects and changes nothing.
 */
export interface Endpoint<P extends z.ZodType = z.ZodType, Q extends z.ZodType = z.ZodType, B extends z.ZodType = z.ZodType, R extends z.ZodType = z.ZodType> {
  method: Method;
  /** With `:name` for parameters. */
  path: string;
  summary: string;
  /** The right it needs; null for what is open to everyone. */
  right: Right | null;
  /**
   * Who is shown what it answers, of those who have its right: everyone, at whatever site; those of the sites it is about, for which the service asks;
   * or only those who have the right for the whole company, which is so where nothing is said.
   */
  seenBy: 'everyone' | 'sites' | 'company';
  posts: boolean;
  /** Done once for its `Idempotency-Key`, which it needs, however late it is sent again: it may wait on a phone. So is whatever posts. */
  once: boolean;
  /** What its answer tells of: it is to be asked again when any of it was changed. */
  shows: readonly Noun[];
  /** What it changes. */
  changes: readonly Noun[];
  /** A POST only because what it asks is long: it changes nothing. */
  reads: boolean;
  /** Answers a file of this kind instead of JSON. */
  file: string | null;
  /** May take the processor for long: done in a thread of its own, so that nobody else waits for it. Its body may be a whole file. */
  heavy: boolean;
  params: P;
  query: Q;
  body: B;
  response: R;
}

/** A file in an answer: its content, or where it was written to be sent once and taken away. */
export const FileAnswer = z.union([
  z.object({ type: z.string(), name: z.string(), bytes: z.custom<Uint8Array>((value) => value instanceof Uint8Array) }),
  z.object({ type: z.string(), name: z.string(), path: z.string() }),
]);
export type FileAnswer = z.infer<typeof FileAnswer>;

const nothing = z.object({}).strip();
type Nothing = typeof nothing;

export function endpoint<R extends z.ZodType, P extends z.ZodType = Nothing, Q extends z.ZodType = Nothing, B extends z.ZodType = Nothing>(given: {
  method: Method;
  path: string;
  summary: string;
  right: Right | null;
  seenBy?: Endpoint['seenBy'];
  shows?: readonly Noun[];
  changes?: readonly Noun[];
  posts?: boolean;
  once?: boolean;
  reads?: boolean;
  file?: string;
  heavy?: boolean;
  params?: P;
  query?: Q;
  body?: B;
  response: R;
}): Endpoint<P, Q, B, R> {
  return {
    seenBy: 'company',
    shows: [],
    changes: [],
    posts: false,
    once: given.posts ?? false,
    reads: false,
    file: null,
    heavy: false,
    params: nothing as unknown as P,
    query: nothing as unknown as Q,
    body: nothing as unknown as B,
    ...given,
  };
}

export type ParamsOf<E extends Endpoint> = z.output<E['params']>;
export type QueryOf<E extends Endpoint> = z.output<E['query']>;
export type BodyOf<E extends Endpoint> = z.output<E['body']>;
export type ResponseOf<E extends Endpoint> = z.output<E['response']>;
/** What a caller gives, before defaults are filled in. */
export type Asked<E extends Endpoint> = { params?: z.input<E['params']>; query?: z.input<E['query']>; body?: z.input<E['body']> };
