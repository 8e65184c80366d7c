import { expect, test } from '@jest/globals';
import { existsSync } from 'node:fs';
import { readFile, utimes } from 'node:fs/promises';
import { dirname } from 'node:path';
import { clearLeftFiles, forget, placeForFile, writtenFile } from './file';

async function* parts(texts: readonly string[], fault?: Error): AsyncGenerator<string> {
  for (const text of texts) yield await Promise.resolve(text);
  if (fault) throw fault;
}

test('a file is written part by part, whatever it is called', async () => {
  const many = Array.from({ length: 5000 }, (_, n) => `line ${n}\n`);
  const file = await writtenFile('../../etc/lot A/1.csv', 'text/csv', parts(many));
  if (!('path' in file)) throw new Error('written to be sent');
  expect([file.name, file.type, await readFile(file.path, 'utf8')]).toEqual(['../../etc/lot A/1.csv', 'text/csv', many.join('')]);
  expect(file.path).not.toContain('lot A');
  await forget(file.path);
  expect(existsSync(dirname(file.path))).toBe(false);
});

test('one that cannot be finished leaves nothing, and says why', async () => {
  await expect(writtenFile('a.csv', 'text/csv', parts(['half'], new Error('broke off')))).rejects.toThrow('broke off');
});

test('what a killed server left is taken away once it is a day old', async () => {
  const [old, fresh] = [await placeForFile(), await placeForFile()];
  const dayAgo = new Date(Date.now() - 90_000_000);
  await utimes(dirname(old), dayAgo, dayAgo);
  await clearLeftFiles(new Date());
  expect([existsSync(dirname(old)), existsSync(dirname(fresh))]).toEqual([false, true]);
  await forget(fresh);
});
