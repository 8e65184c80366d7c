import Button from '@mui/material/Button';
import type { WorkOrder } from '@larder/contract/workOrders';
import { isNumber } from '@larder/core/number';
import { useEffect, useRef } from 'react';
import { useWatch } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { Clashes } from '../../shared/Clashes';
import { useSay } from '../../shared/say';
import { useChangeWorkOrderMutation } from './api';
import { BomCosts } from './BomCosts';
import { changeBody, followed, workDraft, workField, workRowKeys, type WorkDraft } from './workForm';
import { WorkParts } from './WorkParts';

const { Day, Field, LongField } = fieldsOf<WorkDraft>();
const names = {
  quantity: 'how many',
  startsOn: 'the day it starts',
  dueOn: 'the day it is due',
  steps: 'the steps',
  note: 'the note',
  components: 'the same part',
};

/** Changes how many are made, of what and when, for this order only. */
export function WorkChange({ one, today, done }: { one: WorkOrder; today: string; done: () => void }) {
  const say = useSay();
  const [change] = useChangeWorkOrderMutation();
  const form = useForm({
    came: workDraft(one),
    version: one.version,
    rowKeys: workRowKeys,
    body: (typed: WorkDraft) => changeBody(typed, one.version),
    checkedBy: async () => (await import('@larder/contract/workOrders')).changeWorkOrder.body,
    sentAs: workField,
  });
  const quantity = useWatch({ control: form.control, name: 'quantity' });
  // For how many the parts and costs stand that nobody typed.
  const standFor = useRef(one.quantity);
  useEffect(() => {
    const now = quantity.trim();
    if (!isNumber(now, 'quantity') || Number(now) <= 0 || now === standFor.current) return;
    const { components, costs } = followed(one, form.getValues(), standFor.current, now);
    standFor.current = now;
    form.setValue('components', components, { shouldDirty: true });
    form.setValue('costs', costs, { shouldDirty: true });
  }, [quantity, one, form]);
  const save = async () => {
    const sent = await form.send((body, _typed, version) => change({ params: { id: one.id }, body: { ...body, version } }));
    if (!sent) return;
    say({ text: `${one.number} is changed.` });
    done();
  };
  return (
    <FormFrame form={form} save={() => void save()}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Change {one.number}</h1>
            <span className="quiet">the bill of materials stays as it is</span>
          </PageHead>
          <Refused error={form.refused} />
          <Clashes of={{ kind: 'work order', id: one.id }} writing={form} names={names} />
          <Card pad fields aria-label="Work order">
            <Field label="How many" name="quantity" />
            <Day label="Starts" name="startsOn" today={today} needed proposed={one.startsOn} />
            <Day label="Due" name="dueOn" today={today} needed proposed={one.dueOn} />
          </Card>
          <WorkParts />
          <BomCosts />
          <Card pad stack aria-label="Steps and note">
            <LongField label="Steps, for the job sheet" name="steps" rows={4} />
            <LongField label="Note" name="note" rows={2} />
          </Card>
        </Stack>
        <Card pad component="aside">
          What is changed here holds for {one.number} only. Its parts and costs follow how many are made, as far as they were not typed. Parts that were taken
          stay until they are brought back.
        </Card>
        <BottomBar next={{ label: `Save ${one.number}`, run: () => void save(), disabled: form.isBusy || !form.isTyped }}>
          <Button onClick={done}>Back to the work order</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
