import Button from '@mui/material/Button';
import { PageHead, Stack, Totals } from '../../kit/layout';
import { decimal, sum } from '@larder/core/decimal';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import { memo, useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import type { SalesOrder } from '@larder/contract/outbound';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { count, money } from '../../kit/format';
import { lineKey, draftAmount } from '../../shared/draftLines';
import { useEnding } from '../../shared/useEnding';
import { useWriting } from '../../shared/useWriting';
import { LineSheet } from '../../shared/LineSheet';
import { useSettled } from '../../kit/row';
import { Refused, Saved } from '../../kit/states';
import { Clashes } from '../../shared/Clashes';
import { useConfirmSaleMutation, useCreateSaleMutation, useEditSaleMutation, useEndSaleMutation } from './api';
import { ConfirmEffects, LineCover } from './QuoteCover';
import { quoteForm, sentQuote, type QuoteForm } from './quoteForm';
import { QuoteHead } from './QuoteHead';

interface QuoteProps {
  order: SalesOrder | null;
  today: string;
  currency: string;
  sites: readonly { id: number; name: string }[];
  shipDays: number;
}

const names = { customer: 'the customer', siteId: 'where it goes from', shipBy: 'the day it ships by', note: 'the note', lines: 'the same lines' };

/** A quote being written: what would be short is said beside the line as it is typed, and nothing stops the typing. */
export function Quote({ order, today, currency, sites, shipDays }: QuoteProps) {
  const { siteId: chosenSite } = useSite();
  const form = useForm({
    came: quoteForm(order, chosenSite ?? sites[0]?.id ?? 0),
    version: order?.version ?? null,
    rowKeys: { lines: lineKey },
    body: (typed: QuoteForm) => sentQuote(typed, proposedShipBy(today, shipDays)),
    checkedBy: async () => (await import('@larder/contract/outbound')).createSale.body,
    sentAs: { customerId: 'customer' },
  });
  const lines = useWatch({ control: form.control, name: 'lines', compute: ({ length }) => length });
  const [create] = useCreateSaleMutation();
  const [edit] = useEditSaleMutation();
  const [confirm] = useConfirmSaleMutation();
  const [decide, ending] = useEndSaleMutation();
  const {
    keep,
    settle: confirmIt,
    isSettling,
  } = useWriting(form, {
    order,
    create: (body) => create({ body }),
    edit: (id, body) => edit({ params: { id }, body }),
    decide: (id, version) => confirm({ params: { id }, body: { version } }),
    decided: 'confirmed',
    at: '/outbound/orders',
  });
  const { end } = useEnding(order?.number ?? '', order?.version ?? 0, (decision, version) =>
    decide({ params: { id: order?.id ?? 0 }, body: { decision, version } }),
  );
  return (
    <FormFrame form={form} save={() => void keep()}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{order ? order.number : 'New quote'}</h1>
          <span className="quiet">quote: nothing is reserved yet</span>
          <Saved on={form.isSaved} />
        </PageHead>
        <Refused error={form.refused ?? ending.error} />
        {order ? <Clashes of={{ kind: 'sales order', id: order.id }} writing={form} names={names} /> : null}
        <QuoteHead isNew={!order} today={today} sites={sites} shipDays={shipDays} />
        <QuoteLines />
        <QuoteTotal currency={currency} />
        {order && !form.isTyped ? <ConfirmEffects order={order} /> : null}
        <BottomBar
          hint="Enter takes a line; Ctrl Enter confirms and reserves"
          next={{ label: `Confirm ${count(lines, 'line')}`, run: () => void confirmIt(), disabled: isSettling || lines === 0 }}
        >
          {order ? (
            <Button disabled={form.isBusy} onClick={() => end('cancel')}>
              Cancel quote
            </Button>
          ) : null}
          <Button disabled={form.isBusy} onClick={() => void keep()}>
            Save quote
          </Button>
        </BottomBar>
      </Stack>
    </FormFrame>
  );
}

const aside = { name: 'Where it comes from', Cell: LineCover };
/** The lines listen to what they show themselves: a turn of the form around draws none of them anew. */
const QuoteLines = memo(function QuoteLines() {
  return <LineSheet way="sells" aside={aside} />;
});

/** What the goods come to as they stand; reckoned once nobody types for a moment. */
function QuoteTotal({ currency }: { currency: string }) {
  const [lines] = useSettled<QuoteForm, ['lines']>(['lines'], 300);
  const total = useMemo(() => sum(lines.map((line) => decimal(draftAmount(line) ?? 0))), [lines]);
  return (
    <Totals component="p">
      Goods{' '}
      <b>
        {money(total.toFixed(2))} {currency}
      </b>
    </Totals>
  );
}
