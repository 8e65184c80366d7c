import Button from '@mui/material/Button';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { getRound } from '@larder/contract/picking';
import { Link, useNavigate, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { count, moment } from '../../kit/format';
import { forWhom } from '../../kit/DocumentLink';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { doneOrKept } from '../../shared/floor/kept';
import { useSay } from '../../shared/say';
import { useEndRoundMutation, useForeseePickRoundQuery, usePickRoundMutation, useRoundQuery } from './api';
import { PickingSheet, type Picked } from '../../shared/PickingSheet';
import { linkOf } from './picked';

type Round = ResponseOf<typeof getRound>;

/** A round: its orders with their slots, and what to take for them in walking order. */
export function RoundPage() {
  const { id = '' } = useParams();
  const { currentData, error } = useRoundQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(`Round ${id}`);
  if (!currentData || !me) return <Waiting error={error} />;
  return (
    <>
      <PageHead>
        <h1>Round {currentData.id}</h1>
        <span className="quiet">
          {currentData.picker} at {currentData.site}, since {moment(currentData.startedAt)}
          {currentData.endedAt === null ? '' : ', ended'}
        </span>
        {currentData.rows.length > 0 ? (
          <a className="wide-only" href={`/api/outbound/rounds/${currentData.id}/paper`} target="_blank" rel="noreferrer">
            Pick list as PDF
          </a>
        ) : null}
      </PageHead>
      <Slots round={currentData} />
      {currentData.endedAt === null && currentData.pickerId === me.id && currentData.rows.length > 0 ? (
        <Sheet round={currentData} />
      ) : (
        <Idle round={currentData} isMine={currentData.pickerId === me.id} />
      )}
    </>
  );
}

/** Which order's goods go into which slot of the trolley. */
const Slots = ({ round }: { round: Round }) => (
  <Card pad aria-label="Slots" sx={{ display: 'flex', flexWrap: 'wrap', gap: '6px 18px', marginBottom: 14 }}>
    {round.slots.map((one) => (
      <span key={one.slot}>
        <b>Slot {one.slot}</b> <Link to={linkOf(one)}>{one.number}</Link> <span className="quiet">{forWhom(one)}</span>
      </span>
    ))}
  </Card>
);

function Sheet({ round }: { round: Round }) {
  const navigate = useNavigate();
  const say = useSay();
  const params = { id: round.id };
  const [pick] = usePickRoundMutation();
  const useForeseen = (body: Picked | null) => {
    const { currentData, error } = useForeseePickRoundQuery({ params, body: body ?? { lines: [], short: [], shortReason: '' } }, { skip: body === null });
    return { effects: currentData?.effects, error };
  };
  return (
    <PickingSheet
      rows={round.rows}
      missing={round.missing}
      useForeseen={useForeseen}
      send={(body, allTaken, moves) => {
        const kept = { words: `Pick ${count(body.lines.length, 'line')} of round ${round.id}`, to: `/outbound/rounds/${round.id}`, moves };
        return pick({ params, body: { ...body, ends: allTaken }, kept });
      }}
      done={(answer, lines, allTaken) => {
        const sent = count(lines, 'line');
        say(doneOrKept(answer, `${sent} of round ${round.id} on the bench.`, `the pick of ${sent}`));
        if (allTaken) void navigate('/outbound/picking');
      }}
    >
      <End round={round} />
    </PickingSheet>
  );
}

/** Ends a round: what was not picked goes back to what is to be picked. */
function End({ round }: { round: Round }) {
  const [end, ending] = useEndRoundMutation();
  return (
    <>
      <Refused error={ending.error} />
      <Button disabled={ending.isLoading} onClick={() => void end({ params: { id: round.id }, body: {} })}>
        End the round
      </Button>
    </>
  );
}

/** A round that the person does not pick by: it is ended, somebody else’s, or nothing is left of it. */
function Idle({ round, isMine }: { round: Round; isMine: boolean }) {
  const navigate = useNavigate();
  const mayShip = useMay('outbound.ship', round.siteId);
  return (
    <Stack>
      <Card state component="p">
        {round.endedAt !== null
          ? 'This round is ended. What was not picked is in the list of what is to be picked.'
          : isMine
            ? 'Nothing of it is left to be taken: end the round.'
            : `${round.picker} picks this round. End it when it was left lying; what is not picked may then be picked by others.`}
      </Card>
      <BottomBar hint={count(round.slots.length, 'order')} next={{ label: 'What is to be picked', run: () => void navigate('/outbound/picking') }}>
        {mayShip && round.endedAt === null ? <End round={round} /> : null}
      </BottomBar>
    </Stack>
  );
}
