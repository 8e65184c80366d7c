import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Side, Split, Stack, State } from '../../kit/layout';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { count, money } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useReceiptsQuery, useSheetsQuery } from './api';
import { BookTabs } from '../../shared/BookTabs';
import { FindField } from '../../kit/FindField';
import { ReceiptChoice } from './ReceiptChoice';

/** Landed cost: the worksheets there are, and the receipts a new one can be started on. */
export function LandedPage() {
  useTitle('Landed cost');
  const navigate = useNavigate();
  const mayBill = useMay('books.bill');
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const q = address.get('q');
  const { data: receipts, error } = useReceiptsQuery({ query: { q } });
  const { data: sheets } = useSheetsQuery({ query: { q } });
  const [chosen, setChosen] = useState<number[]>(() =>
    address
      .get('receipts')
      .split(',')
      .map(Number)
      .filter((id) => id > 0),
  );
  const today = me?.company.today ?? '';
  const toggle = (id: number) => setChosen(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id]);
  if (!receipts || !sheets) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <Side>
          <FindField address={address} label="Find receipts and worksheets" placeholder="Supplier, order, day" />
        </Side>
      </PageHead>
      <Split>
        <ReceiptChoice rows={receipts.rows} chosen={chosen} toggle={toggle} today={today} />
        <Card aria-label="Worksheets">
          <h2>Worksheets</h2>
          <Table aria-label="Worksheets">
            <TableBody>
              {sheets.rows.map((row) => (
                <TableRow key={row.id}>
                  <TableCell>
                    <Link className="code strong" to={`/books/landed/${row.id}`}>
                      {row.number}
                    </Link>
                    {row.undone ? <small className="late"> undone</small> : null}
                    <small className="quiet name">
                      {row.charges} on {row.deliveries}
                    </small>
                  </TableCell>
                  <TableCell align="right">
                    {money(row.estimate)}
                    <small className="quiet name">{Number(row.open) === 0 ? 'cleared' : `${money(row.open)} open`}</small>
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
          {sheets.rows.length === 0 ? <State>No worksheet yet.</State> : null}
        </Card>
      </Split>
      <BottomBar
        hint={chosen.length > 0 ? `${count(chosen.length, 'receipt')} chosen` : 'Choose one or several receipts'}
        next={
          mayBill
            ? {
                label: 'Start a landed cost worksheet',
                run: () => void navigate(`/books/landed/new?receipts=${chosen.join(',')}`),
                disabled: chosen.length === 0,
              }
            : undefined
        }
      />
    </Stack>
  );
}
