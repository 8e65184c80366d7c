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
import { count, quantity } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useForeseeReturnQuery, useReturnableQuery, useReturnGoodsMutation } from './api';

/** Goods of an order that go back to the supplier: from which bin or lot, how many, and why. */
export function ReturnPage() {
  const { id = '' } = useParams();
  const orderId = Number(id);
  const navigate = useNavigate();
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
    if (!(await send({ body })).error) void navigate(`/inbound/orders/${orderId}`);
  };
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Return to {data.supplier}</h1>
          <Link className="code" to={`/inbound/orders/${orderId}`}>
            {data.number}
          </Link>
        </div>
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
        <section className="card pad" aria-label="Why">
          <Field label="Why it goes back" value={note} onChange={setNote} error={at('note')} placeholder="cracked, wrong colour…" />
        </section>
        <div className="card scroll">
          <table aria-label="What can go back" className="floor">
            <thead>
              <tr>
                <th>Goods</th>
                <th>Lies in</th>
                <th className="number">There</th>
                <th className="number">Goes back</th>
              </tr>
            </thead>
            <tbody>
              {places.map(({ row, place, key }) => {
                const index = going.findIndex((one) => one.key === key);
                const fault = index < 0 || asking ? undefined : (at(`lines.${index}`) ?? foreseen.at(`lines.${index}`));
                return (
                  <tr key={key}>
                    <td>
                      <span className="code">{row.sku}</span>
                      <span className="name">{row.name}</span>
                    </td>
                    <td>
                      <span className="code">{place.bin}</span>
                      {place.sellable ? null : <small className="late"> quarantine</small>}
                      {place.lot ? <small className="quiet name">{place.lot}</small> : null}
                    </td>
                    <td className="number quiet">{quantity(place.quantity)}</td>
                    <td className="number">
                      <input
                        className="plain number"
                        style={{ width: 84 }}
                        inputMode="decimal"
                        aria-label={`Goes back, ${row.sku} from ${place.bin}${place.lot ? ` ${place.lot}` : ''}`}
                        value={typed[key] ?? ''}
                        onChange={(event) => setTyped({ ...own, [key]: event.target.value })}
                      />
                      {fault ? <small className="late cellerror">{fault}</small> : null}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          {places.length === 0 ? <p className="state">Nothing of this order lies in a bin here any more.</p> : null}
        </div>
      </div>
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
    </div>
  );
}
