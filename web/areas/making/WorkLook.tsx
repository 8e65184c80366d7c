import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ComponentNow, WorkOrder } from '@larder/contract/workOrders';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { BottomBar, type NextStep } from '../../kit/BottomBar';
import { CoverBar } from '../../kit/CoverBar';
import { moment, money, price, quantity, shortDay } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Split, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useMay, useMayAt } from '../../shared/may';
import { Movements } from '../../shared/Movements';
import { OrderChanges } from '../../shared/OrderChanges';
import { useSay } from '../../shared/say';
import { UndoButton } from '../../shared/UndoButton';
import { useCancelWorkOrderMutation, useHoldWorkOrderMutation, useReleaseWorkOrderMutation, useReopenWorkOrderMutation } from './api';

interface LookProps {
  one: WorkOrder;
  today: string;
  go: (what: 'take' | 'record' | 'back' | 'change') => void;
}
const some = (text: string): boolean => Number(text) > 0;

/** A work order as it stands, and what can be done with it. */
export function WorkLook({ one, today, go }: LookProps) {
  const say = useSay();
  const [mayPlan, mayRecord, mayTake] = [useMayAt('making.plan')(one.siteId), useMayAt('making.record')(one.siteId), useMayAt('outbound.ship')(one.siteId)];
  const [release, releasing] = useReleaseWorkOrderMutation();
  const [hold, holding] = useHoldWorkOrderMutation();
  const [cancel, cancelling] = useCancelWorkOrderMutation();
  const [reopen, reopening] = useReopenWorkOrderMutation();
  const isBusy = [releasing, holding, cancelling, reopening].some(({ isLoading }) => isLoading);
  const decide = async (what: typeof release, text: string) => {
    if (!(await what({ params: { id: one.id }, body: { version: one.version } })).error) say({ text });
  };
  const isGoing = one.released && !one.ended;
  const toTake = one.lines.some((line) => some(line.wanted) && Number(line.short) < Number(line.wanted));
  const isRecorded = one.records.some(({ undone }) => !undone);
  const next = (): NextStep | undefined => {
    if (one.ended) return undefined;
    if (!one.released)
      return mayPlan ? { label: `Release ${one.number}`, run: () => void decide(release, `${one.number} is released.`), disabled: isBusy } : undefined;
    if (toTake && mayTake) return { label: 'Take the parts', run: () => go('take') };
    return mayRecord ? { label: 'Record what was made', run: () => go('record') } : undefined;
  };
  return (
    <Split>
      <Stack>
        {[releasing, holding, cancelling, reopening].map(({ error }, index) => (
          <Refused key={index} error={error} />
        ))}
        <Parts one={one} today={today} />
        {one.products.length > 1 ? <Outputs one={one} /> : null}
        {one.steps === '' ? null : (
          <Card pad aria-label="Steps">
            <h2>Steps</h2>
            <ol>
              {one.steps.split('\n').map((step, index) => (
                <li key={index}>{step}</li>
              ))}
            </ol>
          </Card>
        )}
        {one.note === '' ? null : (
          <Card pad aria-label="Note">
            {one.note}
          </Card>
        )}
      </Stack>
      <Stack>
        <Money one={one} />
        <Records one={one} />
        <Movements movements={one.movements.map((movement) => ({ ...movement, value: '0' }))} />
        <OrderChanges changes={one.changes} today={today} />
      </Stack>
      <BottomBar next={next()}>
        {isGoing && mayRecord && toTake && mayTake ? <Button onClick={() => go('record')}>Record what was made</Button> : null}
        {isGoing && mayRecord && some(one.atWork) ? <Button onClick={() => go('back')}>Bring parts back</Button> : null}
        {!one.ended && mayPlan ? <Button onClick={() => go('change')}>Change</Button> : null}
        {isGoing && mayPlan && !some(one.taken) && !isRecorded ? (
          <Button disabled={isBusy} onClick={() => void decide(hold, `${one.number} is not released any more.`)}>
            Take the release back
          </Button>
        ) : null}
        {!one.ended && mayPlan && !isRecorded ? (
          <Button disabled={isBusy} onClick={() => void decide(cancel, `${one.number} is cancelled.`)}>
            Cancel
          </Button>
        ) : null}
        {one.cancelled && mayPlan && one.restOf === null ? (
          <Button disabled={isBusy} onClick={() => void decide(reopen, `${one.number} is open again.`)}>
            Open again
          </Button>
        ) : null}
      </BottomBar>
    </Split>
  );
}

