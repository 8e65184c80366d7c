import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { decimal, quantityText } from '@larder/core/decimal';
import { Link } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { quantity, shortDay } from '../../kit/format';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useSite } from '../../shared/site';
import { StockWays } from '../../shared/StockWays';
import { useWhereItLiesQuery } from './api';

/** Whoever stands before a thing scans it, and sees where it lies and how many. */
export function LookUpPage() {
  useTitle('Look up');
  const itemId = Number(useAddress().get('item')) || null;
  return (
    <Stack sx={{ maxWidth: 760 }}>
      <PageHead sx={{ margin: 0 }}>
        <h1>Look up</h1>
        <StockWays />
      </PageHead>
      {itemId === null ? (
        <>
          <Card state component="p">
            Scan a thing, a lot or a unit to see where it lies; a bin, to see what lies in it.
          </Card>
          <BottomBar hint="Scan, or type a few words" />
        </>
      ) : (
        <Lies key={itemId} itemId={itemId} />
      )}
    </Stack>
  );
}

function Lies({ itemId }: { itemId: number }) {
  const { siteId } = useSite();
  const { currentData, error } = useWhereItLiesQuery({ params: { id: itemId }, query: { siteId } });
  const mayMove = useMay('stock.move');
  if (!currentData) return <Waiting error={error} />;
  const { sku, name, unit, rows } = currentData;
  const sites = [...new Set(rows.map(({ site }) => site))];
  const all = rows.reduce((sum, row) => (row.sellable ? sum.plus(row.quantity) : sum), decimal(0));
  return (
    <>
      <Card pad component="div">
        <div>
          <div className="code">{sku}</div>
          <h2>{name}</h2>
        </div>
        <Box component="p" sx={{ margin: 0, fontSize: 32, fontWeight: 700 }}>
          {quantity(quantityText(all))}{' '}
          <Box component="span" sx={{ fontSize: 15, fontWeight: 400, color: 'text.secondary' }}>
            {unit === 'each' ? 'on the shelves' : `${unit} on the shelves`}
          </Box>
        </Box>
      </Card>
      {rows.length === 0 ? (
        <Card state component="p">
          None of it lies in a bin{siteId === undefined ? '' : ' here'}.
        </Card>
      ) : (
        <Card component="div">
          <Table aria-label={`Where ${sku} lies`}>
            <TableBody>
              {rows.map((row) => (
                <TableRow key={`${row.binId} ${row.lotId ?? ''}`}>
                  <TableCell>
                    <Box component={Link} className="code" sx={{ fontSize: 20, fontWeight: 700 }} to={`/stock/bins/${row.binId}`}>
                      {row.bin}
                    </Box>
                    {sites.length > 1 ? <small className="quiet name">{row.site}</small> : null}
                    {row.sellable ? null : <small className="late name">quarantine</small>}
                    {row.lot === null ? null : (
                      <small className="quiet name">{row.useBy === null ? row.lot : `lot ${row.lot}, use by ${shortDay(row.useBy)}`}</small>
                    )}
                  </TableCell>
                  <TableCell align="right" sx={{ fontSize: 20, fontWeight: 700 }}>
                    {quantity(row.quantity)}
                  </TableCell>
                  {mayMove ? (
                    <TableCell align="right">
                      <Button component={Link} to={`/stock/move?from=${row.binId}`} aria-label={`Move from ${row.bin}${row.lot === null ? '' : ` ${row.lot}`}`}>
                        Move
                      </Button>
                    </TableCell>
                  ) : null}
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      )}
      <BottomBar hint="Scan the next">
        <Button component={Link} to={`/items/${itemId}`}>
          All about {sku}
        </Button>
      </BottomBar>
    </>
  );
}
