import Button from '@mui/material/Button';
import { PageHead, Stack } from '../../kit/layout';
import { currencyPlaces } from '@larder/core/books/currency';
import { addDays } from '@larder/core/day';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf, useDraft } from '../../kit/draft';
import { Refused } from '../../kit/states';
import { useWriting } from '../../kit/writing';
import { Clashes } from '../../shared/Clashes';
import { LineSheet } from '../../shared/LineSheet';
import { useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { useCreatePurchaseMutation, useDecidePurchaseMutation, useEditPurchaseMutation } from './api';
import { draftForm, draftRows, draftSums, sentDraft } from './draftForm';
import { DraftHead } from './DraftHead';
import { LineTerms } from './LineTerms';
import { OrderCharges } from './OrderCharges';
import { OrderSums } from './OrderSums';
import { useTerms } from './useTerms';

interface DraftProps {
  order: PurchaseOrder | null;
  /** What it begins with: itself, or the order it is copied from. */
  like: PurchaseOrder | undefined;
  today: string;
  currency: string;
  sites: readonly { id: number }[];
}

const names = {
  supplier: 'the supplier',
  siteId: 'where it goes',
  toCustomer: 'where it goes',
  shipsTo: 'the customer it goes to',
  expectedOn: 'the day it is expected',
  orderedOn: 'the day it was ordered',
  currency: 'the currency',
  rate: 'the rate',
  note: 'the note',
  charges: 'the same charges',
  lines: 'the same lines',
};

/** A purchase order while it is written: prices follow the supplier's terms until somebody types another. */
export function DraftOrder({ order, like, today, currency, sites }: DraftProps) {
  const { siteId: chosenSite } = useSite();
  const { data: reference } = useReferenceQuery({});
  const writing = useWriting(draftForm(like, order === null, chosenSite ?? sites[0]?.id ?? 0, currency), order?.version ?? null, draftRows);
  const { form, put } = writing;
  const terms = useTerms(form.supplier?.id ?? null, form.lines);
  // What was agreed with a supplier is in our own currency.
  const foreign = form.currency !== currency;
  const lines = foreign ? form.lines : form.lines.map(terms.priced);
  const byTerms = terms.leadDays === null ? null : addDays(today, terms.leadDays);
  const expectedOn = form.expectedOn === undefined ? byTerms : form.expectedOn;
  const [create, creating] = useCreatePurchaseMutation();
  const [edit, editing] = useEditPurchaseMutation();
  const [decide, deciding] = useDecidePurchaseMutation();
  const { refused, problem, busy, at } = refusalOf(creating, editing, deciding);
  const body = sentDraft(form, lines, expectedOn, currency);
  const save = async () => {
    if (!order) return create({ body });
    const saved = await edit({ params: { id: order.id }, body: { ...body, version: order.version } });
    if (saved.data) writing.kept(form, saved.data.version);
    return saved;
  };
  const draft = useDraft<PurchaseOrder>(order, save, (id) => `/inbound/orders/${id}`);
  const place = () => draft.decide((saved) => decide({ params: { id: saved.id }, body: { decision: 'place', version: saved.version } }));
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>{order ? order.number : 'New purchase order'}</h1>
        <span className="quiet">draft: nothing is on order yet</span>
      </PageHead>
      <Refused error={refused} />
      {order ? <Clashes of={{ kind: 'purchase order', id: order.id }} writing={writing} names={names} /> : null}
      <DraftHead form={form} put={put} expectedOn={expectedOn} isNew={!order} today={today} currency={currency} at={at} />
      <LineSheet
        lines={lines}
        change={(changed) => put({ lines: changed })}
        way="buys"
        problem={problem}
        places={currencyPlaces(form.currency) ?? 2}
        aside={{
          name: 'Their terms',
          cell: (line) => (
            <LineTerms
              line={line}
              terms={foreign ? undefined : terms.of(line.itemId)}
              today={today}
              take={(part) => put({ lines: lines.map((one) => (one === line ? { ...one, ...part } : one)) })}
            />
          ),
        }}
      />
      <OrderCharges charges={form.charges} change={(charges) => put({ charges })} at={at} />
      <OrderSums
        currency={form.currency}
        sums={draftSums(form, lines, terms.taxRate, (taxCodeId) => reference?.taxes.find(({ id }) => id === taxCodeId)?.rate ?? '0')}
      />
      <BottomBar
        hint="Enter takes a line; Ctrl Enter places the order"
        next={{
          label: `Place order of ${lines.length === 1 ? '1 line' : `${lines.length} lines`}`,
          run: () => void place(),
          disabled: busy || lines.length === 0,
        }}
      >
        <Button disabled={busy} onClick={() => void draft.keep()}>
          Save draft
        </Button>
      </BottomBar>
    </Stack>
  );
}
