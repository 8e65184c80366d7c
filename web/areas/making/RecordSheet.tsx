import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { type WorkOrder } from '@larder/contract/workOrders';
import { restWays } from '@larder/contract/workRecords';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { CoverBar } from '../../kit/CoverBar';
import { useDelayed, useStanding } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { quantity, shortDay } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { problemOf } from '../../kit/problem';
import { useVersionOf } from '../../kit/row';
import { useScan, type Heard } from '../../kit/scan';
import { Refused } from '../../kit/states';
import { useBinsQuery } from '../../shared/reference';
import { useLazyReadCodeQuery } from '../../shared/items';
import { LineEntry } from '../../shared/LineEntry';
import { useMayAt } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useAddComponentMutation, useForeseeRecordQuery, useRecordWorkMutation } from './api';
import { MadeCard } from './MadeCard';
import { OutcomePanel } from './OutcomePanel';
import { RecordBlock } from './RecordBlock';
import { RecordCharges } from './RecordCharges';
import {
  goodOf,
  leftOf,
  proposedUsed,
  recordBody,
  recordDraft,
  recordField,
  recordRowKeys,
  untakenOf,
  withScanned,
  type RecordDraft,
  type UsedRow,
} from './recordForm';

const { Cell, Choice, LongField } = fieldsOf<RecordDraft>();
/** What may be asked before it is recorded, and what the answer says. */
const answers = { moreThanOrdered: 'Record it all the same', otherCost: 'It is right', pastUse: 'It was used all the same' } as const;
const restWords: Record<(typeof restWays)[number], string> = {
  'goes on': 'stays on this order',
  'new order': 'becomes an order of its own',
  'given up': 'is given up',
};

interface RecordSheetProps {
  one: WorkOrder;
  today: string;
  done: () => void;
}

