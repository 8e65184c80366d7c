import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useColorScheme } from '@mui/material/styles';
import { useState } from 'react';
import { Link } from 'react-router';
import { useSignOutMutation } from '../areas/people/api';
import { useSite } from '../shared/site';
import { useSitesSeen } from './SiteChoice';

const looks = [
  ['system', 'Light or dark as the device'],
  ['light', 'Light'],
  ['dark', 'Dark'],
] as const;

/** Who is signed in, how the pages look to them, and the way out; on a phone the sites stand in it too, and the one that is chosen beside the name. */
export function PersonMenu({ name, withSites }: { name: string; withSites: boolean }) {
  const { mode, setMode } = useColorScheme();
  const [signOut] = useSignOutMutation();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { siteId, choose } = useSite();
  const sites = useSitesSeen();
  const close = () => setAnchor(null);
  const leave = async () => {
    await signOut({});
    window.location.assign('/');
  };
  const site = sites.find(({ id }) => id === siteId)?.name ?? 'All sites';
  return (
    <>
      <Button
        variant="text"
        aria-haspopup="menu"
        aria-label={`Signed in as ${name}${withSites ? `, ${site}` : ''}`}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {withSites ? `${site}, ${name.split(' ')[0] ?? name}` : name}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
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
    </>
  );
}
