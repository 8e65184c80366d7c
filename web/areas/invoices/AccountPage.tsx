import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Statement } from '@larder/contract/invoices';
import { useWatch } from 'react-hook-form';
import { Link, useParams } from 'react-router';
import { useAddress, type Address } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { Due } from '../../kit/Due';
import { Choice } from '../../kit/Field';
import { amount, shortDay } from '../../kit/format';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useStatementQuery } from './api';
import { MoneyCard, useMoney } from './MoneyCard';

/** The account of a customer: what was invoiced, credited and paid between two days, what is open, and what they pay now. */
export function AccountPage() {
  const { id = '' } = useParams();
  const address = useAddress();
  const query = {
    partyId: Number(id),
    currency: address.get('currency') || undefined,
    from: address.get('from') || undefined,
    to: address.get('to') || undefined,
  };
  const { currentData: data, error } = useStatementQuery({ query });
  const { data: me } = useMeQuery({});
  useTitle(data ? `Account of ${data.party}` : 'Account');
  if (!data || !me) return <Waiting error={error} />;
  return <Account account={data} address={address} today={me.company.today} own={me.company.currency} />;
}

interface AccountProps {
  account: Statement;
  address: Address;
  today: string;
  own: string;
}

function Account({ account, address, today, own }: AccountProps) {
  const { partyId, party, currency, currencies, from, to, open } = account;
  const owing = open.filter((one) => Number(one.open) > 0).map((one) => ({ ...one, currency }));
  const money = useMoney({ invoices: owing, today });
  const mayPay = useMay('books.pay', null) && owing.length > 0;
  const paying = useWatch({ control: money.form.control, name: 'amount' });
  const paper = new URLSearchParams({ partyId: String(partyId), currency, from, to });
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{party}</h1>
          <span className="quiet">owes {`${amount(account.balance)} ${currency}`}</span>
          <Side>
            {currencies.length > 1 ? (
              <Box sx={{ width: 100 }}>
                <Choice
                  label="Currency"
                  value={currency}
                  onChange={(next) => address.put('currency', next)}
                  options={currencies.map((one) => ({ value: one, label: one }))}
                />
              </Box>
            ) : null}
            <Box sx={{ width: 150 }}>
              <DayField label="From" lies="behind" value={from} today={today} onChange={(day) => address.put('from', day ?? '')} />
            </Box>
            <Box sx={{ width: 150 }}>
              <DayField label="to" lies="behind" value={to} today={today} onChange={(day) => address.put('to', day ?? '')} />
            </Box>
          </Side>
        </PageHead>
        <Happened account={account} today={today} />
        {open.length > 0 ? <Open account={account} today={today} /> : null}
      </Stack>
      <Stack>{mayPay ? <MoneyCard money={money} today={today} own={own} title="Payment" /> : null}</Stack>
      <BottomBar
        hint="Money pays the invoices that are due first"
        next={mayPay ? { label: `Record payment of ${paying}`, run: () => void money.record(), disabled: money.form.isBusy } : undefined}
      >
        <Button component="a" href={`/api/invoices/statement/paper?${paper.toString()}`} target="_blank" rel="noreferrer">
          Statement as PDF
        </Button>
        <Button component={Link} to={`/outbound/customers/${partyId}`}>
          Customer
        </Button>
      </BottomBar>
    </Split>
  );
}

const Happened = ({ account: { before, rows, balance, from, to }, today }: { account: Statement; today: string }) => (
  <Card aria-label="Account">
    <Table aria-label="Account">
      <TableHead>
        <TableRow>
          <TableCell>Day</TableCell>
          <TableCell>What</TableCell>
          <TableCell align="right">Amount</TableCell>
          <TableCell align="right">Owed</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        <TableRow>
          <TableCell className="quiet">{shortDay(from, today)}</TableCell>
          <TableCell className="quiet">Owed before</TableCell>
          <TableCell />
          <TableCell align="right">{amount(before)}</TableCell>
        </TableRow>
        {rows.map((row, index) => (
          <TableRow key={index}>
            <TableCell>{shortDay(row.day, today)}</TableCell>
            <TableCell>{row.id === null ? row.text : <Link to={`/books/invoices/${row.id}`}>{row.text}</Link>}</TableCell>
            <TableCell align="right">{amount(row.amount)}</TableCell>
            <TableCell align="right">{amount(row.balance)}</TableCell>
          </TableRow>
        ))}
        <TableRow>
          <TableCell className="quiet">{shortDay(to, today)}</TableCell>
          <TableCell className="strong">Owed</TableCell>
          <TableCell />
          <TableCell align="right" className="strong">
            {amount(balance)}
          </TableCell>
        </TableRow>
      </TableBody>
    </Table>
  </Card>
);

const Open = ({ account: { open, currency }, today }: { account: Statement; today: string }) => (
  <Card aria-label="Open invoices">
    <h2>Open now</h2>
    <Table aria-label="Open invoices">
      <TableBody>
        {open.map((one) => (
          <TableRow key={one.id}>
            <TableCell>
              <Link className="code strong" to={`/books/invoices/${one.id}`}>
                {one.number}
              </Link>
            </TableCell>
            <TableCell>
              <Due day={one.dueOn} today={today} late={one.late} />
            </TableCell>
            <TableCell align="right">
              {amount(one.open)} {currency}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);
