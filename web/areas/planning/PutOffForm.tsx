import Button from '@mui/material/Button';
import type { TopUpRow } from '@larder/contract/planning';
import { addDays } from '@larder/core/day';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { shortDay } from '../../kit/format';
import { Card, Fields, Stack, Ways } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { usePutOffTopUpMutation } from './api';

interface Typed {
  until: string | null;
  reason: string;
}
const { Day, Field } = fieldsOf<Typed>();

/** Puts a proposal off until a day, with why, or takes it up again. */
export function PutOffForm({ row, today }: { row: TopUpRow; today: string }) {
  const say = useSay();
  const [putOff] = usePutOffTopUpMutation();
  const { itemId, siteId, sku } = row;
  const form = useForm({
    came: { until: row.putOff?.until ?? addDays(today, 7), reason: row.putOff?.reason ?? '' } as Typed,
    body: (typed: Typed) => ({ itemId, siteId, ...typed }),
    checkedBy: async () => (await import('@larder/contract/planning')).putOffTopUp.body,
  });
  const put = async () => {
    if (!(await form.send((body) => putOff({ body })))) return;
    say({ text: `${sku} at ${row.site} comes back on ${shortDay(form.getValues().until ?? today, today)}.` });
  };
  const takeUp = async () => {
    if (await form.send(() => putOff({ body: { itemId, siteId, until: null } }))) say({ text: `${sku} at ${row.site} is proposed again.` });
  };
  return (
    <Card aria-label={`Put off ${sku}`}>
      <FormFrame form={form} fleeting save={() => void put()}>
        <Stack pad>
          <Refused error={form.refused} />
          {row.putOff ? (
            <p className="quiet">
              Put off by {row.putOff.person} until {shortDay(row.putOff.until, today)}
              {row.putOff.reason === '' ? '' : `: ${row.putOff.reason}`}
            </p>
          ) : null}
          <Fields sx={{ gridTemplateColumns: '1fr 1fr' }}>
            <Day label="Until" name="until" today={today} />
            <Field label="Why" name="reason" />
          </Fields>
          <Ways>
            <Button disabled={form.isBusy} onClick={() => void put()}>
              Put off
            </Button>
            {row.putOff ? (
              <Button disabled={form.isBusy} onClick={() => void takeUp()}>
                Propose it again
              </Button>
            ) : null}
          </Ways>
        </Stack>
      </FormFrame>
    </Card>
  );
}
