import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Apart } from '@larder/contract/takingApart';
import { decimal } from '@larder/core/decimal';
import { Link } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { longDay, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMayAt } from '../../shared/may';
import { UndoButton } from '../../shared/UndoButton';
import { ApartCost } from './ApartCost';
import { useApartOneQuery } from './api';

/** Something that was taken apart: from where, and what came of it. */
export function ApartLook({ id }: { id: number }) {
  const { data, error } = useApartOneQuery({ params: { id } });
  useTitle(data?.number ?? 'Taken apart');
  if (!data) return <Waiting error={error} />;
  return <Opened one={data} />;
}

function Opened({ one }: { one: Apart }) {
  const mayRecord = useMayAt('making.record')(one.siteId);
  const parts = one.came.map(({ itemId, sku, value, good }) => ({
    ...{ itemId, sku, value },
    unitCost: value === '' || Number(good) === 0 ? '0' : decimal(value).div(good).toFixed(4),
  }));
  return (
    <>
      <PageHead>
        <h1>{one.number}</h1>
        <span>
          {quantity(one.quantity)} {one.sku} {one.name} taken apart
        </span>
        <span className="quiet">
          from {[one.from.bin, one.from.lot].filter((word) => word).join(', ')} at {one.site}
        </span>
        <Side>
          <span className="quiet">
            {one.person}, {longDay(one.on)}
          </span>
        </Side>
      </PageHead>
      {one.undone ? <Notice>This was undone: it is whole again.</Notice> : null}
      <Split>
        <Stack>
          <Card component="div">
            <Table aria-label="What came of it">
              <TableHead>
                <TableRow>
                  <TableCell>What came of it</TableCell>
                  <TableCell align="right">Should give</TableCell>
                  <TableCell align="right">Good</TableCell>
                  <TableCell>Went to</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {one.came.map((part) => (
                  <TableRow key={part.itemId}>
                    <ItemCell of={part} />
                    <TableCell align="right" className="quiet">
                      {quantity(part.planned)}
                    </TableCell>
                    <TableCell align="right" className={Number(part.good) < Number(part.planned) ? 'late' : ''}>
                      {quantity(part.good)}
                    </TableCell>
                    <TableCell>
                      {part.places.map(({ bin, lot, quantity: many }, index) => (
                        <span key={index} className="name">
                          {part.places.length > 1 ? `${quantity(many)} in ` : ''}
                          {bin}
                          {lot === null ? '' : `, ${lot}`}
                        </span>
                      ))}
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
          {one.note === '' ? null : (
            <Card pad aria-label="Note">
              {one.note}
            </Card>
          )}
          <Link to="/making/apart">All that was taken apart</Link>
        </Stack>
        <Stack>
          <ApartCost outcome={{ value: one.value, lost: one.lost, parts: parts.filter((_, index) => Number(one.came[index]?.good) > 0) }} />
        </Stack>
        <BottomBar>
          {mayRecord && !one.undone ? <UndoButton movementId={one.movementId} what={`taking ${quantity(one.quantity)} ${one.sku} apart`} /> : null}
        </BottomBar>
      </Split>
    </>
  );
}
