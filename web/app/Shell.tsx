import NativeSelect from '@mui/material/NativeSelect';
import { State } from '../kit/layout';
import { Suspense } from 'react';
import { Link, Outlet, useLocation } from 'react-router';
import { grantedAt } from '@larder/contract/rights';
import { useMeQuery } from '../shared/me';
import { SignIn } from '../areas/people/SignIn';
import { PersonMenu } from './PersonMenu';
import { useOpenCountsQuery } from '../areas/planning/api';
import { useReferenceQuery } from '../shared/reference';
import { Messages } from '../shared/Messages';
import { ScanBar } from '../shared/ScanBar';
import { ScanProvider } from '../kit/scan';
import { SlotProvider, useSlot } from '../kit/BottomBar';
import { useMay } from '../shared/may';
import { SiteProvider, useSite } from '../shared/site';

const icon = new URL('./icon.svg', import.meta.url).href;

/** The shelf along the top, the work, and the bar along the bottom. Whoever is not signed in sees the sign-in instead. */
export function Shell() {
  const { data: me, error, isLoading } = useMeQuery({});
  if (isLoading) return <State>One moment…</State>;
  if (error || !me) return <SignIn />;
  return (
    <SiteProvider>
      <ScanProvider>
        <SlotProvider>
          <Messages>
            <div className="shell">
              <Shelf name={me.name} />
              <main className="work" id="work" tabIndex={-1}>
                <Suspense fallback={<State>One moment…</State>}>
                  <Outlet />
                </Suspense>
              </main>
              <Bottom />
            </div>
          </Messages>
        </SlotProvider>
      </ScanProvider>
    </SiteProvider>
  );
}

function Shelf({ name }: { name: string }) {
  const { siteId, choose } = useSite();
  const { data: reference } = useReferenceQuery({});
  const { data: me } = useMeQuery({});
  const seesBooks = useMay('costs.see', null);
  const { data: counts } = useOpenCountsQuery({ query: { siteId } });
  return (
    <header className="shelf">
      <Link to="/" className="brand">
        <img src={icon} alt="" />
        Tidy Larder
      </Link>
      <nav aria-label="Areas">
        <Area to="/" label="Today" count={counts && counts.comingIn + counts.low + counts.goingOut} />
        <Area to="/items" label="Items" also={['/import', '/labels']} />
        <Area to="/inbound" label="Inbound" also={['/post']} count={counts?.comingIn} />
        <Area to="/stock" label="Stock" />
        <Area to="/outbound" label="Outbound" count={counts?.goingOut} />
        <Area to="/planning" label="Planning" count={counts?.low} />
        {seesBooks ? <Area to="/books" label="Books" /> : null}
        <Area to="/setup" label="Setup" />
      </nav>
      <div className="who">
        <NativeSelect
          variant="standard"
          disableUnderline
          inputProps={{ 'aria-label': 'Site' }}
          value={siteId ?? ''}
          onChange={(event) => choose(Number(event.target.value) || undefined)}
          sx={{ fontWeight: 600 }}
        >
          <option value="">All sites</option>
          {reference?.sites
            .filter(({ id }) => me && grantedAt(me.grants, 'look', id))
            .map((site) => (
              <option key={site.id} value={site.id}>
                {site.name}
              </option>
            ))}
        </NativeSelect>
        <PersonMenu name={name} />
      </div>
    </header>
  );
}

interface AreaProps {
  to: string;
  label: string;
  count?: number | undefined;
  /** Where else in the application this area is. */
  also?: readonly string[];
}

function Area({ to, label, count, also = [] }: AreaProps) {
  const { pathname } = useLocation();
  const here = pathname === to || (to !== '/' && pathname.startsWith(`${to}/`)) || also.includes(pathname);
  return (
    <Link to={to} aria-current={here ? 'page' : undefined}>
      {label}
      {count ? <span className="count">{count}</span> : null}
    </Link>
  );
}

function Bottom() {
  const { setHint, setActions } = useSlot();
  return (
    <footer className="bottom">
      <ScanBar />
      <div className="hint" ref={setHint} />
      <div className="actions" ref={setActions} />
    </footer>
  );
}
