import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { listUntaken } from '@larder/contract/workRecords';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useState } from 'react';
import { Link } from 'react-router';
import { CellChoice, CellField } from '../../kit/CellField';
import { moment, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Stack, Ways } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { MakingWays } from '../../shared/MakingWays';
import { useMayAt } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { useItemStockQuery } from '../../shared/stock';
import { useGiveUpUntakenMutation, useRecordUntakenMutation, useUntakenQuery } from './api';

type Row = ResponseOf<typeof listUntaken>['rows'][number];

/** What was used on completed work and never taken from a shelf in the records: from which bin it was, or that it will not be recorded. */
export function UntakenPage() {
  useTitle('Used, not taken');
  const { siteId } = useSite();
  const { data, error } = useUntakenQuery({ query: { siteId } });
  if (!data) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Used, not taken</h1>
        <MakingWays />
      </PageHead>
      <p className="quiet">
        Work that was completed though something used had not been taken from a shelf. Stock says it is still there, until somebody says from which bin it was;
        what it had cost is making variance then.
      </p>
      {data.rows.length === 0 ? (
        <Card state component="p">
          Everything that was used was taken from a shelf.
        </Card>
      ) : (
        <Card component="div">
          <Table aria-label="Used, not taken">
            <TableHead>
              <TableRow>
                <TableCell>Part</TableCell>
                <TableCell align="right">Open</TableCell>
                <TableCell>Work order</TableCell>
                <TableCell>Why</TableCell>
                <TableCell>From bin</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {data.rows.map((row) => (
                <TableRow key={row.id}>
                  <ItemCell of={row} />
                  <TableCell align="right">{quantity(row.open)}</TableCell>
                  <TableCell>
                    <Link className="code" to={`/making/orders/${row.workOrderId}`}>
                      {row.number}
                    </Link>
                    <small className="quiet name">{row.site}</small>
                  </TableCell>
                  <TableCell>
                    {row.reason}
                    <small className="quiet name">
                      {row.person}, {moment(row.since)}
                    </small>
                  </TableCell>
                  <TableCell>
                    <Settle key={row.open} row={row} />
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      )}
    </Stack>
  );
}

/** From which bin it was, and how many of it; or why it will not be recorded. */
function Settle({ row }: { row: Row }) {
  const say = useSay();
  const [mayRecord, mayGiveUp] = [useMayAt('making.record')(row.siteId), useMayAt('making.unrecorded')(row.siteId)];
  const { data } = useItemStockQuery({ params: { id: row.itemId }, query: { siteId: row.siteId } });
  const [record, recording] = useRecordUntakenMutation();
  const [giveUp, givingUp] = useGiveUpUntakenMutation();
  const [many, setMany] = useState(row.open);
  const [from, setFrom] = useState('');
  const [reason, setReason] = useState<string | null>(null);
  const places = (data?.sites ?? []).flatMap(({ bins }) =>
    bins
      .filter((bin) => bin.sellable)
      .flatMap((bin) =>
        bin.lots.length === 0
          ? [{ value: `${bin.binId}/`, label: `${bin.bin}: ${quantity(bin.quantity)}` }]
          : bin.lots.map((lot) => ({ value: `${bin.binId}/${lot.lotId ?? ''}`, label: `${lot.code ?? ''} in ${bin.bin}: ${quantity(lot.quantity)}` })),
      ),
  );
  const chosen = from === '' ? (places[0]?.value ?? '') : from;
  const post = async () => {
    const [binId = '0', lotId = ''] = chosen.split('/');
    const { data: done } = await record({ params: { id: row.id }, body: { lines: [{ binId: Number(binId), lotId: Number(lotId) || null, quantity: many }] } });
    if (done)
      say({
        text: `${quantity(many)} of ${row.sku} recorded as used on ${row.number}.`,
        undo: { movementId: done.movementId, what: `what was recorded late on ${row.number}` },
      });
  };
  if (reason !== null)
    return (
      <Stack>
        <Refused error={givingUp.error} />
        <Ways>
          <CellField label={`Why ${row.sku} will not be recorded`} value={reason} onChange={setReason} placeholder="why not" width={180} autoFocus />
          <Button size="small" disabled={reason.trim() === '' || givingUp.isLoading} onClick={() => void giveUp({ params: { id: row.id }, body: { reason } })}>
            Give it up
          </Button>
          <Button size="small" onClick={() => setReason(null)}>
            Never mind
          </Button>
        </Ways>
      </Stack>
    );
  return (
    <Stack>
      <Refused error={recording.error} />
      <Ways>
        {mayRecord && places.length > 0 ? (
          <>
            <CellField number label={`How many of ${row.sku}`} value={many} onChange={setMany} />
            <CellChoice label={`From which bin ${row.sku} was`} value={chosen} onChange={setFrom} options={places} />
            <Button size="small" disabled={recording.isLoading} onClick={() => void post()}>
              Record it
            </Button>
          </>
        ) : null}
        {mayRecord && data && places.length === 0 ? <span className="quiet">No bin there has any.</span> : null}
        {mayGiveUp ? (
          <Button size="small" onClick={() => setReason('')}>
            Will not be recorded
          </Button>
        ) : null}
      </Ways>
    </Stack>
  );
}
