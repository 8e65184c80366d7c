import { isWellFormed } from '@larder/core/exchange/text';
import { Refusal } from '@larder/core/refusal';
import inflate from 'inflation';
import type { Context } from 'koa';
import getRawBody from 'raw-body';

/** How large a body may be once it is unpacked, in bytes: of those nobody has signed in for, of most, and where pictures and whole files come in. */
export const bodyLimit = { unknown: 10_000, usual: 1_000_000, large: 24_000_000 };
/** How deep lists and groups may lie in one another; what is asked for never goes below ten. */
const deepest = 32;

const unreadable = (what: string): Refusal => new Refusal(400, 'unreadable', `The request could not be read: ${what}.`);

/** A body as it came, unpacked; null when nothing was sent. */
export type Packed = Uint8Array | null;

/**
 * The bytes of a JSON body. Read only after it is known who asks and that they may.
 * Refuses with 415 what is not JSON, with 413 what is too large, also when unpacked, and with 400 what is broken.
 */
export async function readBytes(ctx: Context, limit: number): Promise<Packed> {
  const sent = ctx.get('Transfer-Encoding') !== '' || Number(ctx.get('Content-Length') || 0) > 0;
  if (!sent) return null;
  if (!ctx.is('application/json')) throw new Refusal(415, 'not-json', 'Send JSON.');
  try {
    return await getRawBody(inflate(ctx.req), { limit });
  } catch (error) {
    const { type, status, code } = error as { type?: string; status?: number; code?: string };
    if (type === 'entity.too.large') throw new Refusal(413, 'too-large', 'That is more than can be sent at once.');
    if (status === 415) throw new Refusal(415, 'not-packed-so', 'Bodies may be packed by gzip or deflate, or not at all.');
    if (type === 'request.aborted' || type === 'request.size.invalid' || code === 'ECONNRESET') throw unreadable('it broke off');
    if (code?.startsWith('Z_') || code?.startsWith('ERR_')) throw unreadable('it is packed in a way that cannot be unpacked');
    throw error;
  }
}

/** What the bytes say; an empty group when there are none. Refuses with a sentence what is no JSON, too deep, or no text. */
export function readJson(bytes: Packed): unknown {
  const text = bytes === null ? '' : decoded(bytes);
  if (text.trim() === '') return {};
  refuseDeep(text);
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw unreadable('it is not well-formed JSON');
  }
  // Half of a pair of surrogates can be written in JSON but is no text; the escape is rare, so only then every text is looked at.
  if (/\\u[dD][89a-fA-F]/.test(text) && !wellFormedThroughout(read))
    throw new Refusal(422, 'unreadable-text', 'The text holds characters that cannot be kept.');
  return read;
}

function decoded(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw unreadable('it is not UTF-8');
  }
}

/** One pass over the text, before anything is built of it. */
function refuseDeep(text: string): void {
  let depth = 0;
  let quoted = false;
  for (let at = 0; at < text.length; at += 1) {
    const sign = text.charCodeAt(at);
    if (quoted) {
      if (sign === 0x5c) at += 1;
      else if (sign === 0x22) quoted = false;
    } else if (sign === 0x22) quoted = true;
    else if (sign === 0x5b || sign === 0x7b) {
      depth += 1;
      if (depth > deepest) throw unreadable(`lists and groups lie more than ${deepest} deep in one another`);
    } else if (sign === 0x5d || sign === 0x7d) depth -= 1;
  }
}

function wellFormedThroughout(value: unknown): boolean {
  if (typeof value === 'string') return isWellFormed(value);
  if (value === null || typeof value !== 'object') return true;
  return Object.entries(value).every(([name, part]) => isWellFormed(name) && wellFormedThroughout(part));
}
