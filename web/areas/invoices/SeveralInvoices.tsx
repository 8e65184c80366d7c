import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount, count } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused } from '../../kit/states';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useSay } from '../../shared/say';
import { useCreateInvoicesMutation, useForeseeInvoicesQuery } from './api';

interface SeveralForm {
  each: 'customer' | 'order' | 'dispatch';
  invoicedOn: string;
}
const { Choice, Day } = fieldsOf<SeveralForm>();

/** Several invoices at once, all of what went out as it was agreed: they are shown before any is issued. */
export function SeveralInvoices({ orderIds, today }: { orderIds: number[]; today: string }) {
  const navigate = useNavigate();
  const say = useSay();
  const [create] = useCreateInvoicesMutation();
  const form = useForm({
    came: { each: 'customer', invoicedOn: today } as SeveralForm,
    body: (typed: SeveralForm) => ({ ...typed, orderIds }),
    checkedBy: async () => (await import('@larder/contract/invoices')).createInvoices.body,
  });
  const typed = useWatch({ control: form.control }) as SeveralForm;
  const { currentData: foreseen, error } = useForeseeInvoicesQuery({ body: { ...typed, orderIds } });
  const issue = async () => {
    const made = await form.send((body) => create({ body }));
    if (!made) return;
    say({ text: `${count(made.invoices.length, 'invoice')} issued.` });
    void navigate('/books/invoices?show=all');
  };
  const many = foreseen?.invoices.length ?? 0;
  return (
    <FormFrame form={form} save={() => void issue()} foreseen={problemOf(error)} fleeting>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>New invoices</h1>
            <span className="quiet">for {count(orderIds.length, 'order')}</span>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad fields aria-label="Invoices">
            <Choice
              label="One for each"
              name="each"
              options={[
                { value: 'customer', label: 'customer' },
                { value: 'order', label: 'order' },
                { value: 'dispatch', label: 'dispatch' },
              ]}
            />
            <Day label="Dated" lies="behind" name="invoicedOn" today={today} needed proposed={today} />
          </Card>
          <Card aria-label="What is issued">
            <Table aria-label="What is issued">
              <TableHead>
                <TableRow>
                  <TableCell>To</TableCell>
                  <TableCell align="right">With tax</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {(foreseen?.invoices ?? []).map((one, index) => (
                  <TableRow key={index}>
                    <TableCell>{one.party}</TableCell>
                    <TableCell align="right">
                      {amount(one.total)} {one.currency}
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
        </Stack>
        <BookEffectPanel title="What this will change" effects={foreseen} error={error} idle="One moment…" />
        <BottomBar
          hint="Each is numbered as it is issued"
          next={{ label: many === 0 ? 'Issue the invoices' : `Issue ${count(many, 'invoice')}`, run: () => void issue(), disabled: form.isBusy || many === 0 }}
        />
      </Split>
    </FormFrame>
  );
}
