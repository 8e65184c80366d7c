import Button from '@mui/material/Button';
import type { Alert } from '@larder/contract/alerts';
import { alertWords } from '@larder/core/planning/alerts';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { moment } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card, PageHead, Stack } from '../../kit/layout';
import { ListTable, type Column } from '../../kit/ListTable';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { AlertWays } from './AlertWays';
import { useAlertsInfiniteQuery, useAllAlertsInfiniteQuery, useSeeAlertsMutation } from './api';

const kindOf = ({ kind }: Alert): string => (kind === 'round-up' ? 'Round-up' : alertWords[kind].name);
const mailWords: Record<Alert['letter'], string> = { none: 'on screen', waiting: 'mail on its way', sent: 'mailed', failed: 'the mail could not be sent' };

const columns = (isFresh: (row: Alert) => boolean, withPerson: boolean): Column<Alert>[] => [
  { name: 'Kind', cell: (row) => <span className="quiet">{kindOf(row)}</span> },
  {
    name: 'What happened',
    text: (row) => row.text,
    cell: (row) => (
      <Link to={row.leadsTo} className={isFresh(row) ? 'strong' : ''}>
        {row.text}
      </Link>
    ),
  },
  ...(withPerson ? [{ name: 'Told to', cell: (row: Alert) => row.person }] : [{ name: 'New', wide: true, cell: (row: Alert) => (isFresh(row) ? 'new' : '') }]),
  { name: 'When', cell: (row) => <span className="quiet">{moment(row.at)}</span> },
  { name: 'By', wide: true, cell: (row) => <span className={row.letter === 'failed' ? 'late' : 'quiet'}>{mailWords[row.letter]}</span> },
];

/** What I was told, the last first; each leads to where one acts. What stands here was seen. */
export function AlertsPage() {
  useTitle('Alerts');
  const navigate = useNavigate();
  const { rows, more, error } = useGoing(useAlertsInfiniteQuery({ query: {} }));
  const [see] = useSeeAlertsMutation();
  const [selected, setSelected] = useState(0);
  // What was new when the page was opened stays marked while somebody reads it.
  const fresh = useRef(new Set<number>());
  const last = Math.max(0, ...(rows ?? []).filter(({ isNew }) => isNew).map(({ id }) => id));
  for (const { id, isNew } of rows ?? []) if (isNew) fresh.current.add(id);
  useEffect(() => {
    if (last > 0) void see({ body: { upTo: last } });
  }, [last, see]);
  if (!rows) return <Waiting error={error} />;
  const row = rows[selected];
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Alerts</h1>
        <AlertWays />
      </PageHead>
      <ListTable
        label="Alerts"
        columns={columns(({ id }) => fresh.current.has(id), false)}
        rows={rows}
        more={more}
        keyOf={({ id }) => id}
        selected={selected}
        select={setSelected}
        open={({ leadsTo }) => void navigate(leadsTo)}
        empty={
          <>
            You were told nothing yet. Choose under <Link to="/alerts/settings">What I am told</Link> what you want to know, of which sites, at once or in a
            round-up.
          </>
        }
      />
      <BottomBar next={row && { label: 'Open it', run: () => void navigate(row.leadsTo) }} />
    </Stack>
  );
}

/** What was told to whom. */
export function AllAlertsPage() {
  useTitle('Told to whom');
  const navigate = useNavigate();
  const { rows, more, error } = useGoing(useAllAlertsInfiniteQuery({ query: {} }));
  const [selected, setSelected] = useState(0);
  if (!rows) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Alerts</h1>
        <AlertWays />
      </PageHead>
      {rows.length === 0 ? (
        <Card state component="p">
          Nobody was told anything yet.
        </Card>
      ) : (
        <ListTable
          label="Alerts of all"
          columns={columns(() => false, true)}
          rows={rows}
          more={more}
          keyOf={({ id }) => id}
          selected={selected}
          select={setSelected}
          open={({ leadsTo }) => void navigate(leadsTo)}
          empty=""
        />
      )}
      <BottomBar>
        <Button component={Link} to="/post">
          Post room
        </Button>
      </BottomBar>
    </Stack>
  );
}
