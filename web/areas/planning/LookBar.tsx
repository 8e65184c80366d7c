import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import type { Look } from '@larder/contract/levels';
import { useEffect, useState } from 'react';
import { count, moment } from '../../kit/format';
import { Ways } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';
import { useLastLookQuery, useStartLookMutation, useStopLookMutation } from './api';

/** How often one asks how far a look is, in milliseconds. */
const often = 1500;
const isGoing = (look: Look | null | undefined): boolean => look?.state === 'waiting' || look?.state === 'looking';

/** When the past was last looked at, or how far it is; and how it is looked at anew or stopped. */
export function LookBar() {
  const may = useMay('items.edit', null);
  const [going, setGoing] = useState(false);
  const { data } = useLastLookQuery({}, { pollingInterval: going ? often : 0 });
  const [start, starting] = useStartLookMutation();
  const [stop] = useStopLookMutation();
  const look = data?.look;
  useEffect(() => setGoing(isGoing(look)), [look]);
  return (
    <Ways>
      <span className="quiet" role="status">
        {look ? stateInWords(look) : 'The past was not looked at yet.'}
      </span>
      {look && isGoing(look) ? (
        <LinearProgress
          sx={{ width: 120 }}
          aria-label="Items looked at"
          variant={look.total === null ? 'indeterminate' : 'determinate'}
          value={look.total === null ? 0 : (100 * look.done) / Math.max(1, look.total)}
        />
      ) : null}
      {may && look && isGoing(look) ? <Button onClick={() => void stop({ params: { id: look.id } })}>Stop</Button> : null}
      {may && !isGoing(look) ? (
        <Button disabled={starting.isLoading} onClick={() => void start({})}>
          Look at the past anew
        </Button>
      ) : null}
      <Refused error={starting.error} />
    </Ways>
  );
}

function stateInWords({ state, done, total, endedAt, askedBy, fault }: Look): string {
  if (state === 'waiting') return 'The past is about to be looked at.';
  if (state === 'looking') return `Looking at the past: ${count(done, 'item')} of ${total ?? 'all'}.`;
  if (state === 'failed') return fault;
  const when = endedAt === null ? '' : ` ${moment(endedAt)}`;
  const by = askedBy === null ? '' : `, asked by ${askedBy}`;
  return state === 'stopped' ? `Stopped${when} after ${count(done, 'item')}.` : `Looked at ${count(done, 'item')}${when}${by}.`;
}
