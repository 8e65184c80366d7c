import { useSay } from '../../shared/say';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { decimal, least } from '@larder/core/decimal';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { returnable } from '@larder/contract/receiving';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { problemOf } from '../../kit/problem';
import { sentRow, useVersionOf } from '../../kit/row';
import { count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useForeseeReturnQuery, useReturnableQuery, useReturnGoodsMutation } from './api';
import { ReturnPlaces } from './ReturnPlaces';
import { goesBack, placesOf, returnBody, rowKeys, type ReturnDraft, type ReturnLine } from './returnForm';

const { Field } = fieldsOf<ReturnDraft>();

/** Goods of an order that go back to the supplier: from which bin or lot, how many, and why. */
export function ReturnPage() {
  const { id = '' } = useParams();
  const orderId = Number(id);
  const { data, error } = useReturnableQuery({ params: { id: orderId } });
  useTitle(data ? `Return on ${data.number}` : 'Return to supplier');
  if (!data) return <Waiting error={error} />;
  return <Sheet key={orderId} orderId={orderId} order={data} />;
}

interface SheetProps {
  orderId: number;
  order: ResponseOf<typeof returnable>;
}

function Sheet({ orderId, order: { number, supplier, rows } }: SheetProps) {
  const navigate = useNavigate();
  const say = useSay();
  const [search] = useSearchParams();
  const [then, setThen] = useState<'replaced' | 'credited' | null>(null);
  const [send] = useReturnGoodsMutation();
  // Goods somebody came here with are put in, as many as lie there and came on this order.
  const meant = ({ row, place }: Omit<ReturnLine, 'quantity'>): string =>
    String(place.binId) === search.get('bin') && String(row.itemId) === search.get('item') && String(place.lotId ?? '') === (search.get('lot') ?? '')
      ? least(decimal(place.quantity), decimal(row.received)).toFixed()
      : '';
  const form = useForm({
    came: { note: '', lines: placesOf(rows, meant) },
    version: useVersionOf(rows),
    rowKeys,
    body: (typed: ReturnDraft) => returnBody(orderId, typed, then),
    checkedBy: async () => (await import('@larder/contract/receiving')).returnGoods.body,
    sentAs: (path, typed) => {
      const row = sentRow(path, 'lines', typed.lines, goesBack);
      return row ? `lines.${row.at}.quantity` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as ReturnDraft;
  const going = typed.lines.filter(goesBack).length;
  // The reason changes nothing that is foreseen: typing it asks nothing anew, and what is asked stays where it is.
  const asked = useDelayed({ ...returnBody(orderId, typed, then), note: 'not said yet' }, 300);
  const shown = asked.lines.length > 0;
  const { currentData, error: unforeseen } = useForeseeReturnQuery({ body: asked }, { skip: !shown });
  const foreseen = problemOf(unforeseen);
  const asking = foreseen?.asks.includes('replaced') && then === null ? foreseen : null;
  const post = async () => {
    const sent = await form.send((body) => send({ body }));
    if (!sent) return;
    const lines = count(going, 'line');
    say({ text: `Sent back ${lines}.`, undo: { movementId: sent.movementId, what: `the return of ${lines}` } });
    void navigate(`/inbound/orders/${orderId}`);
  };
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown && !asking ? foreseen : null}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Return to {supplier}</h1>
            <Link className="code" to={`/inbound/orders/${orderId}`}>
              {number}
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
            <Refused error={form.refused} />
          )}
          <Card pad aria-label="Why">
            <Field label="Why it goes back" name="note" placeholder="cracked, wrong colour…" />
          </Card>
          <ReturnPlaces places={typed.lines} />
        </Stack>
        <EffectPanel
          title="What this will change"
          effects={shown ? currentData?.effects : undefined}
          error={shown && !asking ? unforeseen : undefined}
          idle="Say how many go back. What was billed already is then owed back by the supplier, until their credit is entered."
        />
        <BottomBar
          hint={then === null ? undefined : then === 'replaced' ? 'The order waits for these goods again' : 'The order does not wait for these goods any more'}
          next={{ label: `Send back ${count(going, 'line')}`, run: () => void post(), disabled: form.isBusy || going === 0 || typed.note.trim() === '' }}
        />
      </Split>
    </FormFrame>
  );
}
