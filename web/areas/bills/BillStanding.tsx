import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, PageHead, Side, Split, Stack, Totals } from '../../kit/layout';
import { useState } from 'react';
import type { Bill } from '@larder/contract/bills';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { amount, due, money, shortDay } from '../../kit/format';
import { Refused } from '../../kit/states';
import { usePayMutation, usePostBillMutation, useUndoBillMutation, useUndoPaymentMutation } from './api';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { PostedLines } from './PostedLines';
import { Payments } from './Payments';

/** A bill that was posted: its lines, what differed, what was paid. */
export function Standing({ bill, today, own }: { bill: Bill; today: string; own: string }) {
  const [paidOn, setPaidOn] = useState<string | null>(today);
  const [paying, setPaying] = useState(bill.open);
  const [rate, setRate] = useState(bill.rate);
  const foreign = bill.currency !== own;
  const [post, posting] = usePostBillMutation();
  const [undo, undoing] = useUndoBillMutation();
  const [pay, recording] = usePayMutation();
  const [undoPayment, undoingPayment] = useUndoPaymentMutation();
  const { refused, problem, busy, at } = refusalOf(posting, undoing, recording, undoingPayment);
  const params = { id: bill.id };
  const owed = bill.state === 'open' || bill.state === 'part paid';
  const record = (over = false) => void pay({ params, body: { paidOn: paidOn ?? today, amount: paying, rate, over } });
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{bill.number}</h1>
          <Box component="span" sx={{ fontSize: 16 }}>
            {bill.party}
          </Box>
          <span className="quiet">
            {bill.kind} {bill.reference} of {shortDay(bill.billedOn, today)}
            {bill.bookedOn && bill.bookedOn !== bill.billedOn ? `, booked on ${shortDay(bill.bookedOn, today)} with its goods` : ''}
          </span>
          <Side>
            <span className={bill.late ? 'late' : ''}>
              {bill.state}
              {bill.dueOn && owed ? `, due ${due(bill.dueOn, today)}` : ''}
            </span>
          </Side>
        </PageHead>
        {problem?.asks.includes('sent-back') ? (
          <Asking
            question={problem.title}
            answers={[{ label: 'Post it all, and expect a credit', run: () => void post({ params, body: { sentBack: true } }) }]}
            busy={busy}
          />
        ) : (
          <Refused error={refused} />
        )}
        <PostedLines bill={bill} own={own} />
        <Totals component="p">
          {foreign ? <span>{`${money(bill.owed)} ${own} at ${bill.rate}`}</span> : null}
          <span>
            Net {amount(bill.net)}, tax {amount(bill.tax)}, total
          </span>
          <b>
            {amount(bill.total)} {bill.currency}
          </b>
        </Totals>
        <Payments bill={bill} today={today} busy={busy} undo={(id) => void undoPayment({ params: { id }, body: {} })} />
      </Stack>
      <Stack>
        {owed ? (
          <Card aria-label="Pay">
            <h2>{bill.kind === 'bill' ? 'Pay' : 'Money back'}</h2>
            <Stack pad>
              <DayField label="Paid on" lies="behind" value={paidOn} today={today} onChange={setPaidOn} error={at('paidOn')} />
              <Field label={`Amount, ${bill.currency}`} value={paying} onChange={setPaying} error={at('amount')} />
              {foreign ? <Field label={`${own} for one ${bill.currency} that day`} value={rate} onChange={setRate} error={at('rate')} /> : null}
              {problem?.asks.includes('over') ? (
                <Button disabled={busy} onClick={() => record(true)}>
                  Pay more than is open
                </Button>
              ) : null}
            </Stack>
          </Card>
        ) : null}
        <BookEffectPanel title="What this did" effects={bill.state === 'waiting' ? undefined : bill} idle="It waits for its goods; nothing is posted yet." />
      </Stack>
      <BottomBar
        next={
          bill.state === 'waiting'
            ? { label: `Post ${bill.number}`, run: () => void post({ params, body: {} }), disabled: busy }
            : owed
              ? { label: `Record payment of ${paying}`, run: () => record(), disabled: busy }
              : undefined
        }
      >
        {bill.state === 'undone' ? null : (
          <Button disabled={busy} onClick={() => void undo({ params, body: {} })}>
            Undo {bill.number}
          </Button>
        )}
      </BottomBar>
    </Split>
  );
}
