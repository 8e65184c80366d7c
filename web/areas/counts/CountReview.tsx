import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { getCount, ReviewRow } from '@larder/contract/counts';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useState } from 'react';
import { Link } from 'react-router';
import { CellChoice } from '../../kit/CellField';
import { CellCheck, Check } from '../../kit/Check';
import { EffectPanel } from '../../kit/EffectPanel';
import { Choice } from '../../kit/Field';
import { count, money, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Notice } from '../../kit/Notice';
import { Waiting } from '../../kit/states';
import { useSeesCosts } from '../../shared/may';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useAskRecountMutation, useForeseePostCountQuery, usePostCountMutation, useReviewCountQuery } from './api';
import { recountWords } from './countWords';

type Sheet = ResponseOf<typeof getCount>;
/** Lines that are shown at first, and with each press for more. */
const atOnce = 200;

/** What was counted, the highest value of a difference first: it is posted, all or what is chosen, or counted again. */
export function CountReview({ sheet }: { sheet: Sheet }) {
  const [showsAll, showAll] = useState(sheet.closed);
  const [limit, setLimit] = useState(atOnce);
  const { data, error } = useReviewCountQuery({ params: { id: sheet.id }, query: { show: showsAll ? 'all' : 'differing', limit } });
  const { data: reference } = useReferenceQuery({});
  const [reasonId, setReason] = useState<number | null>(null);
  const [own, setOwn] = useState<Record<number, number>>({});
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [again, asking] = useAskRecountMutation();
  const [post, posting] = usePostCountMutation();
  const say = useSay();
  const seesCosts = useSeesCosts();
  const reasons = (reference?.reasons ?? []).map(({ id, name }) => ({ value: String(id), label: name }));
  const reason = reasonId ?? reference?.reasons[0]?.id ?? 0;
  const body = { reasonId: reason, lines: chosen.map((id) => ({ id, reasonId: own[id] ?? null })) };
  const canPost = !sheet.closed && sheet.lines > sheet.settled && reason > 0;
  const foreseen = useForeseePostCountQuery({ params: { id: sheet.id }, body }, { skip: !canPost, refetchOnMountOrArgChange: true });
  if (!data) return <Waiting error={error} />;
  const open = data.rows.filter(({ settled }) => !settled);
  const toggle = (id: number) => setChosen(chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id]);
  const fault = problemOf(posting.error) ?? problemOf(asking.error);
  const settle = async () => {
    const done = await post({ params: { id: sheet.id }, body });
    if (!done.data) return;
    const { movementId, posted, agreed } = done.data;
    const words = [posted > 0 ? `${count(posted, 'difference')} posted` : '', agreed > 0 ? `${count(agreed, 'line')} agreed` : ''].filter(Boolean).join(', ');
    say({ text: `${words}.`, undo: { movementId, what: `what was posted of ${sheet.number}` } });
    setChosen([]);
  };
  const recount = async () => {
    if ((await again({ params: { id: sheet.id }, body: { lineIds: [...chosen] } })).error) return;
    say({ text: `${count(chosen.length, 'line')} to be counted again.` });
    setChosen([]);
  };
  return (
    <Split>
      <Stack>
        {fault ? (
          <Notice kind="refused">
            {fault.title} {fault.errors.map(({ sentence }) => sentence).join(' ')}
          </Notice>
        ) : null}
        <Card component="div">
          <Box className="pad" sx={{ display: 'flex', gap: 12, alignItems: 'end', flexWrap: 'wrap' }}>
            <Check label="What agrees, too" checked={showsAll} onChange={showAll} />
            <span className="quiet">
              {count(data.agreed, 'line')} agreed.
              {seesCosts && data.found !== '' ? ` Found ${money(data.found)}, lost ${money(data.lost)}.` : ''}
            </span>
          </Box>
          <Table aria-label="Differences" className="floor">
            <TableHead>
              <TableRow>
                <TableCell>
                  <CellCheck
                    label="Choose all"
                    checked={open.length > 0 && chosen.length === open.length}
                    some={chosen.length > 0}
                    disabled={open.length === 0}
                    onChange={(all) => setChosen(all ? open.map(({ id }) => id) : [])}
                  />
                </TableCell>
                <TableCell>Bin</TableCell>
                <TableCell>Item</TableCell>
                <TableCell align="right">Should be</TableCell>
                <TableCell align="right">Counted</TableCell>
                <TableCell align="right">Difference</TableCell>
                {seesCosts ? (
                  <TableCell align="right" className="wide-only">
                    Worth
                  </TableCell>
                ) : null}
                <TableCell className="wide-only">Why</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {data.rows.map((row) => (
                <TableRow key={row.id}>
                  <TableCell>
                    {row.settled ? null : (
                      <CellCheck label={`Choose ${row.lot ?? row.sku} in ${row.bin}`} checked={chosen.includes(row.id)} onChange={() => toggle(row.id)} />
                    )}
                  </TableCell>
                  <TableCell className="code">
                    <Link to={`/stock/counts/${sheet.id}/${row.placeId}`}>{row.bin}</Link>
                  </TableCell>
                  <ItemCell of={row}>{row.lot ? <small className="quiet">{row.lot}</small> : null}</ItemCell>
                  <TableCell align="right" className="quiet">
                    {quantity(row.expected)}
                  </TableCell>
                  <TableCell align="right">
                    {quantity(row.counted)}
                    <small className="quiet name">{countedWords(row)}</small>
                  </TableCell>
                  <TableCell align="right" className="strong">
                    {Number(row.difference) === 0 ? 'agrees' : signed(row.difference)}
                  </TableCell>
                  {seesCosts ? (
                    <TableCell align="right" className="wide-only">
                      {Number(row.value) === 0 ? '' : money(row.value)}
                    </TableCell>
                  ) : null}
                  <TableCell className="wide-only">
                    {row.settled || Number(row.difference) === 0 ? (
                      <span className="quiet">{settledWords(row, reasons)}</span>
                    ) : (
                      <CellChoice
                        label={`Why ${row.lot ?? row.sku} in ${row.bin} differs`}
                        value={String(own[row.id] ?? '')}
                        onChange={(id) => {
                          setOwn({ ...own, [row.id]: Number(id) });
                          if (!chosen.includes(row.id)) setChosen([...chosen, row.id]);
                        }}
                      >
                        <option value="">as all</option>
                        {reasons.map(({ value, label }) => (
                          <option key={value} value={value}>
                            {label}
                          </option>
                        ))}
                      </CellChoice>
                    )}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
          {data.count > data.rows.length ? (
            <Box className="pad">
              <Button onClick={() => setLimit(limit + atOnce)}>{count(data.count - data.rows.length, 'more line')}, of lesser value: show more</Button>
            </Box>
          ) : null}
          {data.rows.length === 0 ? <p className="pad quiet">Nothing that was counted differs.</p> : null}
        </Card>
        {canPost ? (
          <Box sx={{ display: 'flex', gap: 12, alignItems: 'end', flexWrap: 'wrap' }}>
            <Box sx={{ width: 220 }}>
              <Choice label="Reason" value={String(reason)} onChange={(id) => setReason(Number(id))} options={reasons} />
            </Box>
            <Button variant="contained" disabled={posting.isLoading} onClick={() => void settle()}>
              {chosen.length > 0 ? `Post ${count(chosen.length, 'chosen line')}` : 'Post all that is counted'}
            </Button>
            <Button disabled={asking.isLoading || chosen.length === 0} onClick={() => void recount()}>
              Count these again
            </Button>
          </Box>
        ) : null}
      </Stack>
      <EffectPanel
        title="What posting will change"
        effects={canPost ? foreseen.currentData?.effects : undefined}
        error={canPost ? foreseen.error : undefined}
        idle={canPost ? 'One moment…' : 'All of it is settled.'}
      />
    </Split>
  );
}

const signed = (text: string): string => `${Number(text) > 0 ? '+' : ''}${quantity(text)}`;

function countedWords(row: ReviewRow): string {
  if (row.recount !== null) return `to be counted again: ${recountWords[row.recount]}`;
  if (!row.binDone) return 'the bin is not done yet';
  return row.rounds > 1 ? `by ${row.person}, the ${row.rounds === 2 ? 'second' : `${row.rounds}th`} time` : `by ${row.person}`;
}

function settledWords(row: ReviewRow, reasons: readonly { value: string; label: string }[]): string {
  if (!row.settled) return '';
  if (Number(row.posted) === 0) return Number(row.difference) === 0 ? 'settled' : 'put right before';
  return `posted, ${reasons.find(({ value }) => value === String(row.reasonId))?.label ?? ''}`;
}
