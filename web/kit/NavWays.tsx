import Button from '@mui/material/Button';
import { NavLink } from 'react-router';
import { phone, Ways } from './layout';

interface NavWaysProps {
  label: string;
  /** Where each leads, and what it is called; the first is only where one is when it is the whole address. */
  ways: readonly (readonly [to: string, name: string])[];
}

/** On a phone they are one row for the thumb, which is scrolled. */
const onPhone = { [phone]: { flexWrap: 'nowrap', width: '100%', overflowX: 'auto', '& > *': { flex: 'none' } } };

/** The ways into an area, with the one that is open set off. */
export const NavWays = ({ label, ways }: NavWaysProps) => (
  <Ways component="nav" aria-label={label} sx={onPhone}>
    {ways.map(([to, name], index) => (
      <Button key={to} component={NavLink} to={to} end={index === 0}>
        {name}
      </Button>
    ))}
  </Ways>
);
