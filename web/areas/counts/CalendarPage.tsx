import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { itemClasses } from '@larder/core/stock/counting';
import { Link } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { quantity } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useCountCalendarQuery } from '../../shared/countCalendar';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { StockWays } from '../../shared/StockWays';
import { AccuracyChart } from './AccuracyChart';
import { useCountAccuracyQuery, useEditCalendarMutation } from './api';

type Every = Record<(typeof itemClasses)[number], number | null>;
const { Field } = fieldsOf<Every>();

/** How often what is counted, what of it is due, and how much of what was counted agreed. */
export function CalendarPage() {
  useTitle('What is due to be counted');
  const { siteId } = useSite();
  const { data, error } = useCountCalendarQuery({ query: { siteId } });
  const { data: accuracy } = useCountAccuracyQuery({ query: { siteId } });
  const may = useMay('stock.correct');
  if (!data) return <Waiting error={error} />;
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Due to be counted</h1>
          <StockWays />
        </PageHead>
        <Card component="div">
          <Table aria-label="What is due">
            <TableHead>
              <TableRow>
                <TableCell>Site</TableCell>
                <TableCell>Class</TableCell>
                <TableCell align="right" className="wide-only">
                  Items there
                </TableCell>
                <TableCell align="right">Due</TableCell>
                <TableCell />
              </TableRow>
            </TableHead>
            <TableBody>
              {data.rows.map((row) => (
                <TableRow key={`${row.siteId} ${row.class}`}>
                  <TableCell>{row.site}</TableCell>
                  <TableCell className="strong">{row.class}</TableCell>
                  <TableCell align="right" className="quiet wide-only">
                    {quantity(String(row.items))}
                  </TableCell>
                  <TableCell align="right" className="strong">
                    {quantity(String(row.due))}
                  </TableCell>
                  <TableCell align="right">
                    {may && row.due > 0 ? <Link to={`/stock/counts/new?site=${row.siteId}&class=${row.class}&due`}>Plan it</Link> : null}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
        <Card aria-label="How much agreed">
          <h2>
            How much agreed<span>of what was counted, month by month</span>
          </h2>
          {accuracy && accuracy.months.length > 0 ? <AccuracyChart months={accuracy.months} /> : <p className="pad quiet">Nothing was counted yet.</p>}
        </Card>
      </Stack>
      <HowOften key={JSON.stringify(data.every)} came={data.every} />
    </Split>
  );
}

/** After how many days items of each class are counted. */
function HowOften({ came }: { came: Every }) {
  const [edit] = useEditCalendarMutation();
  const may = useMay('setup.edit', null);
  const say = useSay();
  const form = useForm({
    came,
    body: (typed: Every) => typed,
    checkedBy: async () => (await import('@larder/contract/counts')).editCalendar.body,
  });
  const keep = async () => {
    if (await form.send((body) => edit({ body }))) say({ text: 'How often is saved.' });
  };
  return (
    <FormFrame form={form} save={() => may && void keep()}>
      <Card component="aside" aria-label="How often">
        <h2>How often</h2>
        <Stack pad>
          <Refused error={form.refused} />
          <p className="quiet">By the value of what was used in a year: A is the first 80 %, B up to 95 %, C the rest. Days; empty: never by itself.</p>
          {itemClasses.map((one) => (
            <Field key={one} label={`Class ${one}, every so many days`} name={one} read={wholeOrNone} disabled={!may} />
          ))}
        </Stack>
      </Card>
      <BottomBar
        hint="Classes are reckoned anew each day"
        next={may ? { label: 'Save how often', run: () => void keep(), disabled: form.isBusy || !form.isTyped } : undefined}
      />
    </FormFrame>
  );
}