const Parts = ({ one, today }: { one: WorkOrder; today: string }) => (
  <Card component="div" sheet>
    <Table aria-label="What goes in" className="floor">
      <TableHead>
        <TableRow>
          <TableCell>What goes in</TableCell>
          <TableCell align="right">To take</TableCell>
          <TableCell align="right">Taken</TableCell>
          <TableCell align="right">Used</TableCell>
          <TableCell className="wide-only">Where it comes from</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {one.lines.map((line) => (
          <TableRow key={line.id}>
            <ItemCell of={line}>{line.note === '' ? null : <small className="quiet">{line.note}</small>}</ItemCell>
            <TableCell align="right" className="strong">
              <span className="phone-only">to take </span>
              {quantity(line.needed, true)}
            </TableCell>
            <Figure name="taken" many={line.taken} />
            <Figure
              name="used"
              many={line.used}
              besides={some(line.untaken) ? <small className="late name">{quantity(line.untaken)} not taken</small> : null}
            />
            <TableCell className="wide-only">
              {line.stocked ? <Cover line={line} one={one} today={today} /> : <span className="quiet">used as it comes</span>}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);

/** How many of a part; on a phone named, and left out where there are none. */
const Figure = ({ name, many, besides = null }: { name: string; many: string; besides?: ReactNode }) => (
  <TableCell align="right" className={some(many) || besides ? '' : 'wide-only'}>
    <span className="phone-only">{name} </span>
    {quantity(many, true)}
    {besides}
  </TableCell>
);

/** What of a part is taken or reserved, what comes, and what nobody knows of yet. */
function Cover({ line, one, today }: { line: ComponentNow; one: WorkOrder; today: string }) {
  if (!one.released || one.ended) return null;
  const short = Number(line.short);
  const [coming, unknown] = line.comesOn === null ? [0, short] : [short, 0];
  const words =
    short === 0
      ? Number(line.wanted) > 0
        ? `${quantity(line.reserved)} reserved`
        : 'all taken'
      : line.comesOn === null
        ? `${quantity(line.short)} short, nothing comes`
        : `${quantity(line.short)} short, there on ${shortDay(line.comesOn, today)}`;
  return <CoverBar here={Number(line.taken) + Number(line.reserved)} coming={coming} unknown={unknown} words={words} />;
}

const Outputs = ({ one }: { one: WorkOrder }) => (
  <Card component="div">
    <Table aria-label="What comes of it">
      <TableHead>
        <TableRow>
          <TableCell>What comes of it</TableCell>
          <TableCell align="right">To make</TableCell>
          <TableCell align="right">Made</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {one.products.map((line) => (
          <TableRow key={line.id}>
            <ItemCell of={line} />
            <TableCell align="right">{quantity(line.quantity)}</TableCell>
            <TableCell align="right">{quantity(line.made, true)}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);

/** What is in progress of it, and what one costs by its bill; for those who see cost. */
function Money({ one }: { one: WorkOrder }) {
  const seesCost = useMay('costs.see', one.siteId);
  const links = [...(one.restOf ? [{ ...one.restOf, words: 'Rest of' }] : []), ...one.rests.map((rest) => ({ ...rest, words: 'The rest goes on as' }))];
  if (!seesCost && links.length === 0) return null;
  return (
    <Card aria-label="What it holds">
      <h2>What it holds</h2>
      <Table>
        <TableBody>
          {seesCost ? (
            <TableRow>
              <TableCell>In progress</TableCell>
              <TableCell align="right">{money(one.inProgress)}</TableCell>
            </TableRow>
          ) : null}
          {seesCost && one.rolledUp !== null && one.rolledUp !== '' ? (
            <TableRow>
              <TableCell>One costs by its bill</TableCell>
              <TableCell align="right">{price(Number(one.rolledUp).toFixed(2))}</TableCell>
            </TableRow>
          ) : null}
          {links.map(({ id, number, words }) => (
            <TableRow key={id}>
              <TableCell>{words}</TableCell>
              <TableCell align="right">
                <Link className="code" to={`/making/orders/${id}`}>
                  {number}
                </Link>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

/** What was recorded, the last first; the last can be undone. */
function Records({ one }: { one: WorkOrder }) {
  const seesCost = useMay('costs.see', one.siteId);
  const mayUndo = useMayAt('undo')(one.siteId);
  if (one.records.length === 0) return null;
  const last = one.records.find(({ undone }) => !undone);
  return (
    <Card aria-label="Recorded">
      <h2>Recorded</h2>
      <Table>
        <TableBody>
          {one.records.map((record) => (
            <TableRow key={record.movementId}>
              <TableCell className={record.undone ? 'quiet' : ''}>
                {quantity(record.made)} made{some(record.scrapped) ? `, ${quantity(record.scrapped)} scrapped` : ''}
                <small className="quiet name">
                  {record.worker}, {moment(record.postedAt)}
                  {some(record.hours) ? `, ${quantity(record.hours)} hours` : ''}
                  {record.undone ? ', undone' : ''}
                </small>
                {record.untakenReason === '' ? null : <small className="late name">Not all was taken from a shelf: {record.untakenReason}</small>}
              </TableCell>
              <TableCell align="right">
                {seesCost ? money(record.value) : ''}
                {record === last && mayUndo ? (
                  <UndoButton movementId={record.movementId} what={`the record of ${quantity(record.made)} made on ${one.number}`} />
                ) : null}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
