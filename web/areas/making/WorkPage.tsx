import Button from '@mui/material/Button';
import type { WorkOrder } from '@larder/contract/workOrders';
import { Link, useNavigate, useParams } from 'react-router';
import { useAddress } from '../../kit/address';
import { count, dueDay, quantity } from '../../kit/format';
import { PageHead, Side } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { StageTrack } from '../../kit/StageTrack';
import { useTitle } from '../../kit/title';
import { doneOrKept } from '../../shared/floor/kept';
import { useMeQuery } from '../../shared/me';
import { PickingSheet, type Picked } from '../../shared/PickingSheet';
import { useSay } from '../../shared/say';
import { useForeseeWorkPickQuery, usePickWorkOrderMutation, useWorkOrderQuery, useWorkPickListQuery } from './api';
import { ApartLook } from './ApartLook';
import { BringBackSheet } from './BringBackSheet';
import { RecordSheet } from './RecordSheet';
import { WorkChange } from './WorkChange';
import { WorkLook } from './WorkLook';

const doings = [
  ['look', ''],
  ['take', ''],
  ['record', ''],
  ['back', ''],
  ['change', ''],
] as const;

/** A work order: what goes in, what was taken, used and made of it, and what is done next. */
export function WorkPage() {
  const { id = '' } = useParams();
  const { data, error } = useWorkOrderQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data?.number ?? 'Work order');
  if (!data || !me) return <Waiting error={error} />;
  if (data.apart) return <ApartLook key={data.id} id={data.id} />;
  return <Opened key={data.id} one={data} today={me.company.today} />;
}

function Opened({ one, today }: { one: WorkOrder; today: string }) {
  const address = useAddress();
  const navigate = useNavigate();
  const doing = address.choice('do', doings);
  const go = (what: (typeof doings)[number][0]) => void navigate(`/making/orders/${one.id}${what === 'look' ? '' : `?do=${what}`}`);
  const back = () => go('look');
  if (doing === 'change') return <WorkChange one={one} today={today} done={back} />;
  return (
    <>
      <PageHead>
        <h1>{one.number}</h1>
        <span>
          {one.sku} {one.name}
        </span>
        <span className="quiet">
          {quantity(one.quantity)} {one.unit === 'each' ? '' : one.unit} at {one.site}
          {one.sale ? `, for ${one.sale.number}` : ''}
        </span>
        <a className="wide-only" href={`/api/making/orders/${one.id}/job-sheet`} target="_blank" rel="noreferrer">
          Job sheet as PDF
        </a>
        {one.ended ? null : (
          <a className="wide-only" href={`/api/making/pick-lists?ids=${one.id}`} target="_blank" rel="noreferrer">
            Pick list as PDF
          </a>
        )}
        {Number(one.made) > 0 ? (
          <Link className="wide-only" to={`/labels?items=${one.itemId}`}>
            Labels
          </Link>
        ) : null}
        <Side>
          <span className={one.late ? 'late' : ''}>{one.ended ? one.state : `Due ${dueDay(one.dueOn, today)}`}</span>
        </Side>
      </PageHead>
      <StageTrack stages={one.stages} />
      {doing === 'look' ? <WorkLook one={one} today={today} go={go} /> : null}
      {doing === 'take' ? <Take one={one} done={back} /> : null}
      {doing === 'record' ? <RecordSheet one={one} today={today} done={back} /> : null}
      {doing === 'back' ? <BringBackSheet one={one} done={back} /> : null}
    </>
  );
}

/** The pick list of a work order: what is taken is at the work until it is used. */
function Take({ one, done }: { one: WorkOrder; done: () => void }) {
  const params = { id: one.id };
  const { data, error } = useWorkPickListQuery({ params });
  const [pick] = usePickWorkOrderMutation();
  const say = useSay();
  const useForeseen = (body: Picked | null) => {
    const { currentData, error: foreseen } = useForeseeWorkPickQuery(
      { params, body: { ...(body ?? { lines: [], short: [], shortReason: '' }), othersRound: true } },
      { skip: body === null },
    );
    return { effects: currentData?.effects, error: foreseen };
  };
  if (!data) return <Waiting error={error} />;
  return (
    <PickingSheet
      rows={data.rows}
      missing={data.missing}
      useForeseen={useForeseen}
      nextWords={(lines) => `Take ${lines} to the work`}
      send={(body, _allTaken, moves) => {
        const kept = { words: `Take ${count(body.lines.length, 'part')} for ${one.number}`, to: `/making/orders/${one.id}`, moves };
        return pick({ params, body, kept });
      }}
      done={(answer, lines) => {
        const taken = count(lines, 'part');
        say(doneOrKept(answer, `${taken} of ${one.number} at the work.`, `taking ${taken}`));
        done();
      }}
    >
      <Button onClick={done}>Back to the work order</Button>
    </PickingSheet>
  );
}
