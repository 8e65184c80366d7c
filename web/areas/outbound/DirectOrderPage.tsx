import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { DirectLine } from '@larder/contract/direct';
import { advice } from '@larder/core/inbound/terms';
import { decimal } from '@larder/core/decimal';
import { isNumber } from '@larder/core/number';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount, count, price, quantity, shortDay } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Split, Stack, State } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { sentRow, useOfRow, usePut, useRow } from '../../kit/row';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useDirectLinesQuery, useForeseeOrderDirectQuery, useOrderDirectMutation } from './api';
import { askedPrice, bySupplier, dayIn, directBody, directForm, isOrdered, offerOf, priceIn, type DirectForm, type DirectRow } from './directForm';

const { Cell, CellChoice, Day } = fieldsOf<DirectForm>();

/** Lines of sales orders, chosen or all of some orders, that suppliers are ordered to send straight to the customers. */
export function DirectOrderPage() {
  useTitle('Straight from a supplier');
  const address = useAddress();
  const query = { lines: address.get('lines'), orders: address.get('orders') };
  const { currentData, error } = useDirectLinesQuery({ query });
  const { data: me } = useMeQuery({});
  if (!currentData || !me) return <Waiting error={error} />;
  if (currentData.rows.length === 0)
    return (
      <State>
        None of these lines is left for a supplier to send: they are picked, gone or on order already. <Link to="/outbound/lines">See which lines wait</Link>.
      </State>
    );
  return <Sheet key={`${query.lines} ${query.orders}`} lines={currentData.rows} today={me.company.today} />;
}

interface SheetProps {
  lines: DirectLine[];
  today: string;
}

