import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** A row of a card that leads somewhere: its sign, what it is with a few words under it, and a figure at the right. */
export const CardRow = ({ to, children }: { to: string; children: ReactNode }) => (
  <Box
    component={Link}
    to={to}
    sx={{
      display: 'grid',
      gridTemplateColumns: '26px minmax(0, 1fr) auto',
      gap: 12,
      alignItems: 'center',
      padding: '10px 14px',
      borderBottom: 1,
      borderColor: 'divider',
      '&:last-child': { borderBottom: 0 },
      '&:hover': { background: 'var(--damson-soft)', textDecoration: 'none' },
      '& b': { display: 'block', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
    }}
  >
    {children}
  </Box>
);
