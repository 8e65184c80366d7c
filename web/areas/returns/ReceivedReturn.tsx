import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { CustomerReturn } from '@larder/contract/returns';
import { Link, useNavigate } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { count, moment, money, quantity, shortDay } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useMay, useSeesCosts } from '../../shared/may';
import { useSay } from '../../shared/say';
import { UndoButton } from '../../shared/UndoButton';
import { useDiscardReturnMutation } from './api';
import { conditionWords } from './conditionWords';

type ToCredit = CustomerReturn['toCredit'][number];

/** Where a credit note is written for goods that came back. */
const creditAt = ({ invoiceId, lines }: ToCredit, number: string): string =>
  `/books/invoices/${invoiceId}/credit?${new URLSearchParams({ lines: lines.map(({ lineId, quantity: many }) => `${lineId}:${many}`).join(','), because: number })}`;

/** A return that was received, or discarded: what came back, where it went, and what is to be credited of it. */
export function ReceivedReturn({ one, today }: { one: CustomerReturn; today: string }) {
  const navigate = useNavigate();
  const say = useSay();
  const [discard, discarding] = useDiscardReturnMutation();
  const mayCredit = useMay('books.invoice', null);
  const mayReturn = useMay('outbound.return', one.siteId);
  const seesCosts = useSeesCosts();
  const isDiscarded = one.state === 'discarded';
  const { refused, busy } = refusalOf(discarding);
  const bringBack = async () => {
    if ((await discard({ params: { id: one.id }, body: { version: one.version, discarded: false } })).error) return;
    say({ text: `${one.number} waits for the goods again.` });
  };
  const [first] = mayCredit ? one.toCredit : [];
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Return {one.number}</h1>
          <Link to={`/outbound/customers/${one.customerId}`}>{one.customer}</Link>
          <span className="quiet">
            {isDiscarded ? 'discarded' : `came back on ${shortDay(one.cameOn, today)} to ${one.site}`}
            {one.reference === '' ? '' : `, their number ${one.reference}`}
          </span>
          <Side>{one.movementId === null ? null : <UndoButton movementId={one.movementId} what={one.number} />}</Side>
        </PageHead>
        <Refused error={refused} />
        <Card sheet component="div">
          <Table aria-label="What came back">
            <TableHead>
              <TableRow>
                <TableCell>Goods</TableCell>
                <TableCell className="wide-only">Order</TableCell>
                <TableCell align="right">Came back</TableCell>
                <TableCell>Why, and where to</TableCell>
                {seesCosts ? (
                  <TableCell align="right" className="wide-only">
                    At what it left for
                  </TableCell>
                ) : null}
              </TableRow>
            </TableHead>
            <TableBody>
              {one.lines.map((line) => (
                <TableRow key={line.id}>
                  <ItemCell of={line}>
                    <small className="quiet name phone-only">{line.order === '' ? 'sold before these records' : line.order}</small>
                    {line.lot === '' ? null : line.lotId === null ? (
                      <small className="quiet name">{line.lot}</small>
                    ) : (
                      <Link className="name" to={`/stock/lots/${line.lotId}`}>
                        {line.lot}
                      </Link>
                    )}
                  </ItemCell>
                  <TableCell className="wide-only">
                    {line.orderId === null ? (
                      <small className="quiet">sold before these records</small>
                    ) : (
                      <Link className="code" to={`/outbound/orders/${line.orderId}`}>
                        {line.order}
                      </Link>
                    )}
                  </TableCell>
                  <TableCell align="right">
                    {quantity(line.quantity)}
                    {line.unit === 'each' ? '' : ` ${line.unit}`}
                  </TableCell>
                  <TableCell>
                    {line.reason}
                    {line.note === '' ? null : `: ${line.note}`}
                    <small className="quiet name">
                      {conditionWords[line.condition]} <span className="code">{line.bin}</span>
                    </small>
                  </TableCell>
                  {seesCosts ? (
                    <TableCell align="right" className="wide-only">
                      {line.worth === '' ? '' : money(line.worth)}
                    </TableCell>
                  ) : null}
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
        {one.note === '' ? null : <p>{one.note}</p>}
      </Stack>
      <Stack>
        <Card aria-label="Credit">
          <h2>Credit</h2>
          <Stack pad>
            {isDiscarded ? <p className="quiet">Nothing came back.</p> : null}
            {!isDiscarded && one.toCredit.length === 0 ? (
              <p className="quiet">Nothing of this is invoiced beyond what {one.customer} has kept. What was not invoiced yet is not invoiced any more.</p>
            ) : null}
            {one.toCredit.map((of) => (
              <div key={of.invoiceId}>
                {of.lines.map(({ lineId, sku, quantity: many }) => (
                  <div key={lineId}>
                    {quantity(many)} of <span className="code">{sku}</span>
                  </div>
                ))}
                <span className="quiet">invoiced with </span>
                {mayCredit ? <Link to={`/books/invoices/${of.invoiceId}`}>{of.number}</Link> : of.number}
                <span className="quiet">, not credited yet</span>
              </div>
            ))}
          </Stack>
        </Card>
        <Card pad aria-label="Written">
          <span className="quiet">
            {one.person}, {moment(one.createdAt)}; {count(one.lines.length, 'line')}
          </span>
        </Card>
      </Stack>
      <BottomBar
        hint={isDiscarded ? undefined : one.toCredit.length > 0 && !mayCredit ? 'Whoever issues invoices credits it' : undefined}
        next={
          isDiscarded
            ? mayReturn
              ? { label: 'Expect it again', run: () => void bringBack(), disabled: busy }
              : undefined
            : first && { label: `Credit ${first.number}`, run: () => void navigate(creditAt(first, one.number)) }
        }
      >
        <Button component="a" href={`/api/returns/${one.id}/paper`} target="_blank" rel="noreferrer">
          Receipt
        </Button>
        {mayReturn ? (
          <Button component={Link} to="/outbound/returns/new">
            Next return
          </Button>
        ) : null}
      </BottomBar>
    </Split>
  );
}
