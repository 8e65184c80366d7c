import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { isDay } from '@larder/core/day';
import { sum, decimal } from '@larder/core/decimal';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf, useDraft } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { due, money, price, quantity, shortDay } from '../../kit/format';
import { draftAmount, LineSheet, sentLines, writtenLines, type DraftLine } from '../../kit/LineSheet';
import { StageTrack } from '../../kit/StageTrack';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../people/api';
import { useReferenceQuery } from '../setup/api';
import { PartyPicker } from '../setup/PartyPicker';
import { Movements } from '../stock/Movements';
import { useCreatePurchaseMutation, useDecidePurchaseMutation, useEditPurchaseMutation, usePurchaseQuery } from './api';

/** A purchase order: written while it is a draft, followed once it is placed. */
export function PurchasePage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const [search] = useSearchParams();
  const copied = Number(search.get('copy')) || 0;
  const { data, error } = usePurchaseQuery({ params: { id: isNew ? copied : Number(id) } }, { skip: isNew && copied === 0 });
  const { data: me } = useMeQuery({});
  useTitle(isNew ? 'New purchase order' : (data?.number ?? 'Purchase order'));
  if (!me || (!data && (!isNew || copied > 0))) return <Waiting error={error} />;
  if (!isNew && data && !data.canEdit) return <PlacedOrder order={data} today={me.company.today} />;
  return (
    <DraftOrder
      key={`${id} ${copied} ${data?.version ?? 0}`}
      order={isNew ? null : (data as PurchaseOrder)}
      like={data}
      today={me.company.today}
      currency={me.company.currency}
    />
  );
}

interface DraftProps {
  order: PurchaseOrder | null;
  /** What it begins with: itself, or the order it is copied from. */
  like: PurchaseOrder | undefined;
  today: string;
  currency: string;
}

