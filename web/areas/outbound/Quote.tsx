import Button from '@mui/material/Button';
import { currencyPlaces } from '@larder/core/books/currency';
import { addDays } from '@larder/core/day';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import type { SalesOrder } from '@larder/contract/outbound';
import copy from 'copy-to-clipboard';
import { memo, useEffect, useMemo, useState } from 'react';
import { useFormContext, useWatch, type UseFormReturn } from 'react-hook-form';
import { Asking } from '../../kit/Asking';
import { Link } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { PageHead, Stack } from '../../kit/layout';
import { OrderSums } from '../../kit/OrderSums';
import { useSettled } from '../../kit/row';
import { Refused, Saved } from '../../kit/states';
import { itemsOn, useAgreedPrices } from '../../shared/agreedPrices';
import { Clashes } from '../../shared/Clashes';
import { lineKey } from '../../shared/draftLines';
import { LineSheet } from '../../shared/LineSheet';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { useEnding } from '../../shared/useEnding';
import { useWriting } from '../../shared/useWriting';
import { useConfirmSaleMutation, useCreateSaleMutation, useEditSaleMutation, useEndSaleMutation } from './api';
import { ConfirmEffects, LineCover, PricesContext } from './QuoteCover';
import { quoteForm, quoteSums, sentQuote, type BoughtItem, type QuoteForm } from './quoteForm';
import { QuoteHead } from './QuoteHead';
import { QuotePart } from './QuotePart';
import { useCustomerTerms, type CustomerTerms } from './useCustomerTerms';

interface QuoteProps {
  order: SalesOrder | null;
  /** What it begins with: itself, or the order it is copied from. */
  like: SalesOrder | undefined;
  /** Whom a new one is for, when that was chosen before. */
  customer?: { id: number; name: string; salesCurrency?: string | null } | undefined;
  /** What a new one is of, as the customer ordered it last. */
  again?: readonly BoughtItem[] | undefined;
  today: string;
  currency: string;
  sites: readonly { id: number; name: string }[];
  /** What the business promises: days until it ships, and through which its prices are offered. */
  shipDays: number;
  quoteDays: number;
}

const names = {
  customer: 'the customer',
  siteId: 'where it goes from',
  shipBy: 'the day it ships by',
  validUntil: 'the day its prices are offered until',
  reference: 'their number',
  shipTo: 'the address',
  currency: 'the currency',
  rate: 'the rate',
  discount: 'what is taken off all of it',
  whole: 'whether it goes out whole',
  note: 'the note',
  lines: 'the same lines',
};

/** What the person has said to what was asked before it is confirmed. */
type Said = Partial<Record<(typeof askedBefore)[number], true>>;
/** What may be asked, each by its name in the body. */
const askedBefore = ['free', 'expired', 'overLimit'] as const;

