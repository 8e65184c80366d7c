import type { FileAnswer } from '@larder/contract/endpoint';
import type { Context } from 'koa';
import { createReadStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';

/** A file is never run by the browser that gets it, and is kept by nobody between. One that was written to be sent is taken away when it is sent, or when nobody wants it any more. */
export function sendFile(ctx: Context, file: FileAnswer): void {
  const { type, name } = file;
  ctx.type = type;
  ctx.set(
    'Content-Disposition',
    `${type.startsWith('image/') || type === 'application/pdf' ? 'inline' : 'attachment'}; filename="${name.replace(/[^\w.-]+/g, '-')}"`,
  );
  ctx.set('Cache-Control', type.startsWith('image/') ? 'private, max-age=31536000, immutable' : 'no-store');
  if ('bytes' in file) {
    ctx.body = Buffer.from(file.bytes);
    return;
  }
  ctx.body = createReadStream(file.path).once('close', () => void forget(file.path));
}

/** A place of its own for a file that is written to be sent. */
export const placeForFile = async (name: string): Promise<string> => join(await mkdtemp(join(tmpdir(), 'tidy-larder-')), name);

/** Takes such a file away, and its place. */
export const forget = (path: string): Promise<void> => rm(dirname(path), { recursive: true, force: true });
