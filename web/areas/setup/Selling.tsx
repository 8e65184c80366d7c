import type { reference } from '@larder/contract/setup';
import type { ResponseOf } from '@larder/contract/endpoint';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf, ReadOnly, wholeOrNone } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, Stack } from '../../kit/layout';
import { useVersionOf } from '../../kit/row';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useEditCompanyMutation } from './api';

interface SellingForm {
  shipDays: number;
  quoteDays: number;
}
const { Field } = fieldsOf<SellingForm>();

/** What the business promises its customers: in how many days an order ships, and how long the prices of a quote hold. */
export function Selling({ now }: { now: ResponseOf<typeof reference> }) {
  const may = useMay('setup.edit', null);
  const say = useSay();
  const [edit] = useEditCompanyMutation();
  const came = { shipDays: now.shipDays, quoteDays: now.quoteDays };
  const form = useForm({
    came,
    version: useVersionOf(came),
    body: (typed: SellingForm) => typed,
    checkedBy: async () => (await import('@larder/contract/setup')).editCompany.body,
  });
  const save = async () => {
    const kept = await form.send(async (body, typed, version) => {
      const result = await edit({ body });
      if (result.data) form.kept(typed, version);
      return result;
    });
    if (kept) say({ text: 'What is promised to customers is kept.' });
  };
  return (
    <FormFrame form={form} save={() => may && void save()}>
      <ReadOnly value={!may}>
        <Card aria-label="Selling">
          <h2>Selling</h2>
          <Stack pad sx={{ maxWidth: 460 }}>
            <Refused error={form.refused} />
            <Field label="Days until an order ships" name="shipDays" read={wholeOrNone} />
            <Field label="Days through which the prices of a quote are offered" name="quoteDays" read={wholeOrNone} />
            <p className="quiet">Both are proposed on a new quote; on each another day can be typed.</p>
          </Stack>
        </Card>
        <BottomBar next={may ? { label: 'Save selling', run: () => void save(), disabled: form.isBusy } : undefined} />
      </ReadOnly>
    </FormFrame>
  );
}
