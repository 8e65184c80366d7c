import { useState } from 'react';
import { decimal, sum } from '@larder/core/decimal';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import type { SalesOrder } from '@larder/contract/outbound';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { useDelayed } from '../../kit/delayed';
import { refusalOf, useDraft } from '../../kit/draft';
import { EffectPanel } from '../../kit/EffectPanel';
import { Choice, Field } from '../../kit/Field';
import { money } from '../../kit/format';
import { baseQuantity, draftAmount, LineSheet, sentLines, writtenLines, type DraftLine } from '../../shared/LineSheet';
import { Refused } from '../../kit/states';
import { CoverBar } from '../../kit/CoverBar';
import { PartyPicker } from '../../shared/PartyPicker';
import { useAvailabilityQuery, useConfirmSaleMutation, useCreateSaleMutation, useEditSaleMutation, useEndSaleMutation, useForeseeConfirmQuery } from './api';
import { coverWords, coverParts } from './cover';

interface QuoteProps {
  order: SalesOrder | null;
  today: string;
  currency: string;
  sites: readonly { id: number; name: string }[];
  shipDays: number;
}

/** A quote being written: what would be short is said beside the line as it is typed, and nothing stops the typing. */
export function Quote({ order, today, currency, sites, shipDays }: QuoteProps) {
  const { siteId: chosenSite } = useSite();
  const [customer, setCustomer] = useState(order ? { id: order.customerId, name: order.customer } : null);
  const [siteId, setSiteId] = useState(order?.siteId ?? chosenSite ?? sites[0]?.id ?? 0);
  const [shipBy, setShipBy] = useState(order?.shipBy ?? proposedShipBy(today, shipDays));
  const [note, setNote] = useState(order?.note ?? '');
  const [lines, setLines] = useState<DraftLine[]>(() => writtenLines(order?.lines ?? []));
  const [create, creating] = useCreateSaleMutation();
  const [edit, editing] = useEditSaleMutation();
  const [confirm, confirming] = useConfirmSaleMutation();
  const [end, ending] = useEndSaleMutation();
  const { refused, problem, busy, at } = refusalOf(creating, editing, confirming, ending);
  const body = {
    customerId: customer?.id ?? 0,
    siteId,
    shipBy,
    note,
    lines: sentLines(lines),
  };

  const save = () => (order ? edit({ params: { id: order.id }, body: { ...body, version: order.version } }) : create({ body }));
  const draft = useDraft<SalesOrder>(order, save, (id) => `/outbound/orders/${id}`);
  const confirmIt = () => draft.decide((saved) => confirm({ params: { id: saved.id }, body: { version: saved.version } }));
  const total = sum(lines.map((line) => decimal(draftAmount(line) ?? 0)));
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>{order ? order.number : 'New quote'}</h1>
        <span className="quiet">quote: nothing is reserved yet</span>
      </div>
      <Refused error={refused} />
      <section className="card pad fields" aria-label="Quote">
        <PartyPicker
          as="customer"
          label="Customer"
          value={customer}
          onChange={setCustomer}
          error={customer === null ? at('customerId') && 'Choose the customer.' : at('customerId')}
          autoFocus={!order}
        />
        <Choice
          label="From"
          value={String(siteId)}
          onChange={(value) => setSiteId(Number(value))}
          options={sites.map(({ id, name }) => ({ value: String(id), label: name }))}
          error={at('siteId')}
        />
        <DayField label="Ship by" value={shipBy} today={today} onChange={(day) => setShipBy(day ?? proposedShipBy(today, shipDays))} error={at('shipBy')} />
        <Field label="Note" value={note} onChange={setNote} error={at('note')} />
      </section>
      <LineSheet
        lines={lines}
        change={setLines}
        way="sells"
        problem={problem}
        aside={{ name: 'Where it comes from', cell: (line) => <LineCover line={line} siteId={siteId} today={today} /> }}
      />
      <p className="totals">
        Goods{' '}
        <b>
          {money(total.toFixed(2))} {currency}
        </b>
      </p>
      {order && JSON.stringify(lines) === JSON.stringify(writtenLines(order.lines)) ? <ConfirmEffects order={order} /> : null}
      <BottomBar
        hint="Enter takes a line; Ctrl Enter confirms and reserves"
        next={{
          label: `Confirm ${lines.length === 1 ? '1 line' : `${lines.length} lines`}`,
          run: () => void confirmIt(),
          disabled: busy || lines.length === 0,
        }}
      >
        {order ? (
          <button
            type="button"
            className="button"
            disabled={busy}
            onClick={() => void end({ params: { id: order.id }, body: { decision: 'cancel', version: order.version } })}
          >
            Cancel quote
          </button>
        ) : null}
        <button type="button" className="button" disabled={busy} onClick={() => void draft.keep()}>
          Save quote
        </button>
      </BottomBar>
    </div>
  );
}

/** What confirming a saved quote will change. */
function ConfirmEffects({ order }: { order: SalesOrder }) {
  const { currentData, error } = useForeseeConfirmQuery({ params: { id: order.id }, body: { version: order.version } });
  return <EffectPanel title="What confirming will change" effects={currentData?.effects} error={error} idle="One moment…" />;
}

/** Beside a line as it is typed: how many are here, how many short, what comes when and on which order. */
function LineCover({ line, siteId, today }: { line: DraftLine; siteId: number; today: string }) {
  const typed = useDelayed(baseQuantity(line) ?? '0', 150);
  const { currentData } = useAvailabilityQuery({ query: { siteId, itemId: line.itemId, quantity: typed } }, { skip: typed === '0' });
  if (!currentData) return null;
  if (!currentData.kept) return <small className="quiet">not kept in stock</small>;
  const parts = coverParts(Number(typed), Number(currentData.short), currentData.coming);
  return <CoverBar {...parts} words={coverWords(parts, currentData.coming, currentData.promise, today)} />;
}
