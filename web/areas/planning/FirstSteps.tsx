import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card } from '../../kit/layout';
import { Link } from 'react-router';
import { Moon } from '../../kit/Moon';
import { useFirstStepsQuery, usePutFirstStepsAwayMutation } from './api';

/** Side by side, as many as there is room for. */
const inRow = {
  display: 'grid',
  gridTemplateColumns: 'repeat(auto-fit, minmax(210px, 1fr))',
  gap: '10px 20px',
  margin: 0,
  padding: '12px 14px',
  listStyle: 'none',
  '& li': { display: 'flex', gap: 10 },
  '& a': { textDecoration: 'underline' },
};

const steps = {
  places: { name: 'Sites and bins', how: 'Where stock lies: a building or van, and its shelves, many at once by a pattern.', to: '/setup', also: null },
  items: {
    name: 'First items',
    how: 'One by one in ten seconds each, or a whole spreadsheet.',
    to: '/items/new',
    also: { to: '/import?kind=items', name: 'import a file' },
  },
  opening: {
    name: 'Opening count',
    how: 'How many lie where, and what they are worth.',
    to: '/stock/opening',
    also: { to: '/import?kind=opening', name: 'import a file' },
  },
  'order-in': {
    name: 'First order in',
    how: 'Write a purchase order, place it, and receive it.',
    to: '/inbound/orders/new',
    also: { to: '/inbound/unordered', name: 'receive without an order' },
  },
  'order-out': { name: 'First order out', how: 'Write a quote, confirm it, pick it and send it.', to: '/outbound/orders/new', also: null },
};

/** What to begin with. Each step ticks itself when it was really done; the card can be put away and brought back. */
export function FirstSteps() {
  const { data } = useFirstStepsQuery({});
  const [putAway] = usePutFirstStepsAwayMutation();
  if (!data || data.steps.every(({ done }) => done)) return null;
  const done = data.steps.filter((step) => step.done).length;
  if (data.away)
    return (
      <p>
        <Button size="small" onClick={() => void putAway({ body: { away: false } })}>
          First steps, {done} of {data.steps.length} done
        </Button>
      </p>
    );
  return (
    <Card aria-label="First steps">
      <Box component="h2" sx={{ display: 'flex', alignItems: 'center' }}>
        First steps
        <span>
          {done} of {data.steps.length} done{data.of === 'person' ? ' by you' : ''}
        </span>
        <Button size="small" sx={{ marginLeft: 'auto' }} onClick={() => void putAway({ body: { away: true } })}>
          Put away
        </Button>
      </Box>
      <Box component="ol" sx={inRow}>
        {data.steps.map((step) => {
          const { name, how, to, also } = steps[step.key];
          return (
            <li key={step.key} className={step.done ? 'quiet' : ''}>
              <Moon done={step.done ? '1' : '0'} of="1" />
              <span>
                <Link className="strong" to={to}>
                  {name}
                </Link>
                {step.done ? ': done' : ''}
                <Box component="small" className="quiet" sx={{ display: 'block' }}>
                  {how}
                  {also ? (
                    <>
                      {' '}
                      Or <Link to={also.to}>{also.name}</Link>.
                    </>
                  ) : null}
                </Box>
              </span>
            </li>
          );
        })}
      </Box>
    </Card>
  );
}
