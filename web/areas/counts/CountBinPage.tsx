import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { countBin, ToCount } from '@larder/contract/counts';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { CellField } from '../../kit/CellField';
import { count, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Side, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { problemOf } from '../../kit/problem';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { LineEntry } from '../../shared/LineEntry';
import { isKept } from '../../shared/floor/kept';
import { useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useBinsQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useCountBinQuery, useCountSheetQuery, useFinishBinMutation, useLeaveBinMutation, useTakeBinMutation } from './api';
import { recountWords } from './countWords';
import { NewLot } from './NewLot';
import { keyOf, useCounting, type Counting, type NamedBin } from './useCounting';

type Bin = ResponseOf<typeof countBin>;

/** One bin is counted: each scan counts one more, or the total is typed. */
export function CountBinPage() {
  const { id = '', place = '' } = useParams();
  const at = { id: Number(id), placeId: Number(place) };
  const { currentData: data, error } = useCountBinQuery({ params: at });
  const { data: me } = useMeQuery({});
  const { data: sheet } = useCountSheetQuery({ params: { id: at.id } });
  const { data: bins } = useBinsQuery({ query: { siteId: data?.siteId } }, { skip: !data });
  useTitle(data ? `Count ${data.bin}` : 'Count');
  // Until it is known what a scan may name, none is taken.
  if (!data || !me || !sheet || !bins) return <Waiting error={error} />;
  const onSheet = new Set(sheet.binRows.map(({ placeId }) => placeId));
  const named = bins.rows.filter(({ retired }) => !retired).map(({ id: binId, code }) => ({ id: binId, code, isCounted: onSheet.has(binId) }));
  return <Opened key={place} at={at} bin={data} bins={named} myId={me.id} />;
}

interface OpenedProps {
  at: { id: number; placeId: number };
  bin: Bin;
  bins: readonly NamedBin[];
  myId: number;
}

function Opened({ at, bin, bins, myId }: OpenedProps) {
  const navigate = useNavigate();
  const say = useSay();
  const keptAs = (words: string) => ({ words, to: `/stock/counts/${at.id}/${at.placeId}` });
  const [take, taking] = useTakeBinMutation();
  const [finish, finishing] = useFinishBinMutation();
  const [leave] = useLeaveBinMutation();
  const mayCount = useMayAt('stock.count')(bin.siteId) && !bin.closed && !bin.done && !bin.retired;
  const isMine = bin.heldById === myId;
  const counting = useCounting(at, bin, bins, mayCount && isMine);
  // Whoever opens a bin that nobody counts begins it.
  const begins = mayCount && bin.heldById === null;
  const asked = useRef(false);
  useEffect(() => {
    if (!begins || asked.current) return;
    asked.current = true;
    void take({ params: at, body: {}, kept: keptAs(`Begin to count ${bin.bin}`) });
  });
  useScan((code) => counting.scan(code, (placeId) => void navigate(`/stock/counts/${at.id}/${placeId}`)));
  const [toGo, setToGo] = useState<number | null>(null);
  const left = bin.rows.filter((row) => row.listed && counting.of(row) === null);
  const nothing = bin.rows.every((row) => counting.of(row) === null);
  /** Nothing should lie there, and nothing was found. */
  const isBare = nothing && left.length === 0;
  const [wrong, setWrong] = useState<string | null>(null);
  const end = async (restIsNone: boolean) => {
    // Each is said, of what was seen here: what comes into the bin before this is sent is not meant.
    if (restIsNone) counting.none(left);
    await counting.settled();
    const isWrong = counting.firstWrong();
    setWrong(isWrong);
    if (isWrong !== null) return;
    const { data: done } = await finish({ params: at, body: {}, kept: keptAs(`${bin.bin} is counted`) });
    if (!done) return;
    const recount = isKept(done) ? 0 : done.recount;
    setToGo(recount);
    if (recount > 0) return counting.askAnew();
    say({ text: `${bin.bin} is counted.` });
    void navigate(bin.next ? `/stock/counts/${at.id}/${bin.next.placeId}` : `/stock/counts/${at.id}`);
  };
  const giveUp = async () => {
    await counting.settled();
    if ((await leave({ params: at, kept: keptAs(`Leave ${bin.bin} to others`) })).error) return;
    void navigate(`/stock/counts/${at.id}`);
  };
  const refusal = problemOf(taking.error);
  return (
    <Stack sx={{ maxWidth: 900 }}>
      <PageHead sx={{ margin: 0 }}>
        <h1>
          <span className="code">{bin.bin}</span>
        </h1>
        <Link to={`/stock/counts/${at.id}`}>{bin.number}</Link>
        <Side className="quiet">
          {bin.done ? `counted by ${bin.doneBy ?? ''}` : isMine ? 'you are counting it' : bin.heldBy ? `${bin.heldBy} is counting it` : ''}
        </Side>
      </PageHead>
      {mayCount && !isMine && bin.heldById !== null ? (
        <Asking
          question={`${bin.heldBy ?? 'Somebody else'} is counting ${bin.bin}.`}
          answers={[
            {
              label: 'Count it instead',
              run: () => void take({ params: at, body: { over: true }, kept: keptAs(`Count ${bin.bin} instead of ${bin.heldBy ?? 'somebody else'}`) }),
            },
          ]}
          busy={taking.isLoading}
        />
      ) : refusal && !isMine ? (
        <Refused error={refusal} />
      ) : null}
      {bin.retired ? <Notice>{bin.bin} was retired meanwhile: nothing lies there, and it need not be counted.</Notice> : null}
      {counting.said === null ? null : <Notice role="status">{counting.said}</Notice>}
      <Refused error={counting.fault ?? problemOf(finishing.error)} />
      {wrong === null ? null : <Notice kind="refused">Say how many there are of {wrong}, or leave its field empty.</Notice>}
      {toGo !== null && toGo > 0 ? <Notice kind="refused">{count(toGo, 'line')} to be counted again: see below why.</Notice> : null}
      <Rows bin={bin} counting={counting} may={mayCount && isMine} />
      {mayCount && isMine ? (
        <BottomBar
          hint="Each scan counts one more; a total can be typed"
          next={{
            label: isBare ? `${bin.bin} is empty` : `${bin.bin} is counted`,
            run: () => void end(false),
            disabled: finishing.isLoading || (nothing && !isBare),
          }}
        >
          <Button onClick={() => void giveUp()}>Leave it to others</Button>
          {left.length > 0 ? (
            <Button disabled={finishing.isLoading} onClick={() => void end(true)}>
              {nothing ? `${bin.bin} is empty` : `The other ${count(left.length, 'line')} are not there`}
            </Button>
          ) : null}
        </BottomBar>
      ) : (
        <BottomBar
          hint=""
          next={
            bin.next && !bin.closed
              ? { label: `On to ${bin.next.bin}`, run: () => void navigate(`/stock/counts/${at.id}/${bin.next?.placeId ?? ''}`) }
              : undefined
          }
        />
      )}
    </Stack>
  );
}

function Rows({ bin, counting, may }: { bin: Bin; counting: Counting; may: boolean }) {
  const rows = [...bin.rows, ...counting.found];
  return (
    <Card component="div">
      <Table aria-label={`In ${bin.bin}`} className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Item</TableCell>
            {bin.blind && !bin.done ? null : <TableCell align="right">Should be</TableCell>}
            <TableCell align="right">Counted</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <Row key={keyOf(row)} row={row} isBlind={bin.blind && !bin.done} counting={counting} may={may && !row.settled} />
          ))}
          {may ? (
            <TableRow>
              <TableCell colSpan={3}>
                {counting.asks ? <NewLot key={counting.asks.itemId} asked={counting.asks} counting={counting} /> : null}
                <LineEntry autoFocus={false} takesScans={false} isNewLine add={(item) => counting.add(item)} />
              </TableCell>
            </TableRow>
          ) : null}
        </TableBody>
      </Table>
      {rows.length === 0 ? <p className="pad quiet">Nothing should lie in {bin.bin}. Scan what does, or say that it is empty.</p> : null}
    </Card>
  );
}

function Row({ row, isBlind, counting, may }: { row: ToCount; isBlind: boolean; counting: Counting; may: boolean }) {
  const counted = counting.of(row);
  return (
    <TableRow>
      <ItemCell of={row}>
        {row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}
        {row.recount === null ? null : <small className="late name">Count it again: {recountWords[row.recount]}.</small>}
      </ItemCell>
      {isBlind ? null : (
        <TableCell align="right" className="quiet">
          <span className="phone-only">should be </span>
          {row.expected === null ? '' : quantity(row.expected)}
        </TableCell>
      )}
      <TableCell align="right" className="under">
        {may ? (
          <CellField
            number
            tall
            label={`Counted of ${row.lot === null ? row.sku : `${row.sku} ${row.lot}`}`}
            value={counted ?? ''}
            error={counting.wrong(row)}
            onChange={(text) => counting.type(row, text)}
            onBlur={() => counting.enter(row)}
            onKeyDown={(event) => event.key === 'Enter' && counting.enter(row)}
          />
        ) : counted === null ? (
          <span className="quiet">not counted</span>
        ) : (
          quantity(counted)
        )}
      </TableCell>
    </TableRow>
  );
}
