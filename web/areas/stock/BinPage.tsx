import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Link, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { quantity } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinContentsQuery } from './api';

/** What lies in a bin. */
export function BinPage() {
  const id = Number(useParams().id);
  const { data, error } = useBinContentsQuery({ params: { id } });
  useTitle(data ? `Bin ${data.code}` : 'Bin');
  if (!data) return <Waiting error={error} />;
  return (
    <Stack sx={{ maxWidth: 760 }}>
      <PageHead>
        <h1 className="code">{data.code}</h1>
        <span className="quiet">{data.site}</span>
        {data.sellable ? null : <span className="late">quarantine: nothing here is sold</span>}
      </PageHead>
      {data.rows.length === 0 ? (
        <Card state component="p">
          This bin is empty.
        </Card>
      ) : (
        <Card component="div">
          <Table aria-label="In this bin">
            <TableBody>
              {data.rows.map((row) => (
                <TableRow key={`${row.itemId} ${row.lotId ?? ''}`}>
                  <TableCell>
                    <Link to={`/items/${row.itemId}`}>
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
                    <Link className="figure" to={`/stock/trail?item=${row.itemId}&place=${data.id}`}>
                      {quantity(row.quantity)}
                    </Link>
                  </TableCell>
                  <TableCell align="right">
                    <Button
                      component={Link}
                      size="small"
                      to={`/inbound/return?item=${row.itemId}&bin=${data.id}${row.lotId === null ? '' : `&lot=${row.lotId}`}`}
                    >
                      Send back
                    </Button>
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      )}
      <BottomBar hint="Open a quantity to see its movements">
        <Button component={Link} to={`/stock/trail?place=${data.id}`}>
          Trail of this bin
        </Button>
      </BottomBar>
    </Stack>
  );
}
