import { useSay } from '../../shared/say';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Stack, State } from '../../kit/layout';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate, useParams } from 'react-router';
import type { PurchaseOrder } from '@larder/contract/inbound';
import type { LotEntry } from '@larder/contract/values';
import { BottomBar } from '../../kit/BottomBar';
import { sentRow } from '../../kit/row';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { problemOf } from '../../kit/problem';
import { count, quantity } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { LotFields } from '../../shared/LotFields';
import { useForeseeDirectQuery, usePurchaseQuery, useRecordDirectMutation } from './api';
import { ItemCell } from '../../kit/ItemCell';

/** What a supplier delivered straight to the customer of an order: how many of each line, when, on which note. */
export function DirectPage() {
  const { id = '' } = useParams();
  const { data, error } = usePurchaseQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data ? `Delivered on ${data.number}` : 'Delivered');
  if (!data || !me) return <Waiting error={error} />;
  if (data.shipsTo === null)
    return (
      <State>
        {data.number} comes to {data.site}: <Link to={`/inbound/desk?order=${data.id}`}>receive it at the receiving desk</Link>.
      </State>
    );
  return <Sheet key={data.id} order={data} today={me.company.today} />;
}

/** What was delivered, as it is typed: a row for each line of which something is still to come. */
interface DirectDraft {
  cameOn: string | null;
  note: string;
  lines: { lineId: number; quantity: string; lots: LotEntry[] }[];
}
const { Day, Field } = fieldsOf<DirectDraft>();
const isTyped = ({ quantity: typed }: DirectDraft['lines'][number]): boolean => typed.trim() !== '';

/** What is sent of it: only the lines that something is typed for. */
const directBody = ({ cameOn, note, lines }: DirectDraft, today: string) => ({
  effectiveOn: cameOn ?? today,
  note: note.trim(),
  lines: lines.filter(isTyped).map((line) => ({ ...line, quantity: line.quantity.trim() })),
});

/** The field that something sent stands in; what is wrong with a line is said at its quantity. */
function directField(path: string, { lines }: DirectDraft): string {
  if (path === 'effectiveOn') return 'cameOn';
  const row = sentRow(path, 'lines', lines, isTyped);
  return row ? `lines.${row.at}.quantity` : path;
}

function Sheet({ order, today }: { order: PurchaseOrder; today: string }) {
  const navigate = useNavigate();
  const say = useSay();
  const [record] = useRecordDirectMutation();
  const open = order.lines.filter(({ outstanding }) => Number(outstanding) > 0);
  const came: DirectDraft = { cameOn: today, note: '', lines: open.map(({ id }) => ({ lineId: id, quantity: '', lots: [] })) };
  const form = useForm({
    came,
    body: (typed: DirectDraft) => directBody(typed, today),
    checkedBy: async () => (await import('@larder/contract/inbound')).recordDirect.body,
    sentAs: directField,
  });
  const typed = useWatch({ control: form.control }) as DirectDraft;
  const body = directBody(typed, today);
  const asked = useDelayed(body, 300);
  const { error: unforeseen } = useForeseeDirectQuery({ params: { id: order.id }, body: asked }, { skip: asked.lines.length === 0 });
  const save = async () => {
    const posted = await form.send((sent) => record({ params: { id: order.id }, body: sent }));
    if (!posted) return;
    const lines = count(body.lines.length, 'line');
    say({ text: `Recorded ${lines} of ${order.number}.`, undo: { movementId: posted.movementId, what: `the delivery of ${lines}` } });
    void navigate(`/inbound/orders/${order.id}`);
  };
  const may = !form.isBusy && body.lines.length > 0;
  return (
    <FormFrame form={form} save={() => may && void save()} foreseen={body.lines.length > 0 ? problemOf(unforeseen) : null}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>What {order.shipsTo} got</h1>
          <Link className="code" to={`/inbound/orders/${order.id}`}>
            {order.number}
          </Link>
          <span className="quiet">straight from {order.supplier}; it never was our stock, and its cost goes to cost of sales</span>
        </PageHead>
        <Refused error={form.refused} />
        <Card pad fields aria-label="Delivery">
          <Day label="Delivered on" lies="behind" name="cameOn" today={today} />
          <Field label="Packing note" name="note" />
        </Card>
        <Card sheet component="div">
          <Table aria-label="Lines delivered" className="floor">
            <TableHead>
              <TableRow>
                <TableCell>Item</TableCell>
                <TableCell align="right">Still to come</TableCell>
                <TableCell>Delivered</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {open.map((line, index) => {
                const wanted = typed.lines[index]?.quantity ?? '';
                return (
                  <TableRow key={line.id}>
                    <ItemCell of={line} />
                    <TableCell align="right">{quantity(line.outstanding)}</TableCell>
                    <TableCell>
                      <Field label={`Delivered of ${line.sku}`} hideLabel name={`lines.${index}.quantity`} />
                      {line.tracking !== 'none' && wanted.trim() !== '' ? (
                        <LotFields
                          item={line}
                          wanted={wanted}
                          lots={typed.lines[index]?.lots ?? []}
                          change={(entered) => form.setValue(`lines.${index}.lots`, entered, { shouldDirty: true })}
                        />
                      ) : null}
                    </TableCell>
                  </TableRow>
                );
              })}
            </TableBody>
          </Table>
        </Card>
        <BottomBar next={{ label: `Record ${count(body.lines.length, 'line')}`, run: () => void save(), disabled: !may }}>
          <Button onClick={() => open.forEach((line, index) => form.setValue(`lines.${index}.quantity`, line.outstanding, { shouldDirty: true }))}>
            All of it was delivered
          </Button>
        </BottomBar>
      </Stack>
    </FormFrame>
  );
}