/** What was really used and made, by whom: proposed as the order says, each line corrected to what is on the sheet; seen before it is posted. */
export function RecordSheet({ one, today, done }: RecordSheetProps) {
  const say = useSay();
  const navigate = useNavigate();
  const { data: me } = useMeQuery({});
  const { data: bins } = useBinsQuery({ query: { siteId: one.siteId } });
  const [said, setSaid] = useState<string | null>(null);
  const [readCode] = useLazyReadCodeQuery();
  const [record] = useRecordWorkMutation();
  const [addPart, adding] = useAddComponentMutation();
  const mayPass = useMayAt('making.unrecorded')(one.siteId);
  const of = useVersionOf([one.version, one.lines, one.products]);
  const form = useForm({
    came: recordDraft(one),
    version: of,
    rowKeys: recordRowKeys,
    body: (typed: RecordDraft) => recordBody(typed, one.version),
    checkedBy: async () => (await import('@larder/contract/workRecords')).recordWork.body,
    sentAs: recordField,
  });
  const typed = useWatch({ control: form.control }) as RecordDraft;
  const asked = useDelayed(recordBody(typed, one.version), 300);
  // What is taken meanwhile changes nothing that is sent, and yet what stands in the way.
  const foresee = { params: { id: one.id }, body: { ...asked, otherCost: true, moreThanOrdered: true, pastUse: true }, of };
  const { currentData, error: answer, isFetching } = useForeseeRecordQuery(foresee);
  // What stands in the way stays until there is another answer: it has a button, which must not go from under a finger.
  const error = useStanding(answer, isFetching);
  const foreseen = problemOf(error);
  const isBlocked = foreseen?.type === 'not-taken' || foreseen?.type === 'nothing-used';
  const left = leftOf(typed);
  const ends = left.isZero() || typed.rest !== 'goes on';
  const untaken = untakenOf(typed);
  useScan(async (code): Promise<Heard> => {
    const { data: read } = await readCode({ query: { code } }, true);
    const [item, other] = read?.items ?? [];
    const counted = item && !other ? withScanned(form.getValues(), item.itemId, item.lotId, read?.quantity ?? item.factor) : null;
    if (!counted) {
      setSaid(item && !other ? `${item.sku} is not among the parts. Add it, if it was used.` : `${code} means nothing here.`);
      return 'refused';
    }
    form.setValue('used', counted.draft.used, { shouldDirty: true });
    form.setValue('made', counted.draft.made, { shouldDirty: true });
    setSaid(counted.said);
    return true;
  });
  const post = async (agreed: Partial<Record<keyof typeof answers, boolean>> = {}) => {
    const sent = await form.send((body) => record({ params: { id: one.id }, body: { ...body, ...agreed } }));
    if (!sent) return;
    const made = `${quantity(goodOf(typed, 0).toFixed())} ${one.sku}`;
    const labels = { to: `/labels?items=${sent.outcome.outputs.map(({ itemId }) => itemId).join(',')}`, name: 'Labels for what was made' };
    say({
      text: `${made} made on ${one.number}.`,
      undo: { movementId: sent.movementId, what: `the record of ${made} made` },
      ...(sent.outcome.outputs.length > 0 ? { made: labels } : {}),
    });
    if (sent.restId === null) done();
    else void navigate(`/making/orders/${sent.restId}`);
  };
  const asks = (form.refused?.asks ?? []).filter((ask): ask is keyof typeof answers => ask in answers);
  const agreed = Object.fromEntries(asks.map((ask) => [ask, true]));
  return (
    <FormFrame form={form} save={() => void post()} foreseen={isBlocked ? null : foreseen} fleeting keptAt={`record ${me?.id ?? ''} ${one.id}`}>
      <Split>
        <Stack>
          {form.refused && asks[0] ? (
            <Asking question={form.refused.title} answers={[{ label: answers[asks[0]], run: () => void post(agreed) }]} busy={form.isBusy} />
          ) : (
            <Refused error={form.refused?.type === 'not-taken' ? null : form.refused} />
          )}
          {said === null ? null : <Notice role="status">{said}</Notice>}
          <MadeCard typed={typed} bins={bins?.rows ?? []} />
          <Used typed={typed} untaken={untaken} today={today} />
          <Card pad stack aria-label="Another part">
            <span className="quiet">Another part went in</span>
            <LineEntry
              label="Another part that was used"
              takesScans={false}
              add={(item, many) => {
                void addPart({ params: { id: one.id }, body: { itemId: item.id, quantity: many || '1' } });
              }}
            />
            <Refused error={adding.error} />
          </Card>
          <RecordCharges typed={typed} />
          <Card pad fields component="div">
            {left.gt(0) ? (
              <Choice
                label={`What is left, ${quantity(left.toFixed())},`}
                name="rest"
                options={restWays.map((way) => ({ value: way, label: restWords[way] }))}
              />
            ) : null}
            <LongField label="Note" name="note" rows={1} />
          </Card>
        </Stack>
        <Stack>
          {foreseen && isBlocked ? <RecordBlock one={one} problem={foreseen} untaken={untaken} mayPass={mayPass && ends} /> : null}
          <OutcomePanel answer={currentData} error={isBlocked ? undefined : error} one={one} />
        </Stack>
        <BottomBar
          hint="A scan counts one"
          next={{ label: `${ends ? 'Complete' : 'Record'} ${quantity(goodOf(typed, 0).toFixed())}`, run: () => void post(), disabled: form.isBusy }}
        >
          <Button onClick={done}>Back to the work order</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}

interface UsedProps {
  typed: RecordDraft;
  untaken: readonly { lineId: number; quantity: string }[];
  today: string;
}

const Used = ({ typed, untaken, today }: UsedProps) => (
  <Card component="div" sheet>
    <Table aria-label="What went in" className="floor">
      <TableHead>
        <TableRow>
          <TableCell>What went in</TableCell>
          <TableCell align="right">To take</TableCell>
          <TableCell align="right">Taken</TableCell>
          <TableCell align="right">Really used</TableCell>
          <TableCell className="wide-only">In the records</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {typed.used.map((row, index) => {
          const missing = untaken.find(({ lineId }) => lineId === row.lineId);
          const isFirst = typed.used.findIndex(({ lineId }) => lineId === row.lineId) === index;
          return (
            <TableRow key={row.key}>
              <ItemCell of={row}>
                {row.lot === null ? null : (
                  <small className="quiet">
                    {row.tracking} {row.lot}
                    {row.useBy === null ? '' : `, use by ${shortDay(row.useBy, today)}`}
                  </small>
                )}
              </ItemCell>
              <TableCell align="right" className="quiet">
                <span className="phone-only">to take </span>
                {isFirst ? quantity(row.needed, true) : ''}
              </TableCell>
              <TableCell align="right" className="quiet wide-only">
                {quantity(row.lot === null ? row.taken : row.atWork, true)}
              </TableCell>
              <TableCell align="right" className="under">
                <span className="phone-only">used </span>
                <Cell number tall label={`Really used of ${row.lot ?? row.sku}`} name={`used.${index}.quantity`} proposed={proposedUsed(typed, index)} />
              </TableCell>
              <TableCell className={missing ? 'under' : 'wide-only'}>
                {missing && isFirst ? (
                  <CoverBar
                    here={Number(row.taken)}
                    coming={0}
                    unknown={Number(missing.quantity)}
                    words={`${quantity(missing.quantity)} used, never taken from a shelf`}
                  />
                ) : (
                  <Recorded row={row} />
                )}
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  </Card>
);

const Recorded = ({ row }: { row: UsedRow }) => (
  <span className="quiet">
    {Number(row.used) > 0 ? `${quantity(row.used)} recorded before` : Number(row.atWork) > 0 ? `${quantity(row.atWork)} at the work` : ''}
  </span>
);
