import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { getLevel, LevelRow } from '@larder/contract/levels';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, quantity } from '../../kit/format';
import { Card, Fields, PageHead, Split, Stack } from '../../kit/layout';
import { useVersionOf } from '../../kit/row';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useDecideLevelsMutation, useLevelQuery } from './api';
import { DemandChart } from './DemandChart';
import { LevelFigures } from './LevelFigures';
import { groundsInWords, levelsInWords, methodWords, patternWords, pointInWords, roughly, wayInWords } from './levelWords';
import { PlanningWays } from './PlanningWays';
import { RefuseLevels } from './RefuseLevels';
import { ReplayChart } from './ReplayChart';

type Detail = ResponseOf<typeof getLevel>;
type Past = NonNullable<Detail['past']>;

/** What the past of an item at a site says for its levels there: the past, what is expected, what each level would have meant; and the decision on it. */
export function LevelPage() {
  const { itemId, siteId } = useParams();
  const { data, error } = useLevelQuery({ params: { itemId: Number(itemId), siteId: Number(siteId) } });
  useTitle(data ? `Levels of ${data.row.sku}` : 'Levels');
  if (!data) return <Waiting error={error} />;
  const { row, past, events } = data;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Levels</h1>
        <Link to={`/items/${row.itemId}`}>
          {row.name} <span className="code">{row.sku}</span>
        </Link>
        <span className="quiet">{row.site}</span>
        <PlanningWays />
      </PageHead>
      {past === null ? (
        <Card state component="p">
          Nothing of {row.sku} was wanted at {row.site} within three years, so nothing is suggested. Levels there: {levelsInWords(row)}. They are changed on{' '}
          <Link to={`/items/${row.itemId}`}>the item</Link>.
        </Card>
      ) : (
        <Told row={row} past={past} events={events} />
      )}
    </Stack>
  );
}

function Told({ row, past, events }: Detail & { past: Past }) {
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? past.replayFrom;
  return (
    <Split>
      <Stack>
        <Card aria-label="Wanted each week, and what is expected">
          <h2>
            Wanted each week, and what is expected<span>{patternWords[past.pattern]}; the band holds 8 of 10 weeks</span>
          </h2>
          <div className="pad">
            <DemandChart today={today} weeks={past.weeks} ahead={past.ahead} said={past.tried[0]?.said ?? []} />
          </div>
        </Card>
        <Card pad aria-label="How it is reckoned">
          <p>
            <b>{quantity(past.point)}</b> = {pointInWords(past, row.coverDays)}.
          </p>
          <p>
            <b>{quantity(past.upTo)}</b> = {quantity(past.point)} and what is worth ordering at once
            {past.economic === null
              ? ', four weeks of it, since nothing is known of its cost'
              : ` (${roughly(past.economic)}, by what an order costs and what it costs to hold some)`}
            .
          </p>
          {groundsInWords(past, events).map((sentence) => (
            <p className="quiet" key={sentence}>
              {sentence}
            </p>
          ))}
        </Card>
        <Card aria-label="The last year with these levels">
          <h2>
            The last year with these levels<span>solid as suggested, dashed as it is</span>
          </h2>
          <div className="pad">
            <ReplayChart from={past.replayFrom} today={today} suggested={past.suggested.stock} now={past.now?.stock ?? null} />
          </div>
        </Card>
      </Stack>
      <Stack>
        <Card>
          <LevelFigures
            now={{
              point: row.point ?? undefined,
              upTo: row.upTo ?? undefined,
              daysOut: past.now?.daysOut,
              averageStock: past.now?.averageStock,
            }}
            suggested={{ point: past.point, upTo: past.upTo, daysOut: past.suggested.daysOut, averageStock: past.suggested.averageStock }}
            unitCost={row.unitCost}
          />
          <Besides row={row} />
        </Card>
        <Decision row={row} past={past} />
        <Tried past={past} />
        <Events events={events} />
      </Stack>
    </Split>
  );
}

/** What else is said of how it is topped up there, and what was decided. */
function Besides({ row }: { row: LevelRow }) {
  const { coverDays, packSize, suggested } = row;
  const besides = [
    coverDays === null ? '' : `At least ${count(coverDays, 'day')} are covered.`,
    packSize === null ? '' : `It comes in packs of ${quantity(packSize)}.`,
    row.way === 'best' ? '' : `More comes ${wayInWords(row)}.`,
    suggested?.decision ? `The suggestion was ${suggested.decision}${suggested.reason === '' ? '' : `: ${suggested.reason}`}.` : '',
  ].filter((sentence) => sentence !== '');
  return besides.length === 0 ? null : <p className="pad quiet">{besides.join(' ')}</p>;
}

