import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { Reminder, remindersOf } from '@larder/contract/reminders';
import type { ResponseOf } from '@larder/contract/endpoint';
import { daysInWords } from '@larder/core/reminders';
import { isNumber } from '@larder/core/number';
import { useState } from 'react';
import { refusalOf } from '../kit/draft';
import { Choice, Field } from '../kit/Field';
import { count, shortDay } from '../kit/format';
import { Card } from '../kit/layout';
import { Several } from '../kit/Several';
import { ReminderSign } from './ReminderSign';
import { useDropReminderMutation, useRemindersQuery, useSetReminderMutation } from './reminders';

type Of = { loanId: number } | { itemId: number } | { lotId: number };
type Data = ResponseOf<typeof remindersOf>;

/** Who is reminded of the days of a loan, an item or a unit, and when; another is set here. */
export function Reminders({ of, today }: { of: Of; today: string }) {
  const { data } = useRemindersQuery({ query: of });
  const [isOpen, setOpen] = useState(false);
  if (!data || data.days.length === 0) return null;
  return (
    <Card aria-label="Reminders">
      <h2>
        Reminders
        {data.rows.length > 0 ? <ReminderSign /> : null}
        <span>{data.rows.length === 0 ? 'nobody is reminded' : ''}</span>
      </h2>
      <Table>
        <TableBody>
          {data.rows.map((row) => (
            <Row key={row.id} row={row} today={today} />
          ))}
        </TableBody>
      </Table>
      <Box className="pad">
        {isOpen ? (
          <NewReminder of={of} data={data} done={() => setOpen(false)} />
        ) : (
          <Button size="small" onClick={() => setOpen(true)}>
            Remind somebody
          </Button>
        )}
      </Box>
    </Card>
  );
}

function Row({ row, today }: { row: Reminder; today: string }) {
  const [drop, { isLoading }] = useDropReminderMutation();
  const who = [...row.people, ...row.roles].map(({ name }) => name).join(', ');
  const when = `${daysInWords(row.days)}${row.days === 0 ? '' : ` ${row.called}`}`;
  return (
    <TableRow>
      <TableCell>
        {who}
        <Box component="small" className="quiet" sx={{ display: 'block' }}>
          {when}
          {row.on === null ? ', which has no day now' : `, on ${shortDay(row.on, today)}`}
          {row.sent.length > 0 ? `; ${count(row.sent.length, 'letter')} sent` : ''}
        </Box>
      </TableCell>
      <TableCell align="right">
        <Button size="small" disabled={isLoading} aria-label={`Remind ${who} ${when} no more`} onClick={() => void drop({ params: { id: row.id } })}>
          End
        </Button>
      </TableCell>
    </TableRow>
  );
}

const sides = [
  { value: 'before', label: 'days before' },
  { value: 'after', label: 'days after' },
];

/** Which day, how many days around it, and who. */
function NewReminder({ of, data, done }: { of: Of; data: Data; done: () => void }) {
  const [set, setting] = useSetReminderMutation();
  const [which, setWhich] = useState(0);
  const [days, setDays] = useState('3');
  const [side, setSide] = useState('before');
  const [who, setWho] = useState<readonly { id: string; name: string }[]>([]);
  const fault = refusalOf(setting);
  const day = data.days[which];
  const isWhole = isNumber(days.trim(), 'quantityOrNone') && /^\d+$/.test(days.trim());
  const chosen = (sort: 'person' | 'role') => who.flatMap(({ id }) => (id.startsWith(`${sort} `) ? [Number(id.split(' ')[1])] : []));
  const unreached = data.people.filter(({ id, email }) => email === '' && chosen('person').includes(id)).map(({ name }) => name);
  const save = async () => {
    if (!day || !isWhole) return;
    const around = Number(days.trim()) * (side === 'before' ? -1 : 1);
    const body = { ...of, about: day.about, attributeId: day.attributeId, days: around, personIds: chosen('person'), roleIds: chosen('role') };
    if ((await set({ body })).data) done();
  };
  return (
    <Box role="group" aria-label="A new reminder" sx={{ display: 'grid', gap: 10 }}>
      {data.days.length > 1 ? (
        <Choice
          label="Of which day"
          value={String(which)}
          onChange={(index) => setWhich(Number(index))}
          options={data.days.map(({ called, day: next }, index) => ({ value: String(index), label: next === null ? `${called}, none now` : called }))}
        />
      ) : null}
      <Box sx={{ display: 'grid', gridTemplateColumns: '70px 1fr', gap: 8, alignItems: 'end' }}>
        <Field label="How many" value={days} onChange={setDays} error={isWhole ? fault.at('days') : 'Whole days.'} />
        <Choice label="Before or after" value={side} onChange={setSide} options={sides} />
      </Box>
      <Several
        label="Who is reminded"
        value={who}
        onChange={setWho}
        error={fault.at('personIds') ?? (unreached.length > 0 ? `${unreached.join(' and ')}: no mail address, so nothing would arrive.` : undefined)}
        options={[
          ...data.people.map((one) => ({ id: `person ${one.id}`, name: one.name })),
          ...data.roles.map((one) => ({ id: `role ${one.id}`, name: `whoever is ${one.name}` })),
        ]}
      />
      <span>
        <Button variant="contained" size="small" disabled={setting.isLoading} onClick={() => void save()}>
          Remind them
        </Button>{' '}
        <Button size="small" onClick={done}>
          Never mind
        </Button>
      </span>
    </Box>
  );
}
