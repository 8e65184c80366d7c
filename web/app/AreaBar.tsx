import BookIcon from '@mui/icons-material/MenuBookOutlined';
import InIcon from '@mui/icons-material/MoveToInboxOutlined';
import ItemsIcon from '@mui/icons-material/CategoryOutlined';
import MakingIcon from '@mui/icons-material/BuildOutlined';
import MoreIcon from '@mui/icons-material/MoreHoriz';
import OutIcon from '@mui/icons-material/LocalShippingOutlined';
import PlanIcon from '@mui/icons-material/EventNoteOutlined';
import SetupIcon from '@mui/icons-material/TuneOutlined';
import StockIcon from '@mui/icons-material/Inventory2Outlined';
import TodayIcon from '@mui/icons-material/TodayOutlined';
import BottomNavigation from '@mui/material/BottomNavigation';
import BottomNavigationAction from '@mui/material/BottomNavigationAction';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState, type ComponentType } from 'react';
import { Link, useLocation } from 'react-router';
import { useMeQuery } from '../shared/me';
import { isIn, parted, type AreaEntry } from './areas';
import { useAreas } from './useAreas';

const icons: Record<AreaEntry['key'], ComponentType> = {
  today: TodayIcon,
  items: ItemsIcon,
  inbound: InIcon,
  stock: StockIcon,
  outbound: OutIcon,
  making: MakingIcon,
  planning: PlanIcon,
  books: BookIcon,
  setup: SetupIcon,
};

/** The areas on a phone, where the thumb is: the five that this person works in, the others behind More. */
export function AreaBar() {
  const { pathname } = useLocation();
  const { seen } = useAreas();
  const { data: me } = useMeQuery({});
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { bar, more } = parted(seen, me?.grants ?? []);
  const here = seen.find((area) => isIn(area, pathname));
  const close = () => setAnchor(null);
  return (
    <>
      <BottomNavigation component="nav" aria-label="Areas" showLabels value={bar.some((area) => area === here) ? here?.key : 'more'}>
        {bar.map(({ key, name, to }) => {
          const Icon = icons[key];
          return (
            <BottomNavigationAction
              key={key}
              value={key}
              label={name}
              icon={<Icon />}
              component={Link}
              to={to}
              aria-current={key === here?.key ? 'page' : undefined}
            />
          );
        })}
        {more.length > 0 ? (
          <BottomNavigationAction
            value="more"
            label="More"
            icon={<MoreIcon />}
            aria-haspopup="menu"
            aria-expanded={anchor !== null}
            onClick={(event) => setAnchor(event.currentTarget as HTMLElement)}
          />
        ) : null}
      </BottomNavigation>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={close}
        anchorOrigin={{ vertical: 'top', horizontal: 'right' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      >
        {more.map((area) => (
          <MenuItem key={area.key} component={Link} to={area.to} selected={area === here} onClick={close}>
            {area.name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
