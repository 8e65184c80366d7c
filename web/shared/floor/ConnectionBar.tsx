import Alert from '@mui/material/Alert';
import { Link } from 'react-router';
import { clock, count } from '../../kit/format';
import { useFloorWork, useKept } from './useFloor';

/** On a device of the floor: says that there is no connection, what is kept until there is one, and what the server would not take. */
export function ConnectionBar() {
  useFloorWork();
  const { lostSince, waits, refused, scans } = useKept();
  const kept = waits.length + scans;
  if (lostSince === null && kept === 0 && refused.length === 0) return null;
  const words =
    lostSince === null
      ? kept > 0
        ? `${count(kept, 'thing')} kept here ${kept === 1 ? 'is' : 'are'} being sent.`
        : ''
      : kept > 0
        ? `No connection. Go on: ${count(kept, 'thing')} ${kept === 1 ? 'is' : 'are'} kept and ${kept === 1 ? 'goes' : 'go'} in order, once.`
        : `No connection since ${clock(lostSince)}. Go on: what you do is kept and goes in order, once.`;
  return (
    <Alert severity={refused.length > 0 ? 'error' : 'warning'} role="status" aria-label="Connection" square icon={false}>
      {words} {refused.length > 0 ? `${count(refused.length, 'thing')} ${refused.length === 1 ? 'was' : 'were'} not taken.` : ''}{' '}
      {kept > 0 || refused.length > 0 ? <Link to="/kept">{refused.length > 0 ? 'Sort it out' : 'See what waits'}</Link> : null}
    </Alert>
  );
}
