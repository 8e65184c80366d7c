import Button from '@mui/material/Button';
import { PageHead, Stack } from '../../kit/layout';
import { currencyPlaces } from '@larder/core/books/currency';
import { addDays } from '@larder/core/day';
import { useEffect, useMemo, useRef } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { useSettled } from '../../kit/row';
import { Refused, Saved } from '../../kit/states';
import { Clashes } from '../../shared/Clashes';
import { LineSheet } from '../../shared/LineSheet';
import { useSay } from '../../shared/Messages';
import { useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { useCreatePurchaseMutation, useDecidePurchaseMutation, useEditPurchaseMutation } from './api';
import { draftForm, draftRows, draftSums, sentDraft, type DraftForm } from './draftForm';
import { DraftHead } from './DraftHead';
import { LineTerms, TermsContext } from './LineTerms';
import { OrderCharges } from './OrderCharges';
import { OrderSums } from './OrderSums';
import { itemsOn, useAgreedPrices, useTerms, type OrderTerms } from './useTerms';

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
  const navigate = useNavigate();
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
  useAgreedPrices(form, terms, own);
  const expectedOn = terms.leadDays === null ? null : addDays(today, terms.leadDays);
  useEffect(() => {
    byTerms.current = expectedOn;
  });
  const say = useSay();
  const [create] = useCreatePurchaseMutation();
  const [edit] = useEditPurchaseMutation();
  const [decide] = useDecidePurchaseMutation();
  const save = () =>
    form.send(async (body, typed) => {
      if (!order) return create({ body });
      const saved = await edit({ params: { id: order.id }, body: { ...body, version: order.version } });
      if (saved.data) form.kept(typed, saved.data.version);
      return saved;
    });
  /** One that is new gets its own address as soon as it is there. */
  const go = (saved: PurchaseOrder | undefined) => void (saved && !order && navigate(`/inbound/orders/${saved.id}`, { replace: true }));
  const keep = async () => go(await save());
  const place = async () => {
    const saved = await save();
    const placed = saved && (await form.send(() => decide({ params: { id: saved.id }, body: { decision: 'place', version: saved.version } })));
    if (placed) say({ text: `${placed.number} is placed.` });
    go(saved);
  };
  return (
    <FormFrame form={form} save={() => void keep()}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{order ? order.number : 'New purchase order'}</h1>
          <span className="quiet">draft: nothing is on order yet</span>
          <Saved on={form.isSaved} />
        </PageHead>
        <Refused error={form.refused} />
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
            disabled: form.isBusy || lines === 0,
          }}
        >
          <Button disabled={form.isBusy} onClick={() => void keep()}>
            Save draft
          </Button>
        </BottomBar>
      </Stack>
    </FormFrame>
  );
}

const noTerms = () => undefined;

function DraftLines() {
  const { control } = useFormContext<DraftForm>();
  const places = useWatch({ control, name: 'currency', compute: (currency) => currencyPlaces(currency) ?? 2 });
  return <LineSheet way="buys" places={places} aside={{ name: 'Their terms', Cell: LineTerms }} />;
}

/** What it comes to as it stands; reckoned once nobody types for a moment. */
function DraftTotals({ taxRate }: Pick<OrderTerms, 'taxRate'>) {
  const { data: reference } = useReferenceQuery({});
  const shown = useSettled<DraftForm, ['lines', 'charges', 'currency']>(['lines', 'charges', 'currency'], 300);
  const sums = useMemo(() => {
    const [lines, charges, currency] = shown;
    const rateOf = (taxCodeId: number | null) => reference?.taxes.find(({ id }) => id === taxCodeId)?.rate ?? '0';
    return draftSums({ lines, charges, currency }, taxRate, rateOf);
  }, [shown, reference, taxRate]);
  return <OrderSums currency={shown[2]} sums={sums} />;
}
