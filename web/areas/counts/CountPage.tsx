import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { getCount } from '@larder/contract/counts';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Link, useNavigate, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { count, money, shortDay } from '../../kit/format';
import { Card, PageHead, Side, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { StageTrack } from '../../kit/StageTrack';
import { useTitle } from '../../kit/title';
import { useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useCloseCountMutation, useCountSheetQuery } from './api';
import { CountReview } from './CountReview';
import { stateWords } from './countWords';

type Sheet = ResponseOf<typeof getCount>;

/** A count: its bins and who counts which; then its differences, by what they are worth. */
export function CountPage() {
  const { id = '' } = useParams();
  const { data, error } = useCountSheetQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data?.number ?? 'Count');
  const mayCorrect = useMayAt('stock.correct');
  if (!data || !me) return <Waiting error={error} />;
  /** What is still to be counted comes first; then what it came to. */
  const isCounted = data.closed || data.done === data.bins;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>{data.number}</h1>
        <span>{data.site}</span>
        <span className="quiet">
          {shortDay(data.day, me.company.today)}, {data.person}
        </span>
        <Side>{stateWords[data.state]}</Side>
      </PageHead>
      <StageTrack stages={data.stages} />
      <Rules sheet={data} />
      {isCounted ? null : <Bins sheet={data} myId={me.id} />}
      {mayCorrect(data.siteId) && data.lines > 0 ? <CountReview sheet={data} /> : null}
      {isCounted ? <Bins sheet={data} myId={me.id} /> : null}
      <Actions sheet={data} mayEnd={mayCorrect(data.siteId)} />
    </Stack>
  );
}

/** How it is counted, in a line. */
function Rules({ sheet }: { sheet: Sheet }) {
  const rules = [
    sheet.blind ? 'Blind: nobody who counts is told how many there should be.' : '',
    sheet.recountShare === null ? '' : `Counted again where it differs by more than ${Number(sheet.recountShare)} %.`,
    sheet.recountValue === null ? '' : `Counted again where a difference is worth more than ${money(sheet.recountValue)}.`,
    sheet.note,
  ].filter((rule) => rule !== '');
  return rules.length === 0 ? null : <p className="quiet">{rules.join(' ')}</p>;
}

function Bins({ sheet, myId }: { sheet: Sheet; myId: number }) {
  const mayCount = useMayAt('stock.count')(sheet.siteId) && !sheet.closed;
  return (
    <Card component="div">
      <Table aria-label="Bins" className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Bin</TableCell>
            <TableCell className="wide-only">Zone</TableCell>
            <TableCell>Counted</TableCell>
            <TableCell align="right" className="wide-only">
              Lines
            </TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {sheet.binRows.map((bin) => (
            <TableRow key={bin.placeId}>
              <TableCell className="code strong">{bin.bin}</TableCell>
              <TableCell className="quiet wide-only">{bin.zone}</TableCell>
              <TableCell>{binWords(bin, myId)}</TableCell>
              <TableCell align="right" className="wide-only">
                {bin.counted || ''}
              </TableCell>
              <TableCell align="right">
                {bin.done || !mayCount || bin.retired ? (
                  <Link to={`/stock/counts/${sheet.id}/${bin.placeId}`}>Look at {bin.bin}</Link>
                ) : (
                  <Button component={Link} to={`/stock/counts/${sheet.id}/${bin.placeId}`}>
                    Count {bin.bin}
                  </Button>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

function binWords(bin: Sheet['binRows'][number], myId: number): string {
  if (bin.done) return `by ${bin.doneBy ?? ''}`;
  if (bin.retired) return 'retired meanwhile';
  if (bin.heldById !== null) return bin.heldById === myId ? 'you are counting it' : `${bin.heldBy ?? ''} is counting it`;
  return bin.recount > 0 ? `${count(bin.recount, 'line')} to be counted again` : bin.counted > 0 ? 'begun' : 'not yet';
}

function Actions({ sheet, mayEnd }: { sheet: Sheet; mayEnd: boolean }) {
  const navigate = useNavigate();
  const say = useSay();
  const [close, closing] = useCloseCountMutation();
  const mayCount = useMayAt('stock.count')(sheet.siteId);
  const first = sheet.binRows.find((bin) => !bin.done && !bin.retired && bin.heldById === null);
  const end = async () => {
    if ((await close({ params: { id: sheet.id } })).error) return;
    say({ text: `${sheet.number} has ended. What was not posted stays as it is.` });
  };
  return (
    <>
      <Refused error={closing.error} />
      <BottomBar
        hint={sheet.closed ? 'The sheet stays as it was' : 'What is not counted stays as it is'}
        next={
          first && mayCount && !sheet.closed
            ? { label: `Count ${first.bin}`, run: () => void navigate(`/stock/counts/${sheet.id}/${first.placeId}`) }
            : undefined
        }
      >
        {mayEnd && !sheet.closed ? (
          <Button disabled={closing.isLoading} onClick={() => void end()}>
            End it
          </Button>
        ) : null}
      </BottomBar>
    </>
  );
}