function Sheet({ lines, today }: SheetProps) {
  const navigate = useNavigate();
  const say = useSay();
  const [order] = useOrderDirectMutation();
  const form = useForm({
    came: directForm(lines),
    body: (typed: DirectForm) => directBody(lines, typed, today),
    checkedBy: async () => (await import('@larder/contract/direct')).orderDirect.body,
    sentAs: (path, typed) => {
      const row = sentRow(path, 'lines', typed.lines, isOrdered);
      return row ? `lines.${row.at}.${row.part}` : 'lines';
    },
  });
  const typed = useWatch({ control: form.control }) as DirectForm;
  const body = directBody(lines, typed, today);
  const asked = useDelayed(body, 300);
  const { currentData, error } = useForeseeOrderDirectQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const save = async () => {
    const done = await form.send((sent) => order({ body: sent }));
    if (!done) return;
    const [first] = done.orders;
    say({
      text: `Ordered straight from ${done.orders.map(({ supplier, number }) => `${supplier} (${number})`).join(', ')}.`,
      ...(first ? { link: { to: `/inbound/orders/${first.id}`, label: first.number } } : {}),
    });
    const orders = new Set(lines.map(({ orderId }) => orderId));
    void navigate(orders.size === 1 ? `/outbound/orders/${[...orders][0]}` : '/outbound/lines?show=ordered');
  };
  const may = !form.isBusy && body.lines.length > 0;
  return (
    <FormFrame form={form} save={() => may && void save()} foreseen={asked.lines.length > 0 ? problemOf(error) : null}>
      <Split>
        <div>
          <PageHead>
            <h1>Straight from a supplier</h1>
            <span className="quiet">ordered for the customer, sent to the customer’s address: it never comes to our shelves</span>
          </PageHead>
          <Refused error={form.refused} />
          <Card sheet component="div">
            <Table aria-label="Lines a supplier sends">
              <TableHead>
                <TableRow>
                  <TableCell>Item</TableCell>
                  <TableCell>For</TableCell>
                  <TableCell align="right">Supplier sends</TableCell>
                  <TableCell>Supplier</TableCell>
                  <TableCell align="right">Price</TableCell>
                  <TableCell>Expected</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {lines.map((line, index) => (
                  <Row key={line.lineId} line={line} index={index} today={today} />
                ))}
              </TableBody>
            </Table>
          </Card>
        </div>
        <Stack>
          <Card aria-label="What is ordered">
            <h2>What is ordered</h2>
            <Table>
              <TableBody>
                {bySupplier(lines, typed).map((one) => (
                  <TableRow key={one.supplier}>
                    <TableCell>
                      {one.supplier}
                      <small className="quiet name">{count(one.lines, 'line')}</small>
                    </TableCell>
                    <TableCell align="right">{one.amount === null ? '–' : amount(one.amount)}</TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
          {body.lines.length > 0 ? <EffectPanel title="What this will change" effects={currentData?.effects} error={error} idle="One moment…" /> : null}
        </Stack>
        <BottomBar
          hint="One purchase order for each supplier and address, placed at once"
          next={{ label: `Order ${count(body.lines.length, 'line')}`, run: () => void save(), disabled: !may }}
        />
      </Split>
    </FormFrame>
  );
}

interface RowProps {
  line: DirectLine;
  index: number;
  today: string;
}

function Row({ line, index, today }: RowProps) {
  const row = useRow<DirectRow>(`lines.${index}`);
  if (!row) return null;
  return (
    <TableRow>
      <ItemCell of={line} />
      <TableCell>
        <Link className="code" to={`/outbound/orders/${line.orderId}`}>
          {line.number}
        </Link>
        <span className="name">{line.customer}</span>
        <small className="quiet name">
          {Number(line.short) > 0 ? `${quantity(line.short)} short, ` : ''}ship by {shortDay(line.shipBy, today)}
        </small>
      </TableCell>
      <TableCell align="right">
        <Cell number label={`The supplier sends of ${line.sku} for ${line.number}`} name={`lines.${index}.quantity`} />
        <small className="quiet name">of {quantity(line.open)}</small>
        <Advice line={line} index={index} />
      </TableCell>
      <TableCell>
        <Suppliers line={line} index={index} />
      </TableCell>
      <TableCell align="right">
        <Cell number label={`Price of ${line.sku} for ${line.number}`} name={`lines.${index}.price`} proposed={priceIn(line, row)} />
      </TableCell>
      <TableCell>
        <Day label={`Day of ${line.sku} for ${line.number}`} hideLabel name={`lines.${index}.expectedOn`} proposed={dayIn(line, row, today)} today={today} />
      </TableCell>
    </TableRow>
  );
}

/** Who may send it; what they ask and how long they take stands side by side. */
function Suppliers({ line, index }: Omit<RowProps, 'today'>) {
  const many = useOfRow(`lines.${index}`, ({ quantity: typed }: DirectRow) => typed) ?? '';
  const put = usePut<DirectRow>(`lines.${index}`);
  if (line.offers.length === 0)
    return (
      <small className="late">
        Nobody is known to sell it. <Link to={`/items/${line.itemId}?tab=suppliers`}>Say who does</Link>.
      </small>
    );
  return (
    <>
      <CellChoice
        label={`Supplier of ${line.sku} for ${line.number}`}
        name={`lines.${index}.supplierId`}
        ids
        // Another supplier asks another price and delivers on another day.
        chosen={() => put({ price: null, expectedOn: undefined })}
        options={line.offers.map(({ supplierId, supplier }) => ({ value: String(supplierId), label: supplier }))}
      />
      {line.offers.length > 1
        ? line.offers.map((offer) => {
            const asks = askedPrice(offer, many);
            return (
              <small key={offer.supplierId} className="quiet name">
                {offer.supplier}: {asks === null ? 'no price known' : price(asks)}, {count(offer.leadDays, 'day')}
              </small>
            );
          })
        : null}
    </>
  );
}

/** What the supplier's terms say of so many, which can be taken as far as the line wants them. */
function Advice({ line, index }: Omit<RowProps, 'today'>) {
  const row = useRow<DirectRow>(`lines.${index}`);
  const put = usePut<DirectRow>(`lines.${index}`);
  const offer = row && offerOf(line, row);
  if (!offer || !isOrdered(row) || !isNumber(row.quantity, 'quantity')) return null;
  const said = advice(offer, decimal(row.quantity));
  if (!said) return null;
  return (
    <small className="low name">
      {said.sentence}{' '}
      {decimal(said.take).lte(line.open) ? (
        <Button size="small" onClick={() => put({ quantity: said.take })}>
          Take {quantity(said.take)}
        </Button>
      ) : null}
    </small>
  );
}
