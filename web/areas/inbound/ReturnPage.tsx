import { useSay } from '../../shared/Messages';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { decimal, least } from '@larder/core/decimal';
import { readNumber } from '@larder/core/number';
import type { SupplierReturnForm } from '@larder/contract/receiving';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { EffectPanel } from '../../kit/EffectPanel';
import { Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useForeseeReturnQuery, useReturnableQuery, useReturnGoodsMutation } from './api';
import { ReturnPlaces } from './ReturnPlaces';

/** Goods of an order that go back to the supplier: from which bin or lot, how many, and why. */
export function ReturnPage() {
  const { id = '' } = useParams();
  const orderId = Number(id);
  const navigate = useNavigate();
  const say = useSay();
  const { data, error } = useReturnableQuery({ params: { id: orderId } });
  useTitle(data ? `Return on ${data.number}` : 'Return to supplier');
  const [own, setTyped] = useState<Record<string, string>>({});
  const [search] = useSearchParams();
  const [note, setNote] = useState('');
  const [then, setThen] = useState<'replaced' | 'credited' | null>(null);
  const [send, sending] = useReturnGoodsMutation();
  const { refused, busy, at } = refusalOf(sending);
  const places = (data?.rows ?? []).flatMap((row) =>
    row.places.map((place) => ({ row, place, key: `${row.purchaseLineId} ${place.binId} ${place.lotId ?? ''}` })),
  );
  // Goods somebody came here with are put in, as many as lie there and came on this order.
  const meant = places.find(
    ({ row, place }) =>
      String(place.binId) === search.get('bin') && String(row.itemId) === search.get('item') && String(place.lotId ?? '') === (search.get('lot') ?? ''),
  );
  const typed: Record<string, string> = {
    ...(meant ? { [meant.key]: least(decimal(meant.place.quantity), decimal(meant.row.received)).toFixed() } : {}),
    ...own,
  };
  const going = places.filter(({ key }) => readNumber(typed[key] ?? '', 'quantity')?.gt(0));
  const body: SupplierReturnForm = {
    orderId,
    note: note.trim(),
    then,
    lines: going.map(({ row, place, key }) => ({
      purchaseLineId: row.purchaseLineId,
      binId: place.binId,
      lotId: place.lotId,
      quantity: (typed[key] ?? '').trim(),
    })),
  };
  const asked = useDelayed({ ...body, note: body.note || 'not said yet' }, 300);
  const { currentData, error: unforeseen } = useForeseeReturnQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const foreseen = refusalOf({ error: unforeseen, isLoading: false });
  const asking = foreseen.problem?.asks.includes('replaced') && then === null ? foreseen.problem : null;
  if (!data) return <Waiting error={error} />;
  const post = async () => {
    const { data: sent, error: failed } = await send({ body });
    if (failed) return;
    const lines = count(going.length, 'line');
    say({ text: `Sent back ${lines}.`, undo: { movementId: sent.movementId, what: `the return of ${lines}` } });
    void navigate(`/inbound/orders/${orderId}`);
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Return to {data.supplier}</h1>
          <Link className="code" to={`/inbound/orders/${orderId}`}>
            {data.number}
          </Link>
        </PageHead>
        {asking ? (
          <Asking
            question={asking.title}
            answers={[
              { label: 'They will be replaced', run: () => setThen('replaced') },
              { label: 'A credit is expected', run: () => setThen('credited') },
            ]}
          />
        ) : (
          <Refused error={refused} />
        )}
        <Card pad aria-label="Why">
          <Field label="Why it goes back" value={note} onChange={setNote} error={at('note')} placeholder="cracked, wrong colour…" />
        </Card>
        <ReturnPlaces
          places={places}
          typed={typed}
          type={(key, value) => setTyped({ ...own, [key]: value })}
          faultOf={(key) => {
            const index = going.findIndex((one) => one.key === key);
            return index < 0 || asking ? undefined : (at(`lines.${index}`) ?? foreseen.at(`lines.${index}`));
          }}
        />
      </Stack>
      <EffectPanel
        title="What this will change"
        effects={asked.lines.length > 0 ? currentData?.effects : undefined}
        error={asked.lines.length > 0 && !asking ? unforeseen : undefined}
        idle="Say how many go back. What was billed already is then owed back by the supplier, until their credit is entered."
      />
      <BottomBar
        hint={then === null ? undefined : then === 'replaced' ? 'The order waits for these goods again' : 'The order does not wait for these goods any more'}
        next={{ label: `Send back ${count(going.length, 'line')}`, run: () => void post(), disabled: busy || going.length === 0 || note.trim() === '' }}
      />
    </Split>
  );
}
