import Button from '@mui/material/Button';
import type { Problem } from '@larder/contract/values';
import type { WorkOrder } from '@larder/contract/workOrders';
import { Link } from 'react-router';
import { fieldsOf } from '../../kit/formFields';
import { count } from '../../kit/format';
import { Card, Stack, Ways } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useMayAt } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useTakeForWorkMutation, useWorkTakingQuery } from './api';
import type { RecordDraft } from './recordForm';

const { Field } = fieldsOf<RecordDraft>();

interface BlockProps {
  one: WorkOrder;
  problem: Problem;
  untaken: readonly { lineId: number; sku: string; quantity: string }[];
  /** It may be completed all the same, with a reason. */
  mayPass: boolean;
}

/** Why it cannot be completed: what was used and never taken from a shelf; from here it is taken, or its bin is counted. */
export function RecordBlock({ one, problem, untaken, mayPass }: BlockProps) {
  const say = useSay();
  const [mayTake, mayCount] = [useMayAt('outbound.ship')(one.siteId), useMayAt('stock.count')(one.siteId)];
  const lines = untaken.map(({ lineId, quantity: many }) => ({ lineId, quantity: many }));
  const { currentData } = useWorkTakingQuery({ params: { id: one.id }, body: { lines } }, { skip: lines.length === 0 });
  const [take, taking] = useTakeForWorkMutation();
  const rows = currentData?.rows ?? [];
  const bins = [...new Map(rows.map(({ binId, bin }) => [binId, bin]))];
  const nowhere = untaken.filter(({ lineId }) => !rows.some((row) => row.lineId === lineId));
  const takeNow = async () => {
    const body = { lines: rows.map(({ lineId, binId, lotId, take: many }) => ({ lineId, binId, lotId, quantity: many })) };
    const { data } = await take({ params: { id: one.id }, body });
    if (data)
      say({
        text: `${count(rows.length, 'part')} taken for ${one.number}.`,
        undo: { movementId: data.movementId, what: `taking ${count(rows.length, 'part')}` },
      });
  };
  return (
    <Card aria-label="This cannot be completed yet" role="alert">
      <h2 className="late">This cannot be completed yet</h2>
      <Stack pad>
        <p>{problem.title}</p>
        <Refused error={taking.error} />
        <Ways>
          {rows.length > 0 && mayTake ? (
            <Button variant="outlined" disabled={taking.isLoading} onClick={() => void takeNow()}>
              Take {rows.length === 1 ? 'it' : `these ${rows.length}`} now: {bins.map(([, bin]) => bin).join(', ')}
            </Button>
          ) : null}
          {mayCount
            ? bins.map(([binId, bin]) => (
                <Button key={binId} component={Link} to={`/stock/counts/new?site=${one.siteId}&bin=${binId}`}>
                  Count {bin} first
                </Button>
              ))
            : null}
        </Ways>
        {nowhere.length > 0 && currentData ? (
          <p className="quiet">
            No bin here has {nowhere.map(({ sku }) => sku).join(', ')}.{' '}
            <Link to={`/stock/corrections/new?items=${nowhereItems(one, nowhere).join(',')}`}>Say what lies where</Link>, then take it. What is typed here
            stays.
          </p>
        ) : null}
        {mayPass ? (
          <Field label="Complete it all the same, because" name="untakenReason" placeholder="the owner's right: what was not taken stays open" />
        ) : null}
      </Stack>
    </Card>
  );
}

const nowhereItems = (one: WorkOrder, nowhere: readonly { lineId: number }[]): number[] =>
  nowhere.flatMap(({ lineId }) => one.lines.find(({ id }) => id === lineId)?.itemId ?? []);
