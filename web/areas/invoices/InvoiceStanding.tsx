import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { Invoice } from '@larder/contract/invoices';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { amount, due, moment, money, shortDay } from '../../kit/format';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useHandOverInvoiceMutation, useUndoMoneyMutation } from './api';
import { IssuedLines } from './InvoiceLines';
import { MoneyCard, useMoney } from './MoneyCard';
import { TotalsOf } from './TotalsOf';

interface StandingProps {
  invoice: Invoice;
  today: string;
  /** The company's currency. */
  own: string;
}

/** An invoice that was issued: its lines, how it is paid, and what was credited. */
export function InvoiceStanding({ invoice, today, own }: StandingProps) {
  const isInvoice = invoice.kind === 'invoice';
  const owes = Number(invoice.open) > 0;
  const isOver = Number(invoice.open) < 0;
  const say = useSay();
  const mayPay = useMay('books.pay', null) && isInvoice && (owes || isOver);
  const [handOver, handing] = useHandOverInvoiceMutation();
  const pay = useMoney({ invoices: [invoice], today });
  const paying = useWatch({ control: pay.form.control, name: 'amount' });
  const { refused, busy } = refusalOf(handing);
  const params = { id: invoice.id };
  const recording = { label: `Record ${isOver ? 'money back' : 'payment'} of ${paying}`, run: () => void pay.record(), disabled: pay.form.isBusy };
  const navigate = useNavigate();
  const note = async (handedOver: boolean) => {
    if ((await handOver({ params, body: { handedOver } })).error) return;
    say({
      text: handedOver ? `${invoice.number} is noted as handed over without mail.` : `${invoice.number} is not handed over.`,
      ...(handedOver ? { undo: { run: () => void note(false) } } : {}),
    });
  };
  const canCredit = isInvoice && invoice.lines.some(({ left }) => Number(left.amount) > 0 || Number(left.quantity ?? 0) > 0);
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{invoice.number}</h1>
          <span>{invoice.party}</span>
          <span className="quiet">
            {isInvoice ? 'invoice' : 'credit note'} of {shortDay(invoice.invoicedOn, today)}
            {invoice.reference === '' ? '' : `, their order ${invoice.reference}`}
          </span>
          <Side>
            <span className={invoice.late ? 'late' : ''}>
              {isInvoice ? invoice.state : ''}
              {owes ? `, due ${due(invoice.dueOn, today)}` : ''}
            </span>
          </Side>
        </PageHead>
        <Refused error={refused} />
        {invoice.opening === '' ? null : <p>{invoice.opening}</p>}
        <IssuedLines lines={invoice.lines} currency={invoice.currency} />
        <TotalsOf of={invoice} />
        {invoice.closing === '' ? null : <p className="quiet">{invoice.closing}</p>}
        <Payments invoice={invoice} today={today} />
      </Stack>
      <Stack>
        {mayPay ? <MoneyCard money={pay} today={today} own={own} title={isOver ? 'Pay back' : 'Payment'} /> : null}
        <About invoice={invoice} today={today} />
        <BookEffectPanel title="What this did" effects={invoice} idle="" />
      </Stack>
      <BottomBar
        next={
          invoice.handedOver
            ? mayPay
              ? recording
              : undefined
            : { label: `Send ${invoice.number}`, run: () => void navigate(`/books/invoices/${invoice.id}/send`) }
        }
      >
        <Button component="a" href={`/api/invoices/${invoice.id}/paper`} target="_blank" rel="noreferrer">
          PDF
        </Button>
        {invoice.handedOver ? (
          <Button component={Link} to={`/books/invoices/${invoice.id}/send`}>
            Send again
          </Button>
        ) : null}
        {mayPay && !invoice.handedOver ? <Button onClick={recording.run}>{recording.label}</Button> : null}
        {invoice.handedOver ? null : (
          <Button disabled={busy} onClick={() => void note(true)}>
            Handed over without mail
          </Button>
        )}
        {canCredit ? (
          <Button component={Link} to={`/books/invoices/${invoice.id}/credit`}>
            Credit
          </Button>
        ) : null}
      </BottomBar>
    </Split>
  );
}

/** Which orders it is for, whether it has come to the customer, and what was credited. */
const About = ({ invoice, today }: { invoice: Invoice; today: string }) => (
  <Card aria-label="About it">
    <h2>{invoice.address.split('\n')[0]}</h2>
    <Stack pad>
      <div>
        {invoice.address
          .split('\n')
          .slice(1)
          .map((line, index) => (
            <div key={index}>{line}</div>
          ))}
      </div>
      <div>
        {invoice.orderRefs.map(({ id, number }) => (
          <div key={id}>
            Order{' '}
            <Link className="code" to={`/outbound/orders/${id}`}>
              {number}
            </Link>
          </div>
        ))}
        {invoice.credits ? (
          <div>
            On invoice{' '}
            <Link className="code" to={`/books/invoices/${invoice.credits.id}`}>
              {invoice.credits.number}
            </Link>
          </div>
        ) : null}
        {invoice.creditNotes.map((note) => (
          <div key={note.id}>
            Credit note{' '}
            <Link className="code" to={`/books/invoices/${note.id}`}>
              {note.number}
            </Link>{' '}
            of {shortDay(note.invoicedOn, today)}: {amount(note.total)}
          </div>
        ))}
        <div>
          <Link to={`/books/debtors/${invoice.partyId}?currency=${invoice.currency}`}>Account of {invoice.party}</Link>
        </div>
      </div>
      <div>
        <a href={`/api/ubl/invoices/${invoice.id}`} download>
          {invoice.kind === 'credit' ? 'Credit note' : 'Invoice'} as UBL
        </a>
      </div>
      <div className="quiet">{invoice.handedOverAt === null ? 'It has not gone to the customer yet.' : `Handed over ${moment(invoice.handedOverAt)}.`}</div>
    </Stack>
  </Card>
);

/** What was paid of an invoice; each payment can be undone. */
function Payments({ invoice, today }: { invoice: Invoice; today: string }) {
  const [undo, undoing] = useUndoMoneyMutation();
  const say = useSay();
  const mayPay = useMay('books.pay', null);
  const { refused } = refusalOf(undoing);
  if (invoice.payments.length === 0) return null;
  const takeBack = async (id: number) => {
    if (!(await undo({ params: { id }, body: {} })).error) say({ text: 'The payment is undone.' });
  };
  return (
    <Card aria-label="Payments">
      <h2>Payments</h2>
      <Refused error={refused} />
      <Table aria-label="Payments">
        <TableBody>
          {invoice.payments.map((one) => (
            <TableRow key={one.id}>
              <TableCell>
                {shortDay(one.paidOn, today)} {one.undone ? <small className="late">undone</small> : null}
                {one.note === '' ? null : <small className="quiet name">{one.note}</small>}
                {one.others.length === 0 ? null : <small className="quiet name">with {one.others.join(', ')}</small>}
                {Number(one.exchange) === 0 ? null : <small className="quiet name">{money(one.exchange)} exchange difference</small>}
              </TableCell>
              <TableCell align="right">{amount(one.amount)}</TableCell>
              <TableCell align="right">
                {one.undone || !mayPay ? null : (
                  <Button size="small" disabled={undoing.isLoading} aria-label={`Undo payment of ${amount(one.amount)}`} onClick={() => void takeBack(one.id)}>
                    Undo
                  </Button>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
