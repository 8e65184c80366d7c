import { expect, test } from '@jest/globals';
import { pino } from 'pino';
import { every } from './every';

const later = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const heard: string[] = [];
const log = pino({ level: 'warn' }, { write: (line: string) => void heard.push((JSON.parse(line) as { msg: string }).msg) });

test('work is done at once and again, never twice at the same time, and stopping waits for what is under way', async () => {
  let [running, most, done] = [0, 0, 0];
  const stop = every(5, 'counting', log, async () => {
    running += 1;
    most = Math.max(most, running);
    await later(25);
    running -= 1;
    done += 1;
  });
  expect(running).toBe(1);
  while (done < 3) await later(5);
  await stop();
  expect([running, most]).toEqual([0, 1]);
  const then = done;
  await later(40);
  expect(done).toBe(then);
});

test('what goes wrong is told and tried again', async () => {
  let tries = 0;
  const stop = every(5, 'trying', log, () => {
    tries += 1;
    return tries < 3 ? Promise.reject(new Error('not yet')) : Promise.resolve();
  });
  while (tries < 4) await later(5);
  await stop();
  expect(heard.filter((line) => line === 'trying failed')).toHaveLength(2);
});
