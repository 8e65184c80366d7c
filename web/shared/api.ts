import { createApi, type BaseQueryFn, type EndpointBuilder } from '@reduxjs/toolkit/query/react';
import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import { nouns, type Noun } from '@larder/contract/nouns';
import type { Problem } from '@larder/contract/values';
import { newRequestKey } from '@larder/contract/requestKey';
import { lost } from '../kit/problem';

/** What is asked, and under which key if the caller wants to know it, to ask how far it is. */
interface Sent {
  params?: unknown;
  query?: unknown;
  body?: unknown;
  key?: string;
}

interface Request {
  endpoint: Endpoint;
  asked: Sent;
  preview?: boolean;
}

/** This tab, so that it need not be told what it changed itself. */
export const tabId = newRequestKey();

/** Keys of requests whose answer never came: the same request again carries the same key, so that it is done once. */
const unanswered = new Map<string, string>();

const send: BaseQueryFn<Request, unknown, Problem> = async ({ endpoint, asked, preview }) => {
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String((asked.params as Record<string, unknown>)[name])));
  const search = new URLSearchParams();
  for (const [name, value] of Object.entries((asked.query ?? {}) as Record<string, unknown>))
    if (value !== undefined && value !== null && value !== '') search.set(name, String(value));
  if (preview) search.set('preview', 'true');
  const body = endpoint.method === 'GET' ? undefined : JSON.stringify(asked.body ?? {});
  const identity = `${endpoint.method} ${path} ${body ?? ''}`;
  const key = unanswered.get(identity) ?? asked.key ?? newRequestKey();
  const isDoneOnce = endpoint.method !== 'GET' && !endpoint.reads && !preview;
  const headers: Record<string, string> = {
    ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
    ...(isDoneOnce ? { 'Idempotency-Key': key, 'Larder-Tab': tabId } : {}),
  };
  try {
    const answer = await fetch(`${path}${search.size > 0 ? `?${search}` : ''}`, { method: endpoint.method, headers, body, credentials: 'same-origin' });
    const content: unknown = await answer.json();
    if (answer.status !== 503) unanswered.delete(identity);
    else if (isDoneOnce) unanswered.set(identity, key);
    return answer.ok ? { data: content } : { error: content as Problem };
  } catch {
    if (isDoneOnce) unanswered.set(identity, key);
    return { error: lost };
  }
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

/** A query for what an endpoint that posts would change: asked anew each time that it is wanted, and never for what others change. */
export const foresee = <E extends Endpoint>(build: Builder, endpoint: E) =>
  build.query<ResponseOf<E>, Asked<E>>({ query: (asked) => ({ endpoint, asked, preview: true }), keepUnusedDataFor: 0 });

/** A mutation for an endpoint that writes. When it was refused because somebody else was first, what is shown is read again. */
export const write = <E extends Endpoint>(build: Builder, endpoint: E) =>
  build.mutation<ResponseOf<E>, Asked<E> & { key?: string }>({
    query: (asked) => ({ endpoint, asked }),
    invalidatesTags: (_result, error) => (!error || (error as Problem).type === 'stale' ? [...endpoint.changes] : []),
  });

/** A mutation that changes no figure anybody sees elsewhere: nothing is read again for it. */
export const keep = <E extends Endpoint>(build: Builder, endpoint: E) => build.mutation<ResponseOf<E>, Asked<E>>({ query: (asked) => ({ endpoint, asked }) });
