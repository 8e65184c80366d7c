import { nouns as allNouns, type Noun } from '@larder/contract/nouns';
import { useEffect } from 'react';
import { useDispatch } from 'react-redux';
import { api } from './api';
import { tabId } from './ask';

/** What somebody changed, and in which tab; without nouns it is not known what was missed. */
interface News {
  nouns: readonly Noun[] | null;
  from: string | null;
}

/** What is heard within so many milliseconds after something was read again waits until then. */
const pause = 800;
/** What was read so many milliseconds before news is listened for may be old already. */
const before = 1000;
/** After so long another try is made, when the stream was refused. */
const patience = 30_000;

/** Reads again what others change, while somebody is signed in. What is being typed stays: only what the server tells is read anew. */
export function useLive(): void {
  const dispatch = useDispatch();
  useEffect(() => (typeof EventSource === 'undefined' ? undefined : hear((changed) => dispatch(api.util.invalidateTags([...changed])))), [dispatch]);
}

/**
 * Hears news and says which nouns are to be read again: at once, then at most every `pause`; while nobody looks, once somebody does.
 * One tab keeps the stream and passes it on, since a browser keeps only a few connections to one address. Gives what ends it.
 */
export function hear(readAgain: (changed: readonly Noun[]) => void): () => void {
  const others = new BroadcastChannel('tidy-larder news');
  const ended = new AbortController();
  const waiting = new Set<Noun>();
  let timer: number | undefined;
  const began = performance.now();

  const tell = () => {
    if (waiting.size === 0 || timer !== undefined || document.hidden || ended.signal.aborted) return;
    const changed = [...waiting];
    waiting.clear();
    readAgain(changed);
    timer = window.setTimeout(() => {
      timer = undefined;
      tell();
    }, pause);
  };
  const take = (news: readonly News[]) => {
    for (const { nouns, from } of news) if (from === null || from !== tabId) for (const noun of nouns ?? allNouns) waiting.add(noun);
    tell();
  };
  others.onmessage = ({ data }: MessageEvent<News[]>) => take(data);
  document.addEventListener('visibilitychange', tell, { signal: ended.signal });

  const stream = () => {
    let source: EventSource;
    let again: number | undefined;
    let wasOpen = false;
    const connect = () => {
      // What was news between the first reading and now is told, too; whoever waited long for another tab to end reads everything again.
      source = new EventSource(`/api/live?ago=${Math.ceil(performance.now() - began + before)}`);
      source.addEventListener('news', ({ data }: MessageEvent<string>) => pass(JSON.parse(data) as News[]));
      source.addEventListener('open', () => {
        // What happened between two streams is not known.
        if (wasOpen) pass([{ nouns: null, from: null }]);
        wasOpen = true;
      });
      source.addEventListener('error', () => {
        if (source.readyState === EventSource.CLOSED) again = window.setTimeout(connect, patience);
      });
    };
    const pass = (news: News[]) => {
      others.postMessage(news);
      take(news);
    };
    connect();
    return () => {
      window.clearTimeout(again);
      source.close();
    };
  };
  // Where the browser has no locks (an address without https), each tab keeps a stream of its own.
  const locks = (navigator as Partial<Navigator>).locks;
  const untilEnded = () =>
    new Promise<void>((done) => {
      const close = stream();
      ended.signal.addEventListener('abort', () => {
        close();
        done();
      });
    });
  void (locks ? locks.request('tidy-larder news', { signal: ended.signal }, untilEnded).catch(() => undefined) : untilEnded());
  return () => {
    ended.abort();
    window.clearTimeout(timer);
    others.close();
  };
}
