import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { amountText } from '@larder/core/books/currency';
import { sharedOut } from '@larder/core/books/payment';
import { decimal, sum, zero } from '@larder/core/decimal';
import { readNumber } from '@larder/core/number';
import { useWatch } from 'react-hook-form';
import { useForm, type Form } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount } from '../../kit/format';
import { Card, Stack } from '../../kit/layout';
import { useVersionOf } from '../../kit/row';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useRecordMoneyMutation, useUndoMoneyMutation } from './api';

interface MoneyForm {
  paidOn: string;
  amount: string;
  rate: string | null;
  note: string;
}
const { Day, Field } = fieldsOf<MoneyForm>();

/** An invoice as far as money is for it. */
interface OpenInvoice {
  id: number;
  number: string;
  open: string;
  currency: string;
}

export interface Money {
  form: Form<MoneyForm>;
  invoices: readonly OpenInvoice[];
  currency: string;
  /** Records what was typed; `over` when the person has said that it is more than is open. */
  record: (over?: boolean) => Promise<void>;
}

/** What of the money that is typed is for each invoice: the first that are due first. Below zero where it is paid back. */
function partsOf(typed: string, invoices: readonly OpenInvoice[], currency: string): { invoiceId: number; amount: string }[] {
  const total = readNumber(typed, 'amount') ?? zero;
  const [only] = invoices;
  const isBack = invoices.length === 1 && only !== undefined && Number(only.open) < 0;
  if (isBack) return [{ invoiceId: only.id, amount: amountText(currency, total.neg()) }];
  const open = invoices.map((one) => decimal(one.open));
  return sharedOut(total, open).flatMap((part, index) => (part.isZero() ? [] : [{ invoiceId: invoices[index]?.id ?? 0, amount: amountText(currency, part) }]));
}

/** Money of a customer while it is typed: all that is open, today, until somebody says otherwise. */
export function useMoney({ invoices, today }: { invoices: readonly OpenInvoice[]; today: string }): Money {
  const [recordMoney] = useRecordMoneyMutation();
  const [undo] = useUndoMoneyMutation();
  const say = useSay();
  const currency = invoices[0]?.currency ?? '';
  const open = sum(invoices.map((one) => decimal(one.open)));
  const version = useVersionOf(invoices.map((one) => [one.id, one.open]));
  const form = useForm({
    came: { paidOn: today, amount: amountText(currency, open.abs()), rate: null, note: '' } as MoneyForm,
    version,
    body: (typed: MoneyForm) => ({
      paidOn: typed.paidOn,
      rate: typed.rate === null ? null : typed.rate.trim(),
      note: typed.note,
      parts: partsOf(typed.amount, invoices, currency),
    }),
    checkedBy: async () => (await import('@larder/contract/invoices')).recordMoney.body,
    sentAs: (path) => (path.startsWith('parts') ? 'amount' : path),
  });
  const record = async (over = false) => {
    const typed = form.getValues();
    const done = await form.send((body) => recordMoney({ body: { ...body, over } }));
    if (!done) return;
    form.kept(typed, version + 1);
    const id = done.moneyId;
    say({
      text: `${amount(typed.amount)} ${currency} is recorded.`,
      ...(id === null ? {} : { undo: { run: () => void undo({ params: { id }, body: {} }) } }),
    });
  };
  return { form, invoices, currency, record };
}

interface MoneyCardProps {
  money: Money;
  today: string;
  own: string;
  title: string;
}

/** What a customer pays now, and which invoices that is for. */
export function MoneyCard({ money: { form, invoices, currency, record }, today, own, title }: MoneyCardProps) {
  const typed = useWatch({ control: form.control, name: 'amount' });
  const parts = invoices.length > 1 ? partsOf(typed, invoices, currency) : [];
  return (
    <FormFrame form={form} save={() => void record()}>
      <Card aria-label={title}>
        <h2>{title}</h2>
        <Stack pad>
          {form.refused && form.refused.errors.length === 0 ? <Refused error={form.refused} /> : null}
          <Day label="Paid on" lies="behind" name="paidOn" today={today} needed proposed={today} />
          <Field label={`Amount, ${currency}`} name="amount" />
          {currency === own ? null : <Field label={`${own} for one ${currency} that day`} name="rate" />}
          <Field label="Note" name="note" placeholder="by card, their slip…" />
          {form.refused?.asks.includes('over') ? (
            <Button disabled={form.isBusy} onClick={() => void record(true)}>
              Record more than is open
            </Button>
          ) : null}
        </Stack>
        {parts.length > 0 ? (
          <Table aria-label="What it is for" size="small">
            <TableBody>
              {parts.map((part) => (
                <TableRow key={part.invoiceId}>
                  <TableCell className="code">{invoices.find(({ id }) => id === part.invoiceId)?.number}</TableCell>
                  <TableCell align="right">{amount(part.amount)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        ) : null}
      </Card>
    </FormFrame>
  );
}
