import { createApi, type BaseQueryFn, type EndpointBuilder } from '@reduxjs/toolkit/query/react';
import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import { nouns, type Noun } from '@larder/contract/nouns';
import type { Problem } from '@larder/contract/values';
import { newRequestKey } from '@larder/contract/requestKey';
import { isFloorDevice } from '../kit/floor';
import { ask, pathOf, type AskedHere } from './ask';
import type { KeptAs, OrKept } from './floor/kept';

/** What is asked, and under which key if the caller wants to know it, to ask how far it is. */
interface Sent extends AskedHere {
  body?: unknown;
  key?: string;
}

interface Request {
  endpoint: Endpoint;
  asked: Sent;
  preview?: boolean;
  /** It may wait on a device of the floor, and is told like this meanwhile. */
  waits?: KeptAs;
}

/** Keys of requests whose answer never came: the same request again carries the same key, so that it is done once. */
const unanswered = new Map<string, string>();
/** On a device of the floor nobody waits long for an answer to what only reads. */
const readPatience = 8000;

const send: BaseQueryFn<Request, unknown, Problem> = async ({ endpoint, asked, preview, waits }) => {
  const { method } = endpoint;
  const path = pathOf(endpoint, asked, preview);
  const body = method === 'GET' ? undefined : JSON.stringify(asked.body ?? {});
  const floor = isFloorDevice() ? await import('./floor/floor') : null;
  if (floor && waits) {
    const { words, to, moves = [], body: later = asked.body ?? {} } = waits;
    const params = (asked.params ?? {}) as Record<string, unknown>;
    const wish = { endpoint: `${method} ${endpoint.path}`, path, params, body: later, words, to, moves, changes: endpoint.changes, key: asked.key };
    return floor.sendOrKeep(wish, body ?? '{}');
  }
  const identity = `${method} ${path} ${body ?? ''}`;
  const isDoneOnce = method !== 'GET' && !endpoint.reads && !preview;
  const key = isDoneOnce ? (unanswered.get(identity) ?? asked.key ?? newRequestKey()) : undefined;
  const answer = await ask({ method, path, body, key, patience: floor && method === 'GET' ? readPatience : undefined });
  if (key !== undefined && answer.error && [0, 503].includes(answer.error.status)) unanswered.set(identity, key);
  else unanswered.delete(identity);
  if (floor && method === 'GET') return floor.readHere(endpoint, asked, path, answer);
  await floor?.writtenHere(endpoint, answer);
  return answer;
};

export const api = createApi({
  reducerPath: 'api',
  baseQuery: send,
  tagTypes: nouns,
  keepUnusedDataFor: 30,
  refetchOnReconnect: true,
  endpoints: () => ({}),
});

type Builder = EndpointBuilder<typeof send, Noun, 'api'>;

/** A query for an endpoint that reads. It is read again when something that its contract says it shows was changed. */
export const read = <E extends Endpoint>(build: Builder, endpoint: E) =>
  build.query<ResponseOf<E>, Asked<E>>({ query: (asked) => ({ endpoint, asked }), providesTags: [...endpoint.shows] });

/** A list that is read on where it ends; it is asked without where to begin. */
export const list = <E extends Endpoint>(build: Builder, endpoint: E) =>
  build.infiniteQuery<ResponseOf<E>, Asked<E>, string | null>({
    infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (page) => (page as { next: string | null }).next ?? undefined },
    query: ({ queryArg, pageParam }) => ({
      endpoint,
      asked: { ...queryArg, query: { ...((queryArg as Sent).query as object), limit: pageParam === null ? firstRows : rowsAtOnce, cursor: pageParam } },
    }),
    providesTags: [...endpoint.shows],
  });
/** So many rows of a list are asked for at first, which fill any screen while somebody types what to find; and then at once, as it is scrolled. */
const firstRows = 50;
const rowsAtOnce = 100;

/**
 * A query for what an endpoint that posts would change: asked anew each time that it is wanted, and not for what others change, unless it says
 * `of` which version of it all it is asked: then it is asked anew of another one.
 */
export const foresee = <E extends Endpoint>(build: Builder, endpoint: E) =>
  build.query<ResponseOf<E>, Asked<E> & { of?: number }>({ query: ({ of: _of, ...asked }) => ({ endpoint, asked, preview: true }), keepUnusedDataFor: 0 });

/** A mutation for an endpoint that writes. When it was refused because somebody else was first, what is shown is read again. */
export const write = <E extends Endpoint>(build: Builder, endpoint: E) =>
  build.mutation<ResponseOf<E>, Asked<E> & { key?: string }>({
    query: (asked) => ({ endpoint, asked }),
    invalidatesTags: (_result, error) => (!error || (error as Problem).type === 'stale' ? [...endpoint.changes] : []),
  });

/** A mutation for what is done on the floor: on a phone without a connection it is kept, as `kept` tells of it, and sent when there is one. */
export const floorWrite = <E extends Endpoint>(build: Builder, endpoint: E) =>
  build.mutation<OrKept<ResponseOf<E>>, Asked<E> & { key?: string; kept: KeptAs }>({
    query: ({ kept, ...asked }) => ({ endpoint, asked, waits: kept }),
    invalidatesTags: (_result, error) => (!error || (error as Problem).type === 'stale' ? [...endpoint.changes] : []),
  });

/** A mutation that changes no figure anybody sees elsewhere: nothing is read again for it. */
export const keep = <E extends Endpoint>(build: Builder, endpoint: E) => build.mutation<ResponseOf<E>, Asked<E>>({ query: (asked) => ({ endpoint, asked }) });
