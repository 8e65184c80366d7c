import type { IncomingMessage, ServerResponse } from 'node:http';
import { nouns, type Noun } from '@larder/contract/nouns';
import { createSession, type Session } from 'better-sse';
import createSubscriber from 'pg-listen';
import type { Logger } from 'pino';

/** What was changed, and in which tab: it has read that again by itself. Without nouns it is not known what was missed. */
export interface News {
  nouns: readonly Noun[] | null;
  from: string | null;
}

/** Tells open screens what others have changed: only what sort of thing it was, which each reads again as far as it may. */
export interface Live {
  /** After something was written and committed; at most a moment later it is told by every server on this database. */
  tell(nouns: readonly Noun[], from: string | null): void;
  /** Keeps the answer open as a stream of news for one person, who is first told what was news within the last `ago` milliseconds. */
  open(request: IncomingMessage, response: ServerResponse, personId: number, ago: number): Promise<void>;
  /** Ends all streams, and listens no more. */
  stop(): Promise<void>;
}

const channel = 'larder_live';
/** What is changed within so many milliseconds is told at once. */
const gathering = 40;
/** A stream ends after so long, in milliseconds, and is opened again by whoever is still signed in then. */
const longest = 10 * 60_000;
/** So many streams one person may have open; one more ends the oldest. */
const mostOfOne = 12;
/** News is known for so long, in milliseconds: to whoever asks for older, anything may have changed. */
const remembered = 60_000;
/** A notification of PostgreSQL is shorter than 8,000 bytes. */
const longestNews = 7000;

/** Listens on one connection of its own, so that no posting waits for a notification, and none is sent within one. */
export async function startLive(databaseUrl: string, log: Logger): Promise<Live> {
  const subscriber = createSubscriber<Record<typeof channel, News[]>>(
    { connectionString: databaseUrl, application_name: 'tidy-larder live' },
    { retryTimeout: 0, paranoidChecking: 30_000 },
  );
  const open = new Map<Session, { personId: number; end: () => void }>();
  let waiting = new Map<string | null, Set<Noun>>();
  let timer: NodeJS.Timeout | null = null;
  let isLost = false;
  /** What was told lately, and when. */
  let lately: { at: number; news: readonly News[] }[] = [];
  const began = performance.now();

  const push = (news: readonly News[]) => {
    const at = performance.now();
    lately = [...lately.filter((one) => one.at > at - remembered), { at, news }];
    for (const session of open.keys()) if (session.isConnected) session.push(news, 'news');
  };
  const flush = () => {
    timer = null;
    const news = [...waiting].map(([from, some]): News => ({ from, nouns: [...some] }));
    waiting = new Map();
    const all: News[] = [{ from: null, nouns: [...new Set(news.flatMap((one) => one.nouns ?? []))] }];
    const told = JSON.stringify(news).length > longestNews ? all : news;
    subscriber.notify(channel, told).catch((error: unknown) => {
      // Whoever looks at this server is told all the same.
      log.warn({ err: error }, 'other servers could not be told what changed');
      push(told);
    });
  };

  subscriber.notifications.on(channel, push);
  subscriber.events.on('reconnect', () => void (isLost = true));
  subscriber.events.on('connected', () => {
    if (isLost) push([{ nouns: null, from: null }]);
    isLost = false;
  });
  subscriber.events.on('error', (error) => log.warn({ err: error }, 'what others change could not be listened for'));
  await subscriber.connect();
  await subscriber.listenTo(channel);

  return {
    tell: (changed, from) => {
      const has = waiting.get(from) ?? new Set();
      for (const noun of changed) has.add(noun);
      waiting.set(from, has);
      timer ??= setTimeout(flush, gathering).unref();
    },
    open: async (request, response, personId, ago) => {
      const session = await createSession(request, response, { keepAlive: 20_000, retry: 1000, trustClientEventId: false });
      const ended = setTimeout(() => response.end(), longest).unref();
      open.set(session, { personId, end: () => response.end() });
      session.once('disconnected', () => {
        clearTimeout(ended);
        open.delete(session);
      });
      const mine = [...open.values()].filter((one) => one.personId === personId);
      if (mine.length > mostOfOne) mine[0]?.end();
      session.push(nouns.length, 'begun');
      const since = performance.now() - ago;
      const isKnown = ago <= remembered && since >= began;
      const missed: readonly News[] = isKnown ? lately.filter(({ at }) => at >= since).flatMap(({ news }) => news) : [{ nouns: null, from: null }];
      if (missed.length > 0) session.push(missed, 'news');
    },
    stop: async () => {
      if (timer) clearTimeout(timer);
      for (const { end } of open.values()) end();
      await subscriber.close();
    },
  };
}
