import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { PageHead, Side, Split, Stack, Totals } from '../../kit/layout';
import { useWatch } from 'react-hook-form';
import type { Bill } from '@larder/contract/bills';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { amount, due, money, shortDay } from '../../kit/format';
import { Refused } from '../../kit/states';
import { usePostBillMutation, useUndoBillMutation, useUndoPaymentMutation } from './api';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { PayCard, usePaying } from './PayCard';
import { PostedLines } from './PostedLines';
import { Payments } from './Payments';

/** A bill that was posted: its lines, what differed, what was paid. */
export function Standing({ bill, today, own }: { bill: Bill; today: string; own: string }) {
  const foreign = bill.currency !== own;
  const [post, posting] = usePostBillMutation();
  const [undo, undoing] = useUndoBillMutation();
  const pay = usePaying(bill, today);
  const say = useSay();
  const mayBill = useMay('books.bill');
  const mayPay = useMay('books.pay');
  const [undoPayment, undoingPayment] = useUndoPaymentMutation();
  const { refused, problem, busy } = refusalOf(posting, undoing, undoingPayment);
  const params = { id: bill.id };
  const owed = bill.state === 'open' || bill.state === 'part paid';
  const paying = useWatch({ control: pay.form.control, name: 'amount' });
  const postBill = async (sentBack = false) => {
    if (!(await post({ params, body: { sentBack } })).error) say({ text: `${bill.number} is posted.` });
  };
  const takeBack = async () => {
    if (!(await undo({ params, body: {} })).error) say({ text: `${bill.number} is undone.` });
  };
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
          <Asking question={problem.title} answers={[{ label: 'Post it all, and expect a credit', run: () => void postBill(true) }]} busy={busy} />
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
        <Payments bill={bill} today={today} busy={busy} undo={mayPay ? (id) => void undoPayment({ params: { id }, body: {} }) : null} />
      </Stack>
      <Stack>
        {owed && mayPay ? <PayCard bill={bill} today={today} own={own} pay={pay} /> : null}
        <BookEffectPanel title="What this did" effects={bill.state === 'waiting' ? undefined : bill} idle="It waits for its goods; nothing is posted yet." />
      </Stack>
      <BottomBar
        next={
          bill.state === 'waiting' && mayBill
            ? { label: `Post ${bill.number}`, run: () => void postBill(), disabled: busy }
            : owed && mayPay
              ? { label: `Record payment of ${paying}`, run: () => void pay.record(), disabled: busy || pay.form.isBusy }
              : undefined
        }
      >
        {bill.state === 'undone' || !mayBill ? null : (
          <Button disabled={busy} onClick={() => void takeBack()}>
            Undo {bill.number}
          </Button>
        )}
      </BottomBar>
    </Split>
  );
}