/** How each way of forecasting did on the last weeks, which it was not set by. */
function Tried({ past }: { past: Past }) {
  const [first] = past.tried;
  if (!first) return <Card pad>There is too little past to try ways of forecasting on: the average stands.</Card>;
  const last = past.weeks.slice(-first.weeks);
  const average = last.reduce((all, { wanted }) => all + wanted, 0) / Math.max(1, last.length);
  const share = (error: number) => (average > 0 ? `${Math.round((100 * error) / average)} %` : roughly(error));
  return (
    <Card>
      <Table aria-label="Ways of forecasting, tried on the past">
        <TableHead>
          <TableRow>
            <TableCell>Way</TableCell>
            <TableCell align="right">Error, last {first.weeks} weeks</TableCell>
            <TableCell align="right">On average</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {past.tried.map(({ method, meanError, bias }, nth) => (
            <TableRow key={method}>
              <TableCell>{nth === 0 ? <b>{methodWords[method]}</b> : methodWords[method]}</TableCell>
              <TableCell align="right">{share(meanError)}</TableCell>
              <TableCell align="right" className="quiet">
                {Math.abs(bias) < 0.02 * Math.max(average, 0.5) ? '' : `${share(Math.abs(bias))} too ${bias > 0 ? 'little' : 'much'}`}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

function Events({ events }: Pick<Detail, 'events'>) {
  if (events.length === 0) return null;
  return (
    <Card pad aria-label="Events">
      {events.map(({ id, name, startsOn, endsOn, counts }) => (
        <p key={id}>
          {name}, {startsOn === endsOn ? startsOn : `${startsOn} to ${endsOn}`} <span className="quiet">{counts ? 'counts' : 'does not count'}</span>
        </p>
      ))}
      <Link to="/planning/events">Events</Link>
    </Card>
  );
}

interface Typed {
  point: string;
  upTo: string;
}
const { Field } = fieldsOf<Typed>();

/** Takes what is suggested, as it is or changed, or refuses it. */
function Decision({ row, past }: { row: LevelRow; past: Past }) {
  const may = useMay('items.edit', null);
  const say = useSay();
  const navigate = useNavigate();
  const [refusing, setRefusing] = useState(false);
  const [decide] = useDecideLevelsMutation();
  const came: Typed = { point: past.point, upTo: past.upTo };
  const form = useForm({
    came,
    version: useVersionOf(came),
    body: ({ point, upTo }: Typed) => ({ decision: 'accept' as const, rows: [{ itemId: row.itemId, siteId: row.siteId, point, upTo }] }),
    checkedBy: async () => (await import('@larder/contract/levels')).decideLevels.body,
    sentAs: { 'rows.0.point': 'point', 'rows.0.upTo': 'upTo' },
  });
  const save = async () => {
    const kept = await form.send(async (body, typed, version) => {
      const result = await decide({ body });
      if (result.data) form.kept(typed, version);
      return result;
    });
    if (!kept) return;
    const { point, upTo } = form.getValues();
    say({ text: `${row.sku} at ${row.site}: reorder at ${point}, up to ${upTo}.` });
    void navigate('/planning/levels');
  };
  if (!may || row.suggested === null) return null;
  return (
    <Card aria-label="Decide">
      <FormFrame form={form} save={() => void save()}>
        <Stack pad>
          <Refused error={form.refused} />
          <Fields sx={{ gridTemplateColumns: '1fr 1fr' }}>
            <Field label="Reorder point" name="point" />
            <Field label="Order up to" name="upTo" />
          </Fields>
          <Box className="quiet">Nothing changes by itself.</Box>
        </Stack>
        <Step past={past} busy={form.isBusy} save={() => void save()} refuse={() => setRefusing(true)} />
      </FormFrame>
      {refusing ? (
        <RefuseLevels
          rows={[row]}
          close={(refused) => {
            setRefusing(false);
            if (refused) void navigate('/planning/levels');
          }}
        />
      ) : null}
    </Card>
  );
}

/** The next step, which says what would be taken. */
function Step({ past, busy, save, refuse }: { past: Past; busy: boolean; save: () => void; refuse: () => void }) {
  const [point, upTo] = useWatch<Typed, ['point', 'upTo']>({ name: ['point', 'upTo'] });
  const same = point === past.point && upTo === past.upTo;
  return (
    <BottomBar hint="Nothing changes by itself" next={{ label: `${same ? 'Accept' : 'Set'} ${point} and ${upTo}`, run: save, disabled: busy }}>
      <Button onClick={refuse}>Refuse…</Button>
    </BottomBar>
  );
}
