import useMediaQuery from '@mui/material/useMediaQuery';
import { Link, useLocation } from 'react-router';
import { phoneWidth } from '../kit/floor';
import { useAlertCountQuery } from '../shared/alerts';
import { isIn } from './areas';
import { PersonMenu } from './PersonMenu';
import { SiteChoice } from './SiteChoice';
import { useAreas } from './useAreas';

const icon = new URL('./icon.svg', import.meta.url).href;

/** Whether the page is as narrow as a phone. */
export const useIsPhone = () => useMediaQuery(phoneWidth);

/** The areas along the top, in the order goods travel, with how many things wait in each; site and person at the right. On a phone the areas are in the bar for the thumb. */
export function Shelf({ name }: { name: string }) {
  const isPhone = useIsPhone();
  return (
    <header className="shelf">
      <Link to="/" className="brand">
        <img src={icon} alt="" />
        Tidy Larder
      </Link>
      {isPhone ? null : <Areas />}
      <div className="who">
        <Alerts />
        {isPhone ? null : <SiteChoice />}
        <PersonMenu name={name} withSites={isPhone} />
      </div>
    </header>
  );
}

/** How many things I was told that I have not seen yet. */
function Alerts() {
  const { data } = useAlertCountQuery({});
  const { pathname } = useLocation();
  const fresh = data?.fresh ?? 0;
  return (
    <Link to="/alerts" aria-label={fresh > 0 ? `Alerts, ${fresh} new` : 'Alerts'} aria-current={pathname.startsWith('/alerts') ? 'page' : undefined}>
      Alerts
      {fresh > 0 ? <span className="count">{fresh}</span> : null}
    </Link>
  );
}

function Areas() {
  const { pathname } = useLocation();
  const { seen, counts } = useAreas();
  return (
    <nav aria-label="Areas">
      {seen.map((area) => (
        <Link key={area.key} to={area.to} aria-current={isIn(area, pathname) ? 'page' : undefined}>
          {area.name}
          {counts[area.key] ? <span className="count">{counts[area.key]}</span> : null}
        </Link>
      ))}
    </nav>
  );
}
