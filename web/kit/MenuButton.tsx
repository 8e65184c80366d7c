import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';

export interface Way {
  words: string;
  run: () => void;
}

interface MenuButtonProps {
  words: string;
  /** What screen readers are told instead of the words. */
  label: string;
  ways: readonly Way[];
  /** Where keys find it, from elsewhere on the page. */
  place?: string;
}

/** A small button that opens what can be done; whoever came to it by a key from a field is back there once it closes. Nothing where nothing can be done. */
export function MenuButton({ words, label, ways, place }: MenuButtonProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (ways.length === 0) return null;
  return (
    <>
      <Button
        size="small"
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        aria-label={label}
        {...(place === undefined ? {} : { 'data-menu': place })}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {words}…
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} slotProps={{ list: { 'aria-label': label } }}>
        {ways.map(({ words: said, run }) => (
          <MenuItem
            key={said}
            onClick={() => {
              setAnchor(null);
              run();
            }}
          >
            {said}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
