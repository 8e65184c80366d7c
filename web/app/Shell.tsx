import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { explainName } from '../kit/address';
import { SlotProvider, useSlot } from '../kit/BottomBar';
import { isFloorDevice } from '../kit/floor';
import { State } from '../kit/layout';
import { ScanProvider } from '../kit/scan';
import { useLive } from '../shared/live';
import { useMeQuery } from '../shared/me';
import { Messages } from '../shared/Messages';
import { ScanBar } from '../shared/ScanBar';
import { SiteProvider } from '../shared/site';
import { Entrance } from './Entrance';
import { Shelf, useIsPhone } from './Shelf';

const SignIn = lazy(async () => ({ default: (await import('../areas/people/SignIn')).SignIn }));
const ExplainDialog = lazy(async () => ({ default: (await import('../shared/ExplainDialog')).ExplainDialog }));
const ConnectionBar = lazy(async () => ({ default: (await import('../shared/floor/ConnectionBar')).ConnectionBar }));
const AreaBar = lazy(async () => ({ default: (await import('./AreaBar')).AreaBar }));

/** The shelf along the top, the work, and the bar along the bottom. Whoever is not signed in sees the sign-in instead. */
export function Shell() {
  const { data: me, error, isLoading } = useMeQuery({});
  if (isLoading) return <State>One moment…</State>;
  if (error || !me)
    return (
      <Suspense fallback={null}>
        <SignIn />
      </Suspense>
    );
  return (
    <SiteProvider>
      <ScanProvider>
        <SlotProvider>
          <Messages>
            <div className="shell">
              <Shelf name={me.name} />
              <Connection />
              <main className="work" id="work" tabIndex={-1}>
                <Suspense fallback={<State>One moment…</State>}>
                  <Entrance />
                </Suspense>
              </main>
              <Bottom />
              <Explaining />
              <Live />
            </div>
          </Messages>
        </SlotProvider>
      </ScanProvider>
    </SiteProvider>
  );
}

/** The figure that is explained, read only once one is asked for. */
function Explaining() {
  const [asked] = useSearchParams();
  return asked.has(explainName) ? (
    <Suspense fallback={null}>
      <ExplainDialog />
    </Suspense>
  ) : null;
}

/** Whether there is a connection, where work goes on without. */
function Connection() {
  return (
    <div className="connection">
      {isFloorDevice() ? (
        <Suspense fallback={null}>
          <ConnectionBar />
        </Suspense>
      ) : null}
    </div>
  );
}

/** What others change is shown while somebody is signed in. */
function Live() {
  useLive();
  return null;
}

function Bottom() {
  const { setHint, setActions } = useSlot();
  const isPhone = useIsPhone();
  return (
    <footer className="bottom">
      <ScanBar />
      <div className="hint" ref={setHint} />
      <div className="actions" ref={setActions} />
      {isPhone ? (
        <Suspense fallback={null}>
          <AreaBar />
        </Suspense>
      ) : null}
    </footer>
  );
}
