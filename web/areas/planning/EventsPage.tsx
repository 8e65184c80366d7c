import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Event } from '@larder/contract/levels';
import { useState } from 'react';
import { useController } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf, ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { shortDay } from '../../kit/format';
import { Card, Fields, PageHead, Split, Stack } from '../../kit/layout';
import { ListTable } from '../../kit/ListTable';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { LineEntry } from '../../shared/LineEntry';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useChangeEventMutation, useCreateEventMutation, useDropEventMutation, useEventsQuery } from './api';
import { PlanningWays } from './PlanningWays';

interface EventDraft {
  name: string;
  startsOn: string | null;
  endsOn: string | null;
  siteId: number | null;
  categoryId: number | null;
  item: { id: number; sku: string } | null;
  counts: boolean;
}
const { Field, Day, Choice, Check } = fieldsOf<EventDraft>();

/** Fairs, promotions and the like: on their days more or less was wanted than otherwise, so they do not count for what is suggested. */
export function EventsPage() {
  useTitle('Events');
  const { data, error } = useEventsQuery({});
  const { data: me } = useMeQuery({});
  const may = useMay('items.edit', null);
  const [selected, setSelected] = useState(-1);
  const [made, setMade] = useState(0);
  if (!data || !me) return <Waiting error={error} />;
  const { today } = me.company;
  const row = data.rows[selected] ?? null;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Events</h1>
        <PlanningWays />
        <span className="quiet">on these days what was wanted does not tell what is wanted otherwise</span>
      </PageHead>
      <Split>
        <Stack>
          <ListTable
            label="Events"
            rows={data.rows}
            keyOf={({ id }) => id}
            selected={selected}
            select={setSelected}
            open={() => undefined}
            columns={[
              { name: 'Event', text: ({ name }) => name, cell: ({ name }) => <b>{name}</b> },
              {
                name: 'Days',
                cell: ({ startsOn, endsOn }) =>
                  startsOn === endsOn ? shortDay(startsOn, today) : `${shortDay(startsOn, today)} to ${shortDay(endsOn, today)}`,
              },
              { name: 'Of', cell: (event) => ofWhat(event) },
              { name: 'Counts', cell: ({ counts }) => (counts ? 'yes' : <span className="quiet">no</span>) },
            ]}
            empty="No event yet. A fair or a promotion is marked beside this list; then its days do not count for what is suggested."
          />
          {may && row !== null ? (
            <span>
              <Button size="small" onClick={() => setSelected(-1)}>
                Add an event
              </Button>
            </span>
          ) : null}
        </Stack>
        {may || row !== null ? (
          <EventForm
            key={row?.id ?? `new ${made}`}
            row={row}
            today={today}
            may={may}
            done={() => {
              setSelected(-1);
              setMade(made + 1);
            }}
          />
        ) : null}
      </Split>
    </Stack>
  );
}

const ofWhat = ({ sku, category, site }: Event): string => [sku ?? category ?? 'all items', site === null ? 'at all sites' : `at ${site}`].join(' ');

function EventForm({ row, today, may, done }: { row: Event | null; today: string; may: boolean; done: () => void }) {
  const say = useSay();
  const { data: reference } = useReferenceQuery({});
  const [create] = useCreateEventMutation();
  const [change] = useChangeEventMutation();
  const [drop] = useDropEventMutation();
  const form = useForm({
    came: {
      name: row?.name ?? '',
      startsOn: row?.startsOn ?? null,
      endsOn: row?.endsOn ?? null,
      siteId: row?.siteId ?? null,
      categoryId: row?.categoryId ?? null,
      item: row?.itemId && row.sku ? { id: row.itemId, sku: row.sku } : null,
      counts: row?.counts ?? false,
    } as EventDraft,
    // One day is said once.
    body: ({ item, startsOn, endsOn, ...typed }: EventDraft) => ({
      ...typed,
      startsOn: startsOn ?? '',
      endsOn: endsOn ?? startsOn ?? '',
      itemId: item?.id ?? null,
    }),
    checkedBy: async () => (await import('@larder/contract/levels')).createEvent.body,
    sentAs: { itemId: 'item' },
  });
  const save = async () => {
    const kept = await form.send(async (body, typed) => {
      const { data, error } = await (row ? change({ params: { id: row.id }, body }) : create({ body }));
      if (data) form.kept(typed, 0);
      return { data: data && true, error };
    });
    if (!kept) return;
    say({ text: `${form.getValues().name} is kept. Look at the past anew to have it count, or not.` });
    if (!row) done();
  };
  const remove = async () => {
    if (!row || !(await form.send(() => drop({ params: { id: row.id } })))) return;
    say({ text: `${row.name} is removed; its days count.` });
    done();
  };
  const title = row?.name ?? 'New event';
  return (
    <FormFrame form={form} save={() => may && void save()}>
      <ReadOnly value={!may}>
        <Card aria-label={title}>
          <h2>{title}</h2>
          <Stack pad>
            <Refused error={form.refused} />
            <Field label="Name" name="name" placeholder="Harbour fair" autoFocus={row === null} />
            <Fields sx={{ gridTemplateColumns: '1fr 1fr' }}>
              <Day label="From" name="startsOn" today={today} lies="behind" />
              <Day label="To" name="endsOn" today={today} lies="behind" />
            </Fields>
            <Choice
              label="At"
              name="siteId"
              ids
              none="All sites"
              options={(reference?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Choice
              label="Category"
              name="categoryId"
              ids
              none="All items"
              options={(reference?.categories ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <OfItem />
            <Check label="Its days count all the same" name="counts" />
          </Stack>
        </Card>
        <BottomBar next={may ? { label: row ? `Save ${row.name}` : 'Add the event', run: () => void save(), disabled: form.isBusy } : undefined}>
          {row && may ? <Button onClick={() => void remove()}>Remove {row.name}</Button> : null}
        </BottomBar>
      </ReadOnly>
    </FormFrame>
  );
}

/** Of one item only, where somebody says so. */
function OfItem() {
  const { field } = useController<EventDraft, 'item'>({ name: 'item' });
  if (field.value === null) return <LineEntry label="Only of one item" takesScans={false} add={({ id, sku }) => field.onChange({ id, sku })} />;
  return (
    <Box component="span" sx={{ display: 'flex', gap: 10, alignItems: 'center' }}>
      Only of <span className="code">{field.value.sku}</span>
      <Button size="small" onClick={() => field.onChange(null)}>
        Of all
      </Button>
    </Box>
  );
}
