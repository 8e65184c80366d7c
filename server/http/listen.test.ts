import { expect, test } from '@jest/globals';
import { once } from 'node:events';
import { Agent, request, type IncomingMessage } from 'node:http';
import Koa from 'koa';
import { listen } from './listen';

test('a server that stops answers what is under way, and whoever asks again on the same connection once more, and is gone', async () => {
  let finish = (): void => undefined;
  const finished = new Promise<void>((resolve) => (finish = resolve));
  let begin = (): void => undefined;
  const begun = new Promise<void>((resolve) => (begin = resolve));
  const app = new Koa().use(async (ctx) => {
    begin();
    await finished;
    ctx.body = 'done';
  });
  const { port, stop } = await listen(app, 0, '127.0.0.1');
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const ask = async (): Promise<IncomingMessage> => {
    const [answer] = (await once(request({ port, agent }).end(), 'response')) as [IncomingMessage];
    answer.resume();
    return answer;
  };
  const [first, second] = [ask(), ask()];
  await begun;
  const stopped = stop(600_000);
  finish();
  expect([(await first).statusCode, (await first).headers.connection]).toEqual([200, 'keep-alive']);
  expect([(await second).statusCode, (await second).headers.connection]).toEqual([200, 'close']);
  await stopped;
  await expect(ask()).rejects.toThrow(/ECONNREFUSED/);
});
