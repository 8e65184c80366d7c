import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { Loan } from '@larder/contract/loans';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { dueDay, moment, quantity, shortDay } from '../../kit/format';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { Movements } from '../../shared/Movements';
import { OrderChanges } from '../../shared/OrderChanges';
import { Reminders } from '../../shared/Reminders';
import { useSay } from '../../shared/say';
import { useChangeLoanMutation, useLoanQuery } from './api';
import { BackSheet } from './BackSheet';
import { LoanLines } from './LoanLines';
import { LostSheet } from './LostSheet';

type Mode = 'look' | 'back' | 'lost' | 'change';

/** A loan: who has what, until when, and how it came back. */
export function LoanPage() {
  const { id = '' } = useParams();
  const { data, error } = useLoanQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data?.number ?? 'Loan');
  if (!data || !me) return <Waiting error={error} />;
  return <Opened key={data.id} one={data} today={me.company.today} />;
}

function Opened({ one, today }: { one: Loan; today: string }) {
  const [mode, setMode] = useState<Mode>('look');
  const look = () => setMode('look');
  return (
    <>
      <PageHead>
        <h1>{one.number}</h1>
        <span>
          lent to <Link to={`/stock/holders/${one.holderId}`}>{one.holder}</Link> by {one.site}
        </span>
        <a className="wide-only" href={`/api/loans/${one.id}/paper`} target="_blank" rel="noreferrer">
          Loan note as PDF
        </a>
        <Side>
          <span className={one.overdue ? 'late' : ''}>
            {Number(one.out) > 0 ? (one.dueOn === null ? 'no day said' : `Due ${dueDay(one.dueOn, today)}`) : one.state}
          </span>
        </Side>
      </PageHead>
      {mode === 'back' ? <BackSheet lines={one.lineRows} from={one.holder} done={look} /> : null}
      {mode === 'lost' ? <LostSheet lines={one.lineRows} done={look} /> : null}
      {mode === 'change' ? <ChangeSheet one={one} today={today} done={look} /> : null}
      {mode === 'look' ? <Look one={one} today={today} go={setMode} /> : null}
    </>
  );
}

function Look({ one, today, go }: { one: Loan; today: string; go: (mode: Mode) => void }) {
  const may = useMayAt('stock.lend')(one.siteId);
  const isOut = Number(one.out) > 0;
  return (
    <Split>
      <Stack>
        <LoanLines lines={one.lineRows} today={today} isOfOne />
        {one.note === '' ? null : (
          <Card pad aria-label="Note">
            {one.note}
          </Card>
        )}
        {one.conditions.length > 0 ? <Conditions one={one} /> : null}
      </Stack>
      <Stack>
        <Card pad aria-label="When">
          <p className="quiet">
            Lent on {shortDay(one.lentOn, today)} by {one.person}. What is out stays yours, and is not free until it is back.
          </p>
        </Card>
        {isOut ? <Reminders of={{ loanId: one.id }} today={today} /> : null}
        <Movements movements={one.movements.map((movement) => ({ ...movement, value: '0' }))} />
        <OrderChanges changes={one.changes} today={today} />
      </Stack>
      <BottomBar next={may && isOut ? { label: 'Take things back', run: () => go('back') } : undefined}>
        {may && isOut ? <Button onClick={() => go('change')}>Another day</Button> : null}
        {may && isOut ? <Button onClick={() => go('lost')}>Some of it is lost</Button> : null}
      </BottomBar>
    </Split>
  );
}

/** How things came back. */
const Conditions = ({ one }: { one: Loan }) => (
  <Card aria-label="How it came back">
    <h2>How it came back</h2>
    <Table>
      <TableBody>
        {one.conditions.map((back) => {
          const line = one.lineRows.find(({ id }) => id === back.lineId);
          return (
            <TableRow key={`${back.at} ${back.lineId}`}>
              <TableCell>
                {quantity(back.quantity)} of {line?.lot ?? line?.sku}
              </TableCell>
              <TableCell>
                {back.condition}
                {back.note === '' ? '' : `: ${back.note}`}
              </TableCell>
              <TableCell className="quiet">{moment(back.at)}</TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  </Card>
);

interface ChangeDraft {
  dueOn: string | null;
  note: string;
}
const { Day, LongField } = fieldsOf<ChangeDraft>();

/** Another day for the whole loan, or another note. */
function ChangeSheet({ one, today, done }: { one: Loan; today: string; done: () => void }) {
  const say = useSay();
  const [change] = useChangeLoanMutation();
  const form = useForm({
    came: { dueOn: one.dueOn, note: one.note } as ChangeDraft,
    version: one.version,
    body: (typed: ChangeDraft) => ({ ...typed, version: one.version }),
    checkedBy: async () => (await import('@larder/contract/loans')).changeLoan.body,
  });
  const save = async () => {
    if (!(await form.send((body, _, version) => change({ params: { id: one.id }, body: { ...body, version } })))) return;
    say({ text: `${one.number} is changed.` });
    done();
  };
  return (
    <FormFrame form={form} save={() => void save()}>
      <Stack sx={{ maxWidth: 560 }}>
        <Refused error={form.refused} />
        <Card pad fields component="div">
          <Day label="To be back" name="dueOn" today={today} />
          <LongField label="Note" name="note" rows={2} />
        </Card>
      </Stack>
      <BottomBar next={{ label: `Save ${one.number}`, run: () => void save(), disabled: form.isBusy }}>
        <Button onClick={done}>Never mind</Button>
      </BottomBar>
    </FormFrame>
  );
}
