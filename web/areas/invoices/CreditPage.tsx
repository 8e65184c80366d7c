import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Invoice } from '@larder/contract/invoices';
import { useWatch } from 'react-hook-form';
import { useNavigate, useParams } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount, quantity } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { sentRow } from '../../kit/row';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useCreditInvoiceMutation, useForeseeCreditQuery, useInvoiceQuery } from './api';
import { TotalsOf } from './TotalsOf';

/** A credit note on an invoice. */
export function CreditPage() {
  const { id = '' } = useParams();
  const { currentData: data, error } = useInvoiceQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  const address = useAddress();
  useTitle(data ? `Credit ${data.number}` : 'Credit');
  if (!data || !me) return <Waiting error={error} />;
  return <CreditSheet invoice={data} today={me.company.today} meant={meantIn(address.get('lines'))} because={address.get('because')} />;
}

/** What somebody came here to credit, as the address says it: so many of each line. */
const meantIn = (text: string): Map<number, string> =>
  new Map(
    text
      .split(',')
      .filter(Boolean)
      .map((part) => part.split(':'))
      .map(([id, many = '']) => [Number(id), many]),
  );

interface CreditRow {
  lineId: number;
  quantity: string;
  amount: string;
}
interface CreditForm {
  invoicedOn: string;
  opening: string;
  rows: CreditRow[];
}
const { Cell, Day, LongField } = fieldsOf<CreditForm>();

const isSaid = (row: CreditRow): boolean => row.quantity.trim() !== '' || row.amount.trim() !== '';
const orNull = (typed: string): string | null => (typed.trim() === '' ? null : typed.trim());
const sent = ({ invoicedOn, opening, rows }: CreditForm) => ({
  invoicedOn,
  opening,
  lines: rows.filter(isSaid).map((row) => ({ lineId: row.lineId, quantity: orNull(row.quantity), amount: orNull(row.amount) })),
});

interface SheetProps {
  invoice: Invoice;
  today: string;
  /** How many of each line stand in the form at first, and for which return. */
  meant: ReadonlyMap<number, string>;
  because: string;
}

/** So many of each line, or an amount off it; what it comes to is said before it is issued. */
function CreditSheet({ invoice, today, meant, because }: SheetProps) {
  const navigate = useNavigate();
  const say = useSay();
  const [create] = useCreditInvoiceMutation();
  const params = { id: invoice.id };
  const form = useForm({
    came: {
      invoicedOn: today,
      opening: because === '' ? '' : `For goods that came back, ${because}.`,
      rows: invoice.lines.map(({ id }) => ({ lineId: id, quantity: meant.get(id) ?? '', amount: '' })),
    } as CreditForm,
    body: sent,
    checkedBy: async () => (await import('@larder/contract/invoices')).creditInvoice.body,
    sentAs: (path, typed) => {
      const row = sentRow(path, 'lines', typed.rows, isSaid);
      return row ? `rows.${row.at}.${row.part}` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as CreditForm;
  const body = sent(typed);
  const asked = useDelayed(body, 250);
  const ready = asked.lines.length > 0;
  const { data: last, error } = useForeseeCreditQuery({ params, body: asked }, { skip: !ready });
  const foreseen = ready && !error ? last : undefined;
  const all = () =>
    invoice.lines.forEach(({ left }, at) => {
      const goods = left.quantity !== null && Number(left.quantity) > 0;
      form.setValue(`rows.${at}.quantity`, goods ? (left.quantity ?? '') : '', { shouldDirty: true });
      form.setValue(`rows.${at}.amount`, goods || Number(left.amount) === 0 ? '' : left.amount, { shouldDirty: true });
    });
  const issue = async () => {
    const made = await form.send((given) => create({ params, body: given }));
    if (!made?.id) return;
    say({ text: `${made.number ?? 'The credit note'} is issued.` });
    void navigate(`/books/invoices/${made.id}`, { replace: true });
  };
  return (
    <FormFrame form={form} save={() => void issue()} foreseen={problemOf(ready ? error : undefined)}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Credit {invoice.number}</h1>
            <span>{invoice.party}</span>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad fields aria-label="Credit note">
            <Day label="Dated" lies="behind" name="invoicedOn" today={today} needed proposed={today} />
            <LongField label="Why" name="opening" rows={2} />
          </Card>
          <Card aria-label="Lines">
            <Table aria-label="Lines">
              <TableHead>
                <TableRow>
                  <TableCell>What</TableCell>
                  <TableCell align="right" className="wide-only">
                    Left of it
                  </TableCell>
                  <TableCell align="right">How many</TableCell>
                  <TableCell align="right">Or an amount</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {invoice.lines.map((line, index) => (
                  <TableRow key={line.id}>
                    <TableCell>
                      {line.sku === '' ? null : <span className="code strong">{line.sku} </span>}
                      {line.text}
                    </TableCell>
                    <TableCell align="right" className="quiet wide-only">
                      {line.left.quantity === null ? '' : `${quantity(line.left.quantity)}${line.unit === 'each' ? '' : ` ${line.unit}`}, `}
                      {amount(line.left.amount)}
                    </TableCell>
                    <TableCell align="right">
                      {line.left.quantity === null ? null : <Cell number width={68} label={`How many of line ${index + 1}`} name={`rows.${index}.quantity`} />}
                    </TableCell>
                    <TableCell align="right">
                      <Cell number width={84} label={`Amount off line ${index + 1}`} name={`rows.${index}.amount`} />
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
          {foreseen ? <TotalsOf of={foreseen} /> : null}
          <p className="quiet">What is credited by how many can be invoiced again; an amount only takes off the price.</p>
        </Stack>
        <BookEffectPanel title="What this will change" effects={foreseen} error={ready ? error : undefined} idle="Say how many are credited, or an amount." />
        <BottomBar
          next={{
            label: foreseen ? `Issue credit note of ${amount(foreseen.total)} ${invoice.currency}` : 'Issue the credit note',
            run: () => void issue(),
            disabled: form.isBusy || body.lines.length === 0,
          }}
        >
          <Button onClick={all}>Credit all of it</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
