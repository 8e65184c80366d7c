import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useColorScheme } from '@mui/material/styles';
import { useState } from 'react';
import { Link } from 'react-router';
import { useSignOutMutation } from '../areas/people/api';

const looks = [
  ['system', 'Light or dark as the device'],
  ['light', 'Light'],
  ['dark', 'Dark'],
] as const;

/** Who is signed in, how the pages look to them, and the way out. */
export function PersonMenu({ name }: { name: string }) {
  const { mode, setMode } = useColorScheme();
  const [signOut] = useSignOutMutation();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const leave = async () => {
    await signOut({});
    window.location.assign('/');
  };
  return (
    <>
      <Button variant="text" aria-haspopup="menu" aria-label={`Signed in as ${name}`} onClick={(event) => setAnchor(event.currentTarget)}>
        {name}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {looks.map(([key, label]) => (
          <MenuItem key={key} role="menuitemradio" aria-checked={mode === key} selected={mode === key} onClick={() => setMode(key)}>
            {label}
          </MenuItem>
        ))}
        <MenuItem divider disabled sx={{ minHeight: 0, padding: 0 }} aria-hidden="true" />
        <MenuItem component={Link} to="/me" onClick={() => setAnchor(null)}>
          Password and sessions
        </MenuItem>
        <MenuItem onClick={() => void leave()}>Sign out</MenuItem>
      </Menu>
    </>
  );
}
