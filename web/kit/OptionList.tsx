import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import Paper from '@mui/material/Paper';
import type { ReactNode } from 'react';

interface OptionListProps<T> {
  /** The field's `aria-controls`; each option is `<id>-<index>`, for its `aria-activedescendant`. */
  id: string;
  label: string;
  options: readonly T[];
  keyOf: (option: T) => string | number;
  /** The one that Enter takes. */
  active: number;
  take: (option: T) => void;
  /** What an option shows: in front, and at its end. */
  show: (option: T) => ReactNode;
  aside: (option: T) => ReactNode;
  /** It opens above the field or below it. */
  above?: boolean;
  /** What is said before the options. */
  children?: ReactNode;
}

/** What fits what is typed, under or over its field; the keys stay in the field. */
export function OptionList<T>({ id, label, options, keyOf, active, take, show, aside, above = false, children }: OptionListProps<T>) {
  if (options.length === 0 && !children) return null;
  return (
    <Paper
      sx={{
        position: 'absolute',
        ...(above ? { bottom: '42px' } : { top: '38px' }),
        left: '0px',
        right: above ? '0px' : '-60px',
        zIndex: 20,
        maxHeight: 320,
        overflow: 'auto',
        boxShadow: '0 0 20px rgb(0 0 0 / 15%)',
      }}
    >
      {children}
      <MenuList id={id} role="listbox" aria-label={label} dense sx={{ padding: 4 }} tabIndex={-1}>
        {options.map((option, index) => (
          <MenuItem
            key={keyOf(option)}
            id={`${id}-${index}`}
            role="option"
            aria-selected={index === active}
            selected={index === active}
            tabIndex={-1}
            onMouseDown={(event) => {
              event.preventDefault();
              take(option);
            }}
            sx={{ gap: 10, alignItems: 'baseline', borderRadius: '6px', whiteSpace: 'normal' }}
          >
            {show(option)}
            <Box component="span" className="quiet nowrap" sx={{ marginLeft: 'auto' }}>
              {aside(option)}
            </Box>
          </MenuItem>
        ))}
      </MenuList>
    </Paper>
  );
}
