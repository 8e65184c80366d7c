import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { TransferProposal } from '@larder/contract/transfers';
import { useState } from 'react';
import { Link } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { CellCheck } from '../../kit/Check';
import { count, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMayAt } from '../../shared/may';
import { useSite } from '../../shared/site';
import { useTransferProposalsQuery } from './api';

/** What sites lack and others have too many of: a transfer for each pair of sites, to be looked over and written. */
export function ProposalsPage() {
  useTitle('Proposed transfers');
  const { siteId } = useSite();
  const { data, error } = useTransferProposalsQuery({ query: { siteId } });
  if (!data) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Proposed transfers</h1>
        <span className="quiet">what one site lacks and another has above its own level</span>
        <Link to="/stock/transfers">All transfers</Link>
      </PageHead>
      {data.rows.length === 0 ? (
        <Card state component="p">
          No site lacks anything that another has too many of. Levels are said on an item, under Levels.
        </Card>
      ) : (
        data.rows.map((pair) => <Pair key={`${pair.fromSiteId} ${pair.toSiteId}`} pair={pair} />)
      )}
      <BottomBar hint="Nothing is sent until the transfer is written" />
    </Stack>
  );
}

function Pair({ pair }: { pair: TransferProposal }) {
  const mayAt = useMayAt('stock.transfer');
  const [left, setLeft] = useState<readonly number[]>([]);
  const chosen = pair.lines.filter(({ itemId }) => !left.includes(itemId));
  const of = (what: (line: (typeof chosen)[number]) => number | string) => chosen.map(what).join(',');
  const name = `${pair.from} to ${pair.to}`;
  return (
    <Card component="section" sheet aria-label={name}>
      <h2>
        {name}
        <span>{count(pair.lines.length, 'item')}</span>
      </h2>
      <Table className="floor">
        <TableHead>
          <TableRow>
            <TableCell />
            <TableCell>Item</TableCell>
            <TableCell align="right">Free at {pair.from}</TableCell>
            <TableCell align="right">Free at {pair.to}</TableCell>
            <TableCell align="right">Goes</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {pair.lines.map((line) => (
            <TableRow key={line.itemId}>
              <TableCell>
                <CellCheck
                  label={`Send ${line.sku} from ${name}`}
                  checked={!left.includes(line.itemId)}
                  onChange={(on) => setLeft(on ? left.filter((id) => id !== line.itemId) : [...left, line.itemId])}
                />
              </TableCell>
              <ItemCell of={line} />
              <TableCell align="right">
                <span className="phone-only">{pair.from} </span>
                {quantity(line.free)}
                <small className="quiet name">keeps {quantity(line.keeps)}</small>
              </TableCell>
              <TableCell align="right">
                <span className="phone-only">{pair.to} </span>
                {quantity(line.freeThere)}
                <small className="quiet name">{thereWords(line)}</small>
              </TableCell>
              <TableCell align="right" className="strong">
                <span className="phone-only">goes </span>
                {quantity(line.quantity)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {mayAt(pair.fromSiteId) || mayAt(pair.toSiteId) ? (
        <p className="pad">
          <Button
            variant="contained"
            component={Link}
            disabled={chosen.length === 0}
            to={`/stock/transfers/new?from=${pair.fromSiteId}&to=${pair.toSiteId}&items=${of(({ itemId }) => itemId)}&quantities=${of((line) => line.quantity)}`}
          >
            Transfer {count(chosen.length, 'item')}
          </Button>
        </p>
      ) : null}
    </Card>
  );
}

/** "3 on their way, 2 short, reorder at 8, up to 24". */
const thereWords = ({ incomingThere, shortThere, reorderPoint, orderUpTo }: TransferProposal['lines'][number]): string =>
  [
    Number(incomingThere) > 0 ? `${quantity(incomingThere)} on their way` : '',
    Number(shortThere) > 0 ? `${quantity(shortThere)} short` : '',
    reorderPoint === null ? '' : `reorder at ${quantity(reorderPoint)}`,
    orderUpTo === null ? '' : `up to ${quantity(orderUpTo)}`,
  ]
    .filter(Boolean)
    .join(', ');