/** A quote being written: what would be short is said beside the line as it is typed, and nothing stops the typing. Prices follow what the customer pays until somebody types another. */
export function Quote({ order, like, customer, again, today, currency: own, sites, shipDays, quoteDays }: QuoteProps) {
  const { siteId: chosenSite } = useSite();
  const { data: me } = useMeQuery({});
  const proposed = useMemo(() => ({ shipBy: proposedShipBy(today, shipDays), validUntil: addDays(today, quoteDays) }), [today, shipDays, quoteDays]);
  const form = useForm({
    came: quoteForm(like, order === null, { siteId: chosenSite ?? sites[0]?.id ?? 0, currency: own }, { customer, again }),
    version: order?.version ?? null,
    rowKeys: { lines: lineKey },
    body: (typed: QuoteForm) => sentQuote(typed, { ...proposed, own }),
    checkedBy: async () => (await import('@larder/contract/outbound')).createSale.body,
    sentAs: { customerId: 'customer' },
  });
  const { control } = form;
  const lines = useWatch({ control, name: 'lines', compute: ({ length }) => length });
  const customerId = useWatch({ control, name: 'customer', compute: (customer) => customer?.id ?? null });
  const itemIds = useWatch({ control, name: 'lines', compute: itemsOn });
  const [currency, rate] = useWatch({ control, name: ['currency', 'rate'] });
  const terms = useCustomerTerms(customerId, itemIds, { currency, rate });
  useRateOf(currency, terms.rate, form);
  useAgreedPrices(form, terms.of);
  const [create] = useCreateSaleMutation();
  const [edit] = useEditSaleMutation();
  const [confirm] = useConfirmSaleMutation();
  const [decide, ending] = useEndSaleMutation();
  const [said, setSaid] = useState<Said>({});
  const {
    keep,
    settle: confirmIt,
    isSettling,
  } = useWriting(form, {
    order,
    create: (body) => create({ body }),
    edit: (id, body) => edit({ params: { id }, body }),
    decide: (id, version, answered: Said = {}) => confirm({ params: { id }, body: { version, ...answered } }),
    decided: 'confirmed',
    at: '/outbound/orders',
  });
  const { end } = useEnding(order?.number ?? '', order?.version ?? 0, (decision, version) =>
    decide({ params: { id: order?.id ?? 0 }, body: { decision, version } }),
  );
  const asked = form.refused?.asks ?? [];
  const goOn = () => {
    const answered: Said = { ...said, ...Object.fromEntries(askedBefore.filter((one) => asked.includes(one)).map((one) => [one, true])) };
    setSaid(answered);
    void confirmIt(answered);
  };
  return (
    <FormFrame form={form} save={() => void keep()} keptAt={me && `quote ${me.id} ${order?.id ?? 'new'}`}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{order ? order.number : 'New quote'}</h1>
          <span className="quiet">quote: nothing is reserved yet</span>
          {order?.expired ? <span className="late">its prices are offered no longer</span> : null}
          {terms.list ? <span className="quiet">prices: {terms.list}</span> : null}
          <Saved on={form.isSaved} />
        </PageHead>
        {form.refused && asked.length > 0 ? (
          <Asking question={form.refused.title} answers={[{ label: 'Confirm it all the same', run: goOn }]} busy={form.isBusy} />
        ) : (
          <Refused error={form.refused ?? ending.error} />
        )}
        {order ? <Clashes of={{ kind: 'sales order', id: order.id }} writing={form} names={names} /> : null}
        <QuoteHead isNew={!order} today={today} sites={sites} proposed={proposed} own={own} />
        <PricesContext value={terms.of}>
          <QuoteLines />
        </PricesContext>
        <QuoteTotals rateOf={terms.rateOf} />
        {order && !form.isTyped ? <ConfirmEffects order={order} /> : null}
        <BottomBar
          hint="Enter takes a line; Ctrl . fills a short one"
          next={{ label: `Confirm ${count(lines, 'line')}`, run: () => void confirmIt(), disabled: isSettling || lines === 0 }}
        >
          {order ? (
            <Button disabled={form.isBusy} onClick={() => end('cancel')}>
              Cancel quote
            </Button>
          ) : null}
          {order && !form.isTyped ? <QuotePart order={order} /> : null}
          {order && !form.isTyped ? (
            <Button component={Link} to={`/outbound/orders/${order.id}/send`}>
              Send
            </Button>
          ) : null}
          {lines > 0 ? <CopyLines form={form} /> : null}
          <Button disabled={form.isBusy} onClick={() => void keep()}>
            Save quote
          </Button>
        </BottomBar>
      </Stack>
    </FormFrame>
  );
}

/** Takes the lines along as a block of quantities and codes, to be pasted into another document or a spreadsheet. */
function CopyLines({ form }: { form: Pick<UseFormReturn<QuoteForm>, 'getValues'> }) {
  const say = useSay();
  const take = async () => {
    const lines = form.getValues('lines');
    await copy(lines.map(({ quantity, sku }) => `${quantity}\t${sku}`).join('\n'));
    say({ text: `Copied ${count(lines.length, 'line')}.` });
  };
  return <Button onClick={() => void take()}>Copy lines</Button>;
}

const aside = { name: 'Where it comes from', Cell: LineCover };
/** The lines listen to what they show themselves: a turn of the form around draws none of them anew. */
const QuoteLines = memo(function QuoteLines() {
  const { control } = useFormContext<QuoteForm>();
  const customerId = useWatch({ control, name: 'customer', compute: (customer) => customer?.id });
  const places = useWatch({ control, name: 'currency', compute: (currency) => currencyPlaces(currency) ?? 2 });
  return <LineSheet way="sells" aside={aside} customerId={customerId} places={places} />;
});

/** What it comes to as it stands; reckoned once nobody types for a moment. */
const QuoteTotals = memo(function QuoteTotals({ rateOf }: Pick<CustomerTerms, 'rateOf'>) {
  const shown = useSettled<QuoteForm, ['lines', 'discount', 'currency']>(['lines', 'discount', 'currency'], 300);
  const sums = useMemo(() => quoteSums({ lines: shown[0], discount: shown[1], currency: shown[2] }, rateOf), [shown, rateOf]);
  return <OrderSums currency={shown[2]} sums={sums} />;
});

/** The rate belongs to its currency: where somebody types another one, it is that at which that one was used last, until they type the rate. */
function useRateOf(
  currency: string,
  lastRate: string | null,
  { getValues, setValue, watch }: Pick<UseFormReturn<QuoteForm>, 'getValues' | 'setValue' | 'watch'>,
): void {
  useEffect(() => {
    const { unsubscribe } = watch((_, { name, type }) => {
      // What was typed before and is taken up again brings its own rate along.
      if (name === 'currency' && type === 'change') setValue('rate', '', { shouldDirty: true });
    });
    return unsubscribe;
  }, [watch, setValue]);
  useEffect(() => {
    if (lastRate !== null && getValues('rate').trim() === '') setValue('rate', lastRate, { shouldDirty: true });
  }, [currency, lastRate, getValues, setValue]);
}
