import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { configure } from '@testing-library/react';
import { configureStore } from '@reduxjs/toolkit';
import { me } from '@larder/contract/people';
import type { Right } from '@larder/contract/rights';
import { createMemoryRouter } from 'react-router';
import { createContext, use, type PropsWithChildren, type ReactNode } from 'react';
import { Provider } from 'react-redux';
import type { Endpoint } from '@larder/contract/endpoint';
import type { Problem } from '@larder/contract/values';
import { Routed } from '../kit/Routed';
import { SlotProvider, useSlot } from '../kit/BottomBar';
import { ScanProvider } from '../kit/scan';
import { api } from '../shared/api';
import { Messages } from '../shared/Messages';

// A page is drawn slowly where many tests run side by side: what is waited for may take its time.
configure({ asyncUtilTimeout: 30_000 });

/** What was asked of the server. */
export interface AskedOf {
  endpoint: string;
  body: unknown;
  /** Only what it would do was asked for. */
  preview: boolean;
}

/** A server that is not there: answers what a test says, and keeps what it was asked. */
export function standInServer() {
  const asked: AskedOf[] = [];
  const answers = new Map<string, (body: never, path: string) => unknown>();
  let reachable = true;
  const pathsOf = (endpoint: string) => new RegExp(`^${endpoint.replace(/:\w+/g, '[^/]+')}$`);
  globalThis.fetch = ((path: string, { method = 'GET', body }: RequestInit = {}) => {
    if (!reachable) return Promise.reject(new TypeError('fetch failed'));
    const bare = path.split('?')[0] as string;
    const endpoint = [...answers.keys()].find((one) => pathsOf(one).test(`${method} ${bare}`));
    const sent: unknown = typeof body === 'string' ? JSON.parse(body) : null;
    asked.push({ endpoint: endpoint ?? `${method} ${bare}`, body: sent, preview: path.includes('preview=true') });
    if (!endpoint) throw new Error(`nobody answers ${method} ${path}`);
    const answer = answers.get(endpoint)?.(sent as never, path);
    const status = answer instanceof Refused ? answer.problem.status : 200;
    return Promise.resolve({ ok: status === 200, status, json: () => Promise.resolve(answer instanceof Refused ? answer.problem : answer) });
  }) as typeof fetch;
  return {
    asked,
    /** What was sent to an endpoint last, to be done and not only foreseen. */
    sent: ({ method, path }: Endpoint) => asked.filter((one) => one.endpoint === `${method} ${path}` && !one.preview).at(-1)?.body,
    on: ({ method, path }: Endpoint, answer: (body: never, path: string) => unknown) => void answers.set(`${method} ${path}`, answer),
    cut: () => void (reachable = false),
    back: () => void (reachable = true),
  };
}

class Refused {
  constructor(readonly problem: Problem) {}
}

/** A refusal, as the server says it. */
export const refused = (status: number, type: string, title: string, field?: string, asks: string[] = []): Refused =>
  new Refused({ status, type, title, asks, errors: field === undefined ? [] : [{ field, sentence: title }] });

/** Where a page puts its hint and its next step. */
function Frame() {
  const { setHint, setActions } = useSlot();
  return (
    <footer>
      <p ref={setHint} role="note" />
      <div ref={setActions} />
    </footer>
  );
}

/** No styles are put into the page: nothing is laid out here, and asking whether something can be seen would go through all of them each time. */
const unstyled = createCache({ key: 'test' });
unstyled.sheet.insert = () => undefined;

/** What stands at whatever address. */
const Standing = createContext<ReactNode>(null);
const Anywhere = () => use(Standing);

/** What a piece needs around it: a store that has read nothing yet, an address, what takes scans, and the bar at the bottom. */
export function around(address = '/') {
  const store = configureStore({
    reducer: { api: api.reducer },
    middleware: (usual) => usual({ immutableCheck: false, serializableCheck: false }).concat(api.middleware),
  });
  const router = createMemoryRouter([{ path: '*', element: <Anywhere /> }], { initialEntries: [address] });
  const Around = ({ children }: PropsWithChildren) => (
    <CacheProvider value={unstyled}>
      <Provider store={store}>
        <ScanProvider>
          <SlotProvider>
            <Standing
              value={
                <Messages>
                  {children}
                  <Frame />
                </Messages>
              }
            >
              <Routed router={router} />
            </Standing>
          </SlotProvider>
        </ScanProvider>
      </Provider>
    </CacheProvider>
  );
  return { store, router, Around };
}

/** Somebody who may do these things in the whole company is signed in. */
export const signedIn = (server: ReturnType<typeof standInServer>, rights: readonly Right[]): void =>
  server.on(me, () => ({
    id: 1,
    name: 'Ines Vale',
    email: 'ines@test.example',
    grants: [{ siteId: null, rights }],
    company: { name: 'Test business', currency: 'GBP', timeZone: 'Europe/London', today: '2026-11-24', freeSeenElsewhere: true },
  }));