function DraftOrder({ order, like, today, currency }: DraftProps) {
  const { siteId: chosenSite } = useSite();
  const { data: reference } = useReferenceQuery({});
  const [supplier, setSupplier] = useState(like ? { id: like.supplierId, name: like.supplier } : null);
  const [siteId, setSiteId] = useState<number | null>(like?.siteId ?? chosenSite ?? null);
  const [expectedOn, setExpectedOn] = useState<string | null>(order?.expectedOn ?? null);
  const [note, setNote] = useState(like?.note ?? '');
  const [lines, setLines] = useState<DraftLine[]>(() => writtenLines(like?.lines ?? []));
  const [create, creating] = useCreatePurchaseMutation();
  const [edit, editing] = useEditPurchaseMutation();
  const [decide, deciding] = useDecidePurchaseMutation();
  const { refused, problem, busy, at } = refusalOf(creating, editing, deciding);
  const deliverTo = siteId ?? reference?.sites[0]?.id ?? 0;
  const body = {
    supplierId: supplier?.id ?? 0,
    siteId: deliverTo,
    expectedOn,
    note,
    lines: sentLines(lines),
  };
  const save = () => (order ? edit({ params: { id: order.id }, body: { ...body, version: order.version } }) : create({ body }));
  const draft = useDraft<PurchaseOrder>(order, save, (id) => `/inbound/orders/${id}`);
  const place = () => draft.decide((saved) => decide({ params: { id: saved.id }, body: { decision: 'place', version: saved.version } }));
  const total = sum(lines.map((line) => decimal(draftAmount(line) ?? 0)));
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>{order ? order.number : 'New purchase order'}</h1>
        <span className="quiet">draft: nothing is on order yet</span>
      </div>
      <Refused error={refused} />
      <section className="card pad fields" aria-label="Order">
        <PartyPicker
          as="supplier"
          label="Supplier"
          value={supplier}
          onChange={setSupplier}
          error={supplier === null ? at('supplierId') && 'Choose the supplier.' : at('supplierId')}
          autoFocus={!order}
        />
        <Choice
          label="Deliver to"
          value={String(deliverTo)}
          onChange={(value) => setSiteId(Number(value))}
          options={(reference?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
          error={at('siteId')}
        />
        <DayField label="Expected" value={expectedOn} today={today} onChange={setExpectedOn} error={at('expectedOn')} />
        <Field label="Note" value={note} onChange={setNote} error={at('note')} />
      </section>
      <LineSheet lines={lines} change={setLines} way="buys" problem={problem} />
      <p className="totals">
        Goods{' '}
        <b>
          {money(total.toFixed(2))} {currency}
        </b>
      </p>
      <BottomBar
        hint="Enter takes a line; Ctrl Enter places the order"
        next={{
          label: `Place order of ${lines.length === 1 ? '1 line' : `${lines.length} lines`}`,
          run: () => void place(),
          disabled: busy || lines.length === 0,
        }}
      >
        <button type="button" className="button" disabled={busy} onClick={() => void draft.keep()}>
          Save draft
        </button>
      </BottomBar>
    </div>
  );
}

function PlacedOrder({ order, today }: { order: PurchaseOrder; today: string }) {
  const navigate = useNavigate();
  const [decide, { error, isLoading }] = useDecidePurchaseMutation();
  const end = (decision: 'cancel' | 'close') => void decide({ params: { id: order.id }, body: { decision, version: order.version } });
  return (
    <div className="split">
      <div>
        <div className="head">
          <h1>{order.number}</h1>
          <Link to={`/inbound/suppliers/${order.supplierId}`} style={{ fontSize: 16 }}>
            {order.supplier}
          </Link>
          <span className="quiet">to {order.site}</span>
          <span className="side">
            {order.open ? (
              <span className={order.late ? 'late' : ''}>
                due {due(order.expectedOn, today)}
                {order.expectedOn ? `, ${shortDay(order.expectedOn, today)}` : ''}
              </span>
            ) : (
              <span>{order.state}</span>
            )}
          </span>
        </div>
        <StageTrack stages={order.stages} />
        <Refused error={error} />
        <div className="card">
          <table aria-label="Lines">
            <thead>
              <tr>
                <th>Line</th>
                <th>Item</th>
                <th className="wide-only">Their code</th>
                <th className="number">Ordered</th>
                <th className="number">Received</th>
                <th className="number">Still to come</th>
                <th className="number">Price</th>
                <th className="number">Amount</th>
              </tr>
            </thead>
            <tbody>
              {order.lines.map((line) => (
                <tr key={line.id}>
                  <td className="quiet">{line.position}</td>
                  <td>
                    <span className="code">{line.sku}</span>
                    <span className="name">{line.name}</span>
                  </td>
                  <td className="code quiet wide-only">{line.supplierCode}</td>
                  <td className="number">
                    {quantity(line.baseQuantity)}
                    {line.quantity === line.baseQuantity ? null : (
                      <small className="quiet" style={{ display: 'block' }}>
                        {quantity(line.quantity)} {line.unit}
                      </small>
                    )}
                    {Number(line.cancelled) > 0 ? (
                      <small className="low" style={{ display: 'block' }}>
                        {quantity(line.cancelled)} called off
                      </small>
                    ) : null}
                  </td>
                  <td className="number">{quantity(line.received, true)}</td>
                  <td className="number strong">
                    {quantity(line.outstanding, true)}
                    {line.expectedOn !== null && Number(line.outstanding) > 0 ? (
                      <small className="quiet" style={{ display: 'block' }}>
                        {shortDay(line.expectedOn, today)}
                      </small>
                    ) : null}
                  </td>
                  <td className="number">{price(line.price)}</td>
                  <td className="number">{money(line.amount)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <p className="totals">
          Goods{' '}
          <b>
            {money(order.amount)} {order.currency}
          </b>
        </p>
        {order.note ? <p className="quiet">{order.note}</p> : null}
      </div>
      <div className="stack">
        <Movements movements={order.movements} />
        {order.changes.length > 0 ? (
          <section className="card" aria-label="Changes">
            <h2>
              Changes<span>the last first</span>
            </h2>
            <ol className="plain log">
              {order.changes.map((change, index) => (
                <li key={`${change.at} ${index}`}>
                  <span>
                    {change.field}: {change.was ? `${told(change.was, today)} to ` : ''}
                    {told(change.is, today) || 'none'}
                  </span>
                  <small className="quiet">
                    {change.person}, {shortDay(change.at.slice(0, 10), today)}
                  </small>
                </li>
              ))}
            </ol>
          </section>
        ) : null}
        {order.movements.length === 0 ? <p className="card pad quiet">Nothing has been received on this order yet.</p> : null}
      </div>
      <BottomBar next={order.open ? { label: `Receive ${order.number}`, run: () => void navigate(`/inbound/desk?order=${order.id}`) } : undefined}>
        {Number(order.received) > 0 ? (
          <Link className="button" to={`/books/bills/new?party=${order.supplierId}&name=${encodeURIComponent(order.supplier)}&order=${order.id}`}>
            Enter its bill
          </Link>
        ) : null}
        {Number(order.received) > 0 ? (
          <Link className="button" to={`/inbound/orders/${order.id}/return`}>
            Return goods
          </Link>
        ) : null}
        <Link className="button" to={`/inbound/orders/${order.id}/send`}>
          Send
        </Link>
        <Link className="button" to={`/inbound/orders/new?copy=${order.id}`}>
          Copy
        </Link>
        {order.open ? (
          <Link className="button" to={`/inbound/orders/${order.id}/change`}>
            Change
          </Link>
        ) : null}
        {order.open && Number(order.received) > 0 ? (
          <button type="button" className="button" disabled={isLoading} onClick={() => end('close')}>
            Close short
          </button>
        ) : null}
        {order.open && Number(order.received) === 0 ? (
          <button type="button" className="button" disabled={isLoading} onClick={() => end('cancel')}>
            Cancel {order.number}
          </button>
        ) : null}
      </BottomBar>
    </div>
  );
}

/** What was changed, a day in words. */
const told = (text: string, today: string): string => (isDay(text) ? shortDay(text, today) : text);
