import Button from '@mui/material/Button';
import { PageHead, Stack } from '../../kit/layout';
import { currencyPlaces } from '@larder/core/books/currency';
import { addDays } from '@larder/core/day';
import { memo, useEffect, useMemo, useRef } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { useSettled } from '../../kit/row';
import { Refused, Saved } from '../../kit/states';
import { itemsOn, useAgreedPrices } from '../../shared/agreedPrices';
import { Clashes } from '../../shared/Clashes';
import { LineSheet } from '../../shared/LineSheet';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { useEnding } from '../../shared/useEnding';
import { useWriting } from '../../shared/useWriting';
import { useCreatePurchaseMutation, useDecidePurchaseMutation, useEditPurchaseMutation } from './api';
import { draftForm, draftRows, draftSums, sentDraft, type DraftForm } from './draftForm';
import { DraftHead } from './DraftHead';
import { LineTerms, TermsContext } from './LineTerms';
import { OrderCharges } from './OrderCharges';
import { OrderSums } from '../../kit/OrderSums';
import { useTerms, type OrderTerms } from './useTerms';

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
export function DraftOrder({ order, like, today, currency: own, sites }: DraftProps) {
  const { siteId: chosenSite } = useSite();
  const { data: me } = useMeQuery({});
  const byTerms = useRef<string | null>(null);
  const form = useForm({
    came: draftForm(like, order === null, chosenSite ?? sites[0]?.id ?? 0, own),
    version: order?.version ?? null,
    rowKeys: draftRows,
    body: (typed: DraftForm) => sentDraft(typed, byTerms.current, own),
    checkedBy: async () => (await import('@larder/contract/inbound')).createPurchase.body,
    sentAs: { supplierId: 'supplier', shipsToId: 'shipsTo' },
  });
  const { control } = form;
  const supplierId = useWatch({ control, name: 'supplier', compute: (supplier) => supplier?.id ?? null });
  const isForeign = useWatch({ control, name: 'currency', compute: (currency) => currency !== own });
  const itemIds = useWatch({ control, name: 'lines', compute: itemsOn });
  const lines = useWatch({ control, name: 'lines', compute: ({ length }) => length });
  const terms = useTerms(supplierId, itemIds);
  // What was agreed with a supplier is in our own currency.
  useAgreedPrices(form, isForeign ? undefined : terms.of);
  const expectedOn = terms.leadDays === null ? null : addDays(today, terms.leadDays);
  useEffect(() => {
    byTerms.current = expectedOn;
  });
  const [create] = useCreatePurchaseMutation();
  const [edit] = useEditPurchaseMutation();
  const [decide] = useDecidePurchaseMutation();
  const [cancel, cancelling] = useDecidePurchaseMutation();
  const {
    keep,
    settle: place,
    isSettling,
  } = useWriting(form, {
    order,
    create: (body) => create({ body }),
    edit: (id, body) => edit({ params: { id }, body }),
    decide: (id, version) => decide({ params: { id }, body: { decision: 'place', version } }),
    decided: 'placed',
    at: '/inbound/orders',
  });
  const { end } = useEnding(order?.number ?? '', order?.version ?? 0, (decision, version) =>
    cancel({ params: { id: order?.id ?? 0 }, body: { decision, version } }),
  );
  return (
    <FormFrame form={form} save={() => void keep()} keptAt={me && `purchase ${me.id} ${order?.id ?? 'new'}`}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{order ? order.number : 'New purchase order'}</h1>
          <span className="quiet">draft: nothing is on order yet</span>
          <Saved on={form.isSaved} />
        </PageHead>
        <Refused error={form.refused ?? cancelling.error} />
        {order ? <Clashes of={{ kind: 'purchase order', id: order.id }} writing={form} names={names} /> : null}
        <DraftHead byTerms={expectedOn} isNew={!order} today={today} own={own} />
        <TermsContext value={isForeign ? noTerms : terms.of}>
          <DraftLines />
        </TermsContext>
        <OrderCharges />
        <DraftTotals taxRate={terms.taxRate} />
        <BottomBar
          hint="Enter takes a line; Ctrl Enter places the order"
          next={{
            label: `Place order of ${count(lines, 'line')}`,
            run: () => void place(),
            disabled: isSettling || lines === 0,
          }}
        >
          {order ? (
            <Button disabled={form.isBusy || cancelling.isLoading} onClick={() => end('cancel')}>
              Cancel draft
            </Button>
          ) : null}
          <Button disabled={form.isBusy} onClick={() => void keep()}>
            Save draft
          </Button>
        </BottomBar>
      </Stack>
    </FormFrame>
  );
}

const noTerms = () => undefined;
const aside = { name: 'Their terms', Cell: LineTerms };

/** The lines listen to what they show themselves: a turn of the form around draws none of them anew. */
const DraftLines = memo(function DraftLines() {
  const { control } = useFormContext<DraftForm>();
  const places = useWatch({ control, name: 'currency', compute: (currency) => currencyPlaces(currency) ?? 2 });
  return <LineSheet way="buys" places={places} aside={aside} />;
});

/** What it comes to as it stands; reckoned once nobody types for a moment. */
const DraftTotals = memo(function DraftTotals({ taxRate }: Pick<OrderTerms, 'taxRate'>) {
  const { data: reference } = useReferenceQuery({});
  const shown = useSettled<DraftForm, ['lines', 'charges', 'currency']>(['lines', 'charges', 'currency'], 300);
  const sums = useMemo(() => {
    const [lines, charges, currency] = shown;
    const rateOf = (taxCodeId: number | null) => reference?.taxes.find(({ id }) => id === taxCodeId)?.rate ?? '0';
    return draftSums({ lines, charges, currency }, taxRate, rateOf);
  }, [shown, reference, taxRate]);
  return <OrderSums currency={shown[2]} sums={sums} />;
});
