import Button from '@mui/material/Button';
import type { LevelFilter, LevelRow, setLevels } from '@larder/contract/levels';
import type { BodyOf } from '@larder/contract/endpoint';
import { useState } from 'react';
import { useForm } from '../../kit/form';
import { fieldsOf, orNone, wholeOrNone } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, Fields, Stack, Ways } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { usePartiesQuery, useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useDecideLevelsMutation, useSetLevelsMutation } from './api';
import { RefuseLevels } from './RefuseLevels';

type Set = BodyOf<typeof setLevels>['set'];
interface SetForm {
  reorderPoint: string | null;
  orderUpTo: string | null;
  coverDays: number | null;
  packSize: string | null;
  way: string;
}
const { Field, Choice } = fieldsOf<SetForm>();
const nothing: SetForm = { reorderPoint: null, orderUpTo: null, coverDays: null, packSize: null, way: '' };
/** What was typed; what was not stays as it is. */
const given = (typed: SetForm): Set => Object.fromEntries(Object.entries(typed).filter(([, value]) => value !== null && value !== ''));

interface BulkLevelsProps {
  rows: readonly LevelRow[];
  /** Instead of chosen ones: all of a list. */
  all: { filter: LevelFilter; count: number } | null;
  done: () => void;
}

/** What can be done with the levels of several items at once: take what is suggested, refuse it, or set the same on all. */
export function BulkLevels({ rows, all, done }: BulkLevelsProps) {
  const say = useSay();
  const [decide, { error, isLoading }] = useDecideLevelsMutation();
  const [refusing, setRefusing] = useState(false);
  const suggested = rows.filter((row) => row.suggested !== null);
  const many = all ? all.count : suggested.length;
  const accept = async () => {
    const body = all
      ? { decision: 'accept' as const, rows: null, filter: all.filter }
      : { decision: 'accept' as const, rows: suggested.map(({ itemId, siteId }) => ({ itemId, siteId })) };
    const { data } = await decide({ body });
    if (!data) return;
    say({ text: `${count(data.count, 'level')} taken as suggested.` });
    done();
  };
  return (
    <Card component="aside" aria-label={all ? 'All that are shown' : 'Chosen levels'}>
      <h2>
        {all ? `All ${count(all.count, 'suggestion')} shown` : `${count(rows.length, 'level')} chosen`}
        <span>{all ? 'on all pages of the list' : 'Space chooses, with Shift several'}</span>
      </h2>
      <Stack pad>
        <Refused error={error} />
        {many > 0 ? (
          <Ways>
            <Button variant="contained" disabled={isLoading} onClick={() => void accept()}>
              Accept {count(many, 'suggestion')}
            </Button>
            {all ? <Button onClick={done}>Not now</Button> : <Button onClick={() => setRefusing(true)}>Refuse…</Button>}
          </Ways>
        ) : (
          <p className="quiet">Nothing is suggested for these.</p>
        )}
        {all ? null : <SetSame key={rows.length} rows={rows} done={done} />}
      </Stack>
      {refusing ? (
        <RefuseLevels
          rows={suggested}
          close={(refused) => {
            setRefusing(false);
            if (refused) done();
          }}
        />
      ) : null}
    </Card>
  );
}

/** Sets the same on all that are chosen; a field that is left empty changes nothing. */
function SetSame({ rows, done }: { rows: readonly LevelRow[]; done: () => void }) {
  const say = useSay();
  const [set] = useSetLevelsMutation();
  const { data: reference } = useReferenceQuery({});
  const { data: suppliers } = usePartiesQuery({ query: { as: 'supplier' } });
  const form = useForm({
    came: nothing,
    body: (typed: SetForm) => ({ rows: rows.map(({ itemId, siteId }) => ({ itemId, siteId })), set: given(typed) }),
    checkedBy: async () => (await import('@larder/contract/levels')).setLevels.body,
    sentAs: (path) => path.replace(/^set\./, ''),
  });
  const save = async () => {
    if (!(await form.send((body) => set({ body })))) return;
    say({ text: `${count(rows.length, 'level')} set.` });
    done();
  };
  return (
    <FormFrame form={form} fleeting save={() => void save()}>
      <p className="quiet">Or set the same on all of them. What is left empty stays as it is on each.</p>
      <Refused error={form.refused} />
      <Fields sx={{ gridTemplateColumns: '1fr 1fr' }}>
        <Field label="Reorder point" name="reorderPoint" read={orNone} />
        <Field label="Order up to" name="orderUpTo" read={orNone} />
        <Field label="Days of cover" name="coverDays" read={wholeOrNone} />
        <Field label="Pack" name="packSize" read={orNone} />
      </Fields>
      <Choice
        label="More comes"
        name="way"
        none="As it is on each"
        options={[
          { value: 'best', label: 'By whatever is best' },
          { value: 'make', label: 'Made here' },
          { value: 'buy', label: 'Bought from its first supplier' },
          ...(suppliers?.rows ?? []).map(({ id, name }) => ({ value: `buy ${id}`, label: `Bought from ${name}` })),
          ...(reference?.sites ?? []).map(({ id, name }) => ({ value: `bring ${id}`, label: `Brought from ${name}` })),
        ]}
      />
      <Ways>
        <Button disabled={form.isBusy} onClick={() => void save()}>
          Set on {count(rows.length, 'level')}
        </Button>
      </Ways>
    </FormFrame>
  );
}
