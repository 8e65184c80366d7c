import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useAddress } from '../../kit/address';
import { Card, PageHead, Side, Stack } from '../../kit/layout';
import { May } from '../../shared/may';
import { alsoAsOf, AsOf, useAsOf } from '../../shared/AsOf';
import { Link, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { quantity, shortDay } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinContentsQuery } from './api';

/** What lies in a bin. */
export function BinPage() {
  const id = Number(useParams().id);
  const address = useAddress();
  const asOf = useAsOf(address);
  const { currentData: data, error } = useBinContentsQuery({ params: { id }, query: { asOf } });
  useTitle(data ? `Bin ${data.code}` : 'Bin');
  if (!data) return <Waiting error={error} />;
  return (
    <Stack sx={{ maxWidth: 760 }}>
      <PageHead>
        <h1 className="code">{data.code}</h1>
        <span className="quiet">{data.site}</span>
        {data.sellable ? null : <span className="late">quarantine: nothing here is sold</span>}
        <Side>
          <AsOf address={address} />
        </Side>
      </PageHead>
      {data.rows.length === 0 ? (
        <Card state component="p">
          {asOf === undefined ? 'This bin is empty.' : `This bin was empty on ${shortDay(asOf)}.`}
        </Card>
      ) : (
        <Card component="div">
          <Table aria-label="In this bin">
            <TableBody>
              {data.rows.map((row) => (
                <TableRow key={`${row.itemId} ${row.lotId ?? ''}`}>
                  <TableCell>
                    <Link to={`/items/${row.itemId}${alsoAsOf(asOf)}`}>
                      <span className="code">{row.sku}</span>
                      <span className="name">{row.name}</span>
                    </Link>
                  </TableCell>
                  <TableCell>
                    {row.lotId === null ? null : (
                      <Link className="code quiet" to={`/stock/lots/${row.lotId}`}>
                        {row.lot}
                      </Link>
                    )}
                    {row.useBy === null ? null : <small className={`name ${row.pastUse ? 'late' : 'quiet'}`}>use by {row.useBy}</small>}
                  </TableCell>
                  <TableCell className="strong" align="right">
                    <Link className="figure" to={`/stock/trail?item=${row.itemId}&place=${data.id}${asOf === undefined ? '' : `&until=${asOf}`}`}>
                      {quantity(row.quantity)}
                    </Link>
                  </TableCell>
                  {asOf === undefined ? (
                    <TableCell align="right">
                      <Button
                        component={Link}
                        size="small"
                        to={`/inbound/return?item=${row.itemId}&bin=${data.id}${row.lotId === null ? '' : `&lot=${row.lotId}`}`}
                      >
                        Send back
                      </Button>
                    </TableCell>
                  ) : null}
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      )}
      <BottomBar hint="Open a quantity to see its movements">
        <May to="stock.correct" at={data.siteId}>
          <Button component={Link} to={`/stock/counts/new?site=${data.siteId}&bin=${data.id}`}>
            Count it
          </Button>
        </May>
        <May to="stock.move" at={data.siteId}>
          <Button component={Link} to={`/stock/move?from=${data.id}`}>
            Move from here
          </Button>
        </May>
        <Button component={Link} to={`/stock/trail?place=${data.id}`}>
          Trail of this bin
        </Button>
      </BottomBar>
    </Stack>
  );
}
