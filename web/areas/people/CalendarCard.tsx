import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Field } from '../../kit/Field';
import { Card, Stack } from '../../kit/layout';
import { useSay } from '../../shared/say';
import { useEndCalendarMutation, useMyCalendarQuery, useNewCalendarMutation } from '../../shared/reminders';

/** The address at which one's own calendar reads what is due. */
export function CalendarCard() {
  const { data } = useMyCalendarQuery({});
  const [make, making] = useNewCalendarMutation();
  const [end, ending] = useEndCalendarMutation();
  const say = useSay();
  if (!data) return null;
  const address = data.path === null ? null : `${window.location.origin}${data.path}`;
  const copy = async () => {
    await navigator.clipboard.writeText(address ?? '');
    say({ text: 'The address is copied.' });
  };
  return (
    <Card aria-label="Due days in your calendar">
      <h2>Due days in your calendar</h2>
      <Stack pad>
        <p className="quiet">
          Loans to be back, deliveries, orders to ship, transfers and use-by days, as a calendar that others can subscribe to (iCalendar). Whoever knows the
          address reads it: give it to nobody.
        </p>
        {address === null ? null : <Field label="Address of your calendar" value={address} onChange={() => undefined} />}
        <Box sx={{ display: 'flex', gap: 8, flexWrap: 'wrap' }}>
          {address === null ? null : <Button onClick={() => void copy()}>Copy it</Button>}
          <Button disabled={making.isLoading} onClick={() => void make({})}>
            {address === null ? 'Make an address' : 'Make another address'}
          </Button>
          {address === null ? null : (
            <Button disabled={ending.isLoading} onClick={() => void end({})}>
              End it
            </Button>
          )}
        </Box>
      </Stack>
    </Card>
  );
}
