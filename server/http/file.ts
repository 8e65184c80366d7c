import type { FileAnswer } from '@larder/contract/endpoint';
import type { Context } from 'koa';
import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { finished } from 'node:stream/promises';

const prefix = 'tidy-larder-file-';

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

/** Writes a file part by part, so that however long it is it needs no more room than a part; nothing stays of one that cannot be finished. */
export async function writtenFile(name: string, type: string, parts: AsyncIterable<string>): Promise<FileAnswer> {
  const path = await placeForFile();
  const file = createWriteStream(path);
  try {
    for await (const part of parts) if (!file.write(part)) await once(file, 'drain');
    file.end();
    await finished(file);
  } catch (error) {
    file.destroy();
    await forget(path);
    throw error;
  }
  return { type, name, path };
}

/** A place of its own for a file that is written to be sent; what it is called to the person has no part in it. */
export const placeForFile = async (): Promise<string> => join(await mkdtemp(join(tmpdir(), prefix)), 'file');

/** Takes away what a server that was killed left behind, once it is a day old. */
export async function clearLeftFiles(now: Date): Promise<void> {
  for (const name of (await readdir(tmpdir())).filter((one) => one.startsWith(prefix))) {
    const place = join(tmpdir(), name);
    const since = await stat(place).catch(() => null); // somebody else may have taken it away
    if (since && now.getTime() - since.mtimeMs > 86_400_000) await rm(place, { recursive: true, force: true });
  }
}

/** Takes such a file away, and its place. */
export const forget = (path: string): Promise<void> => rm(dirname(path), { recursive: true, force: true });
