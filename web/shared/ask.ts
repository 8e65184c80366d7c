import type { Endpoint } from '@larder/contract/endpoint';
import type { Problem } from '@larder/contract/values';
import { newRequestKey } from '@larder/contract/requestKey';
import { lost } from '../kit/problem';

/** This tab, so that it need not be told what it changed itself. */
export const tabId = newRequestKey();

/** A request as it goes out. */
export interface Request {
  method: string;
  path: string;
  /** What is sent, as JSON; undefined for what only reads. */
  body?: string | undefined;
  /** For what is done once. */
  key?: string | undefined;
  /** After so many milliseconds without an answer the connection counts as lost; without it, the browser says when. */
  patience?: number | undefined;
}
export type Answer = { data: unknown; error?: undefined } | { data?: undefined; error: Problem };

/** Sends a request and gives what was answered; `lost` where nothing was. */
export async function ask({ method, path, body, key, patience }: Request): Promise<Answer> {
  const headers: Record<string, string> = {
    ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
    ...(key === undefined ? {} : { 'Idempotency-Key': key, 'Larder-Tab': tabId }),
  };
  const signal = patience === undefined ? {} : { signal: AbortSignal.timeout(patience) };
  try {
    const answer = await fetch(path, { method, headers, ...(body === undefined ? {} : { body }), credentials: 'same-origin', ...signal });
    const content: unknown = await answer.json();
    return answer.ok ? { data: content } : { error: content as Problem };
  } catch {
    return { error: lost };
  }
}

/** Whether the same may be sent again later: nobody answered, or whoever did could not do it now. */
export const isForLater = ({ status }: Problem): boolean => status < 400 || [401, 408, 429].includes(status) || status >= 500;

/** What is asked: parameters in the address, and what stands behind it. */
export interface AskedHere {
  params?: unknown;
  query?: unknown;
}

/** Where an endpoint is asked, with all that stands in the address. */
export function pathOf(endpoint: Pick<Endpoint, 'path'>, asked: AskedHere, preview = false): string {
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String((asked.params as Record<string, unknown>)[name])));
  const search = new URLSearchParams();
  for (const [name, value] of Object.entries((asked.query ?? {}) as Record<string, unknown>))
    if (value !== undefined && value !== null && value !== '') search.set(name, String(value));
  if (preview) search.set('preview', 'true');
  return search.size > 0 ? `${path}?${search}` : path;
}
