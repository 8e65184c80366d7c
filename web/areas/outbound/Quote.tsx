import Button from '@mui/material/Button';
import { PageHead, Stack, Totals } from '../../kit/layout';
import { decimal, sum } from '@larder/core/decimal';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import type { SalesOrder } from '@larder/contract/outbound';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf, useDraft } from '../../kit/draft';
import { money } from '../../kit/format';
import { lineKey, draftAmount, sentLines, writtenLines } from '../../shared/draftLines';
import { LineSheet } from '../../shared/LineSheet';
import { Refused } from '../../kit/states';
import { useWriting } from '../../kit/writing';
import { Clashes } from '../../shared/Clashes';
import { useConfirmSaleMutation, useCreateSaleMutation, useEditSaleMutation, useEndSaleMutation } from './api';
import { ConfirmEffects, LineCover } from './QuoteCover';
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
  const came = {
    customer: order ? { id: order.customerId, name: order.customer } : null,
    siteId: order?.siteId ?? chosenSite ?? sites[0]?.id ?? 0,
    shipBy: order?.shipBy ?? proposedShipBy(today, shipDays),
    note: order?.note ?? '',
    lines: writtenLines(order?.lines ?? []),
  };
  const writing = useWriting(came, order?.version ?? null, { lines: lineKey });
  const { form, put } = writing;
  const { customer, siteId, shipBy, note, lines } = form;
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
  const save = async () => {
    if (!order) return create({ body });
    const saved = await edit({ params: { id: order.id }, body: { ...body, version: order.version } });
    if (saved.data) writing.kept(form, saved.data.version);
    return saved;
  };
  const draft = useDraft<SalesOrder>(order, save, (id) => `/outbound/orders/${id}`);
  const confirmIt = () => draft.decide((saved) => confirm({ params: { id: saved.id }, body: { version: saved.version } }));
  const total = sum(lines.map((line) => decimal(draftAmount(line) ?? 0)));
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>{order ? order.number : 'New quote'}</h1>
        <span className="quiet">quote: nothing is reserved yet</span>
      </PageHead>
      <Refused error={refused} />
      {order ? <Clashes of={{ kind: 'sales order', id: order.id }} writing={writing} names={names} /> : null}
      <QuoteHead form={form} put={put} isNew={!order} today={today} sites={sites} shipDays={shipDays} at={at} />
      <LineSheet
        lines={lines}
        change={(changed) => put({ lines: changed })}
        way="sells"
        problem={problem}
        aside={{ name: 'Where it comes from', cell: (line) => <LineCover line={line} siteId={siteId} today={today} /> }}
      />
      <Totals component="p">
        Goods{' '}
        <b>
          {money(total.toFixed(2))} {currency}
        </b>
      </Totals>
      {order && !writing.isTyped ? <ConfirmEffects order={order} /> : null}
      <BottomBar
        hint="Enter takes a line; Ctrl Enter confirms and reserves"
        next={{
          label: `Confirm ${lines.length === 1 ? '1 line' : `${lines.length} lines`}`,
          run: () => void confirmIt(),
          disabled: busy || lines.length === 0,
        }}
      >
        {order ? (
          <Button disabled={busy} onClick={() => void end({ params: { id: order.id }, body: { decision: 'cancel', version: order.version } })}>
            Cancel quote
          </Button>
        ) : null}
        <Button disabled={busy} onClick={() => void draft.keep()}>
          Save quote
        </Button>
      </BottomBar>
    </Stack>
  );
}
