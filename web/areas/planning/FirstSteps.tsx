import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card } from '../../kit/layout';
import { Link } from 'react-router';
import { Moon } from '../../kit/Moon';
import { useFirstStepsQuery, usePutFirstStepsAwayMutation } from './api';
import { steps } from './steps';

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
