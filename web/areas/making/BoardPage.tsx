import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import ArrowBackIcon from '@mui/icons-material/ArrowBack';
import ArrowForwardIcon from '@mui/icons-material/ArrowForward';
import { DndContext, KeyboardSensor, PointerSensor, useDraggable, useDroppable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { CSS } from '@dnd-kit/utilities';
import type { WorkRow } from '@larder/contract/workOrders';
import { addDays } from '@larder/core/day';
import { Link } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { dueDay, longDay, quantity, shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card, PageHead, Side, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { MakingWays } from '../../shared/MakingWays';
import { useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { useWorkOrdersInfiniteQuery } from '../../shared/workOrders';
import { useLazyWorkOrderQuery, useMoveWorkOrderMutation } from './api';

const days = 7;

/** Work by the day it starts: an order is dragged to another day, or put a day earlier or later; its parts are wanted for that day then. */
export function BoardPage() {
  useTitle('Work by day');
  const address = useAddress();
  const { siteId } = useSite();
  const { data: me, error } = useMeQuery({});
  const today = me?.company.today ?? '';
  const first = address.get('from') || today;
  const { rows } = useGoing(useWorkOrdersInfiniteQuery({ query: { show: 'open', siteId } }, { skip: today === '' }));
  const say = useSay();
  const [find] = useLazyWorkOrderQuery();
  const [move, moving] = useMoveWorkOrderMutation();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }), useSensor(KeyboardSensor));
  if (!me || !rows) return <Waiting error={error} />;
  const put = async (row: WorkRow, day: string) => {
    if (day === row.startsOn || day < today) return;
    const { data: now } = await find({ params: { id: row.id } });
    if (!now) return;
    const { error: refused } = await move({ params: { id: row.id }, body: { version: now.version, startsOn: day } });
    if (refused) say({ text: problemOf(refused)?.title ?? 'The server cannot be reached.' });
    else say({ text: `${row.number} starts on ${shortDay(day, today)} now.` });
  };
  const dropped = ({ active, over }: DragEndEvent) => {
    const row = rows.find(({ id }) => String(id) === String(active.id));
    if (row && over) void put(row, String(over.id));
  };
  const shown = Array.from({ length: days }, (_, index) => addDays(first, index));
  const earlier = rows.filter(({ startsOn }) => startsOn < first);
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Work by day</h1>
        <MakingWays />
        <Side>
          <Button disabled={first <= today} onClick={() => address.put('from', addDays(first, -days))}>
            A week earlier
          </Button>
          <Button onClick={() => address.put('from', addDays(first, days))}>A week later</Button>
        </Side>
      </PageHead>
      <Refused error={moving.error} />
      <DndContext sensors={sensors} onDragEnd={dropped}>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', md: `repeat(${days + (earlier.length > 0 ? 1 : 0)}, minmax(0, 1fr))` },
            gap: 8,
            alignItems: 'start',
          }}
        >
          {earlier.length > 0 ? (
            <Card component="section" aria-label="Earlier">
              <h2>Earlier</h2>
              {earlier.map((row) => (
                <Order key={row.id} row={row} today={today} put={put} />
              ))}
            </Card>
          ) : null}
          {shown.map((day) => (
            <Day key={day} day={day} today={today}>
              {rows
                .filter(({ startsOn }) => startsOn === day)
                .map((row) => (
                  <Order key={row.id} row={row} today={today} put={put} />
                ))}
            </Day>
          ))}
        </Box>
      </DndContext>
      <BottomBar hint="Drag an order to another day, or put it a day earlier or later" />
    </Stack>
  );
}

function Day({ day, today, children }: { day: string; today: string; children: React.ReactNode[] }) {
  const { setNodeRef, isOver } = useDroppable({ id: day, disabled: day < today });
  return (
    <Box ref={setNodeRef} sx={{ minHeight: 160, borderRadius: 2, outline: isOver ? '2px solid var(--damson)' : 'none' }}>
      <Card component="section" aria-label={longDay(day)}>
        <h2>{day === today ? 'Today' : shortDay(day, today)}</h2>
        {children.length === 0 ? <p className="pad quiet">Nothing starts.</p> : children}
      </Card>
    </Box>
  );
}

interface OrderProps {
  row: WorkRow;
  today: string;
  put: (row: WorkRow, day: string) => Promise<void>;
}

function Order({ row, today, put }: OrderProps) {
  const may = useMayAt('making.plan')(row.siteId);
  const { setNodeRef, listeners, attributes, transform, isDragging } = useDraggable({ id: String(row.id), disabled: !may });
  const from = row.startsOn < today ? today : row.startsOn;
  return (
    <Box
      ref={setNodeRef}
      sx={{
        padding: '8px 10px',
        borderTop: '1px solid var(--line)',
        cursor: may ? 'grab' : 'default',
        opacity: isDragging ? 0.7 : 1,
        transform: CSS.Translate.toString(transform) ?? 'none',
        background: 'var(--paper)',
      }}
      {...(may ? { ...listeners, ...attributes, role: 'group', 'aria-label': `${row.number}, ${row.sku}` } : {})}
    >
      <Link className="code strong" to={`/making/orders/${row.id}`}>
        {row.number}
      </Link>
      <span className="name">
        {quantity(row.quantity)} {row.sku}
      </span>
      <small className={row.late ? 'late name' : 'quiet name'}>
        {row.state}, due {dueDay(row.dueOn, today)}
      </small>
      {Number(row.short) > 0 ? <small className="late name">{quantity(row.short)} short</small> : null}
      {may ? (
        <Box sx={{ display: 'flex', gap: 4 }}>
          <Tooltip title="A day earlier">
            <span>
              <IconButton
                size="small"
                aria-label={`Put ${row.number} a day earlier`}
                disabled={addDays(row.startsOn, -1) < today}
                onClick={() => void put(row, addDays(row.startsOn, -1))}
              >
                <ArrowBackIcon fontSize="inherit" />
              </IconButton>
            </span>
          </Tooltip>
          <Tooltip title="A day later">
            <IconButton size="small" aria-label={`Put ${row.number} a day later`} onClick={() => void put(row, addDays(from, 1))}>
              <ArrowForwardIcon fontSize="inherit" />
            </IconButton>
          </Tooltip>
        </Box>
      ) : null}
    </Box>
  );
}
