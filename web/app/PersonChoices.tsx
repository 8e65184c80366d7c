import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useColorScheme } from '@mui/material/styles';
import { Link } from 'react-router';
import { useSignOutMutation } from '../areas/people/api';
import { useSite } from '../shared/site';
import { useSitesSeen } from '../shared/sitesSeen';

const looks = [
  ['system', 'Light or dark as the device'],
  ['light', 'Light'],
  ['dark', 'Dark'],
] as const;

/** How the pages look, what is one's own, and the way out; on a phone the sites as well. */
export function PersonChoices({ anchor, withSites, close }: { anchor: HTMLElement; withSites: boolean; close: () => void }) {
  const { mode, setMode } = useColorScheme();
  const [signOut] = useSignOutMutation();
  const { siteId, choose } = useSite();
  const sites = useSitesSeen();
  const leave = async () => {
    await signOut({});
    window.location.assign('/');
  };
  return (
    <Menu anchorEl={anchor} open onClose={close}>
      {withSites
        ? [{ id: undefined, name: 'All sites' }, ...sites].map((one) => (
            <MenuItem
              key={one.id ?? 0}
              role="menuitemradio"
              aria-checked={siteId === one.id}
              selected={siteId === one.id}
              onClick={() => {
                choose(one.id);
                close();
              }}
            >
              {one.name}
            </MenuItem>
          ))
        : null}
      {withSites ? <Divider /> : null}
      {looks.map(([key, label]) => (
        <MenuItem key={key} role="menuitemradio" aria-checked={mode === key} selected={mode === key} onClick={() => setMode(key)}>
          {label}
        </MenuItem>
      ))}
      <Divider />
      <MenuItem component={Link} to="/me" onClick={close}>
        Password and sessions
      </MenuItem>
      <MenuItem onClick={() => void leave()}>Sign out</MenuItem>
    </Menu>
  );
}
