import Button from '@mui/material/Button';
import type { Bill } from '@larder/contract/bills';
import { useForm, type Form } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { usePayMutation, useUndoPaymentMutation } from './api';

interface PayForm {
  paidOn: string;
  amount: string;
  rate: string;
}
const { Day, Field } = fieldsOf<PayForm>();

export interface Paying {
  form: Form<PayForm>;
  /** Records what was typed; `over` when the person has said that it is more than is open. */
  record: (over?: boolean) => Promise<void>;
}

/** A payment of a bill while it is typed: all that is open, today, at the bill's rate, until somebody says otherwise. */
export function usePaying(bill: Bill, today: string): Paying {
  const [pay] = usePayMutation();
  const [undo] = useUndoPaymentMutation();
  const say = useSay();
  const version = bill.payments.filter(({ undone }) => !undone).length;
  const form = useForm({
    came: { paidOn: today, amount: bill.open, rate: bill.rate },
    // What is open is another amount after each payment.
    version,
    body: (typed: PayForm) => ({ ...typed, amount: typed.amount.trim(), rate: typed.rate.trim() }),
    checkedBy: async () => (await import('@larder/contract/bills')).pay.body,
  });
  const record = async (over = false) => {
    const typed = form.getValues();
    const paid = await form.send((body) => pay({ params: { id: bill.id }, body: { ...body, over } }));
    if (!paid) return;
    form.kept(typed, version + 1);
    const id = paid.paymentId;
    say({
      text: `${amount(typed.amount)} ${bill.currency} of ${bill.number} is recorded as paid.`,
      ...(id === null ? {} : { undo: { run: () => void undo({ params: { id }, body: {} }) } }),
    });
  };
  return { form, record };
}

interface PayCardProps {
  bill: Bill;
  today: string;
  /** The company's currency. */
  own: string;
  pay: Paying;
}

/** What is paid now of a bill, or came back of a credit. */
export function PayCard({ bill, today, own, pay: { form, record } }: PayCardProps) {
  return (
    <FormFrame form={form} save={() => void record()}>
      <Card aria-label="Pay">
        <h2>{bill.kind === 'bill' ? 'Pay' : 'Money back'}</h2>
        <Stack pad>
          {form.refused && form.refused.errors.length === 0 ? <Refused error={form.refused} /> : null}
          <Day label="Paid on" lies="behind" name="paidOn" today={today} needed proposed={today} />
          <Field label={`Amount, ${bill.currency}`} name="amount" />
          {bill.currency === own ? null : <Field label={`${own} for one ${bill.currency} that day`} name="rate" />}
          {form.refused?.asks.includes('over') ? (
            <Button disabled={form.isBusy} onClick={() => void record(true)}>
              Pay more than is open
            </Button>
          ) : null}
        </Stack>
      </Card>
    </FormFrame>
  );
}
