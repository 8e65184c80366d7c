import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { SalesOrder } from '@larder/contract/outbound';
import { useWatch } from 'react-hook-form';
import { useNavigate, useParams } from 'react-router';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { quantity } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { itemsOn, useAgreedPrices } from '../../shared/agreedPrices';
import { Clashes } from '../../shared/Clashes';
import { lineKey } from '../../shared/draftLines';
import { LineSheet } from '../../shared/LineSheet';
import { useMeQuery } from '../../shared/me';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useAmendSaleMutation, useForeseeAmendQuery, useSaleQuery } from './api';
import { saleAmendForm, sentSaleAmendment, type SaleAmendForm } from './saleAmendForm';
import { ShipTo } from './ShipTo';
import { useCustomerTerms } from './useCustomerTerms';
import { ItemCell } from '../../kit/ItemCell';

const { Cell, CellChoice, Check, Day, Field } = fieldsOf<SaleAmendForm>();
const names = {
  shipBy: 'the day it ships by',
  reference: 'their number',
  shipTo: 'the address',
  whole: 'whether it goes out whole',
  note: 'the note',
  lines: 'the same lines',
};

/** Changing a confirmed order: its day, address and words, its lines down to what is picked, and lines added to it. */
export function SaleAmendPage() {
  const { id = '' } = useParams();
  const { data, error } = useSaleQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data ? `Change ${data.number}` : 'Change order');
  if (!data || !me) return <Waiting error={error} />;
  return <AmendSheet key={data.id} order={data} today={me.company.today} />;
}

function AmendSheet({ order, today }: { order: SalesOrder; today: string }) {
  const navigate = useNavigate();
  const say = useSay();
  const form = useForm({
    came: saleAmendForm(order),
    version: order.version,
    rowKeys: { lines: ({ lineId }) => String(lineId), added: lineKey },
    body: (typed: SaleAmendForm) => sentSaleAmendment(order.version, typed),
    checkedBy: async () => (await import('@larder/contract/outbound')).amendSale.body,
  });
  const itemIds = useWatch({ control: form.control, name: 'added', compute: itemsOn });
  const terms = useCustomerTerms(order.customerId, itemIds, order);
  useAgreedPrices(form, terms.of, 'added');
  const typed = useDelayed(useWatch({ control: form.control }) as SaleAmendForm, 300);
  const params = { id: order.id };
  const { currentData, error: unforeseen } = useForeseeAmendQuery({ params, body: sentSaleAmendment(order.version, typed) }, { skip: !form.isTyped });
  const [amend] = useAmendSaleMutation();
  const save = async (overLimit = false) => {
    if (!(await form.send((body, _typed, version) => amend({ params, body: { ...body, overLimit, version } })))) return;
    say({ text: `${order.number} is changed.` });
    void navigate(`/outbound/orders/${order.id}`);
  };
  return (
    <FormFrame form={form} save={() => void save()} foreseen={form.isTyped ? problemOf(unforeseen) : null}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Change {order.number}</h1>
            <span className="quiet">{order.customer}; what changes is kept with the order</span>
          </PageHead>
          {form.refused?.asks.includes('overLimit') ? (
            <Asking question={form.refused.title} answers={[{ label: 'Change it all the same', run: () => void save(true) }]} busy={form.isBusy} />
          ) : (
            <Refused error={form.refused} />
          )}
          <Clashes of={{ kind: 'sales order', id: order.id }} writing={form} names={names} />
          <Card pad fields aria-label="Order">
            <Day label="Ship by" name="shipBy" needed proposed={order.shipBy} today={today} />
            <Field label="Their number" name="reference" />
            <ShipTo />
            <Field label="Note" name="note" />
            <Check label="Goes out whole, not in parts" name="whole" />
          </Card>
          <KeptLines order={order} today={today} />
          <Box component="h2" className="quiet" sx={{ margin: 0 }}>
            Lines added
          </Box>
          <LineSheet name="added" way="sells" customerId={order.customerId} />
        </Stack>
        <EffectPanel
          title="What this will change"
          effects={form.isTyped ? currentData?.effects : undefined}
          error={form.isTyped ? unforeseen : undefined}
          idle="Change a quantity, or add a line; what that does to stock stands here."
        />
      </Split>
      <BottomBar
        hint="0 cancels a line; no less than what is picked"
        next={{ label: `Change ${order.number}`, run: () => void save(), disabled: form.isBusy }}
      />
    </FormFrame>
  );
}

/** The lines that are there: how much of each is picked, and what it will be. */
function KeptLines({ order, today }: { order: SalesOrder; today: string }) {
  const { data: reference } = useReferenceQuery({});
  const sites = reference?.sites ?? [];
  return (
    <Card component="div">
      <Table aria-label="Lines that are there">
        <TableHead>
          <TableRow>
            <TableCell>Item</TableCell>
            <TableCell align="right">Picked</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right">Price</TableCell>
            <TableCell align="right">% off</TableCell>
            <TableCell>Ship by</TableCell>
            {sites.length > 1 ? <TableCell>From</TableCell> : null}
          </TableRow>
        </TableHead>
        <TableBody>
          {order.lines.map((line, index) => (
            <TableRow key={line.id}>
              <ItemCell of={line} />
              <TableCell align="right">{quantity(line.picked, true)}</TableCell>
              <TableCell align="right">
                <Cell number label={`Quantity of ${line.sku}`} name={`lines.${index}.quantity`} />{' '}
                <span className="quiet">{line.unit === 'each' ? '' : line.unit}</span>
              </TableCell>
              <TableCell align="right">
                <Cell number label={`Price of ${line.sku}`} name={`lines.${index}.price`} />
              </TableCell>
              <TableCell align="right">
                <Cell number label={`Per cent off ${line.sku}`} name={`lines.${index}.discount`} />
              </TableCell>
              <TableCell sx={{ width: 165 }}>
                <Day label={`Ship ${line.sku} by`} hideLabel name={`lines.${index}.shipBy`} today={today} />
              </TableCell>
              {sites.length > 1 ? (
                <TableCell>
                  <CellChoice
                    width={124}
                    label={`${line.sku} comes from`}
                    name={`lines.${index}.siteId`}
                    ids
                    options={sites.map(({ id, name }) => ({ value: String(id), label: name }))}
                  />
                </TableCell>
              ) : null}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
