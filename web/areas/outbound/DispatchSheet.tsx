import { useSay } from '../../shared/say';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, Split, Stack } from '../../kit/layout';
import { useWatch } from 'react-hook-form';
import type { SalesOrder } from '@larder/contract/outbound';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { problemOf } from '../../kit/problem';
import { sentRow, useVersionOf } from '../../kit/row';
import { EffectPanel } from '../../kit/EffectPanel';
import { count, quantity } from '../../kit/format';
import { Refused } from '../../kit/states';
import { goesOut } from './cover';
import type { Packing } from './packForm';
import { useDispatchMutation, useForeseeDispatchQuery } from './api';
import { ItemCell } from '../../kit/ItemCell';
import { decimal, sum } from '@larder/core/decimal';

interface DispatchForm {
  /** What waits of each line, and how many of it go out. */
  lines: { lineId: number; sku: string; name: string; stocked: boolean; waits: string; quantity: string }[];
}
const { Cell } = fieldsOf<DispatchForm>();
const goes = ({ quantity: many }: DispatchForm['lines'][number]): boolean => Number(many) !== 0;
const rowKeys = { lines: { key: ({ lineId }: DispatchForm['lines'][number]) => String(lineId), typed: ['quantity'] as const } };

interface DispatchSheetProps {
  order: SalesOrder;
  packing: Packing | null;
  mayShipFrom: (siteId: number) => boolean;
  done: () => void;
}

/** How many of a line can go out without being packed: all but what is in parcels. */
const looseOf = (line: SalesOrder['lines'][number], packing: Packing | null): string =>
  line.stocked && packing ? sum(packing.loose.filter(({ lineId }) => lineId === line.id).map(({ quantity: many }) => decimal(many))).toFixed() : goesOut(line);

/** What waits loose on the bench for an order, to be sent out whole or in part. */
export function DispatchSheet({ order, packing, mayShipFrom, done }: DispatchSheetProps) {
  const waiting = order.lines
    .filter(({ siteId }) => mayShipFrom(siteId))
    .map((line) => ({ lineId: line.id, sku: line.sku, name: line.name, stocked: line.stocked, waits: looseOf(line, packing) }))
    .filter(({ waits }) => Number(waits) > 0)
    .map((line) => ({ ...line, quantity: line.waits }));
  const say = useSay();
  const [dispatch] = useDispatchMutation();
  const form = useForm({
    came: { lines: waiting },
    version: useVersionOf(waiting),
    rowKeys,
    body: ({ lines: rows }: DispatchForm) => ({
      orderId: order.id,
      lines: rows.filter(goes).map(({ lineId, quantity: many }) => ({ lineId, quantity: many.trim() })),
    }),
    checkedBy: async () => (await import('@larder/contract/shipping')).dispatch.body,
    sentAs: (path, { lines: rows }) => {
      const row = sentRow(path, 'lines', rows, goes);
      return row ? `lines.${row.at}.quantity` : path;
    },
  });
  const typed = (useWatch({ control: form.control }) as DispatchForm).lines;
  const lines = typed.filter(goes);
  const asked = useDelayed({ orderId: order.id, lines: lines.map(({ lineId, quantity: many }) => ({ lineId, quantity: many.trim() })) }, 250);
  const { currentData, error } = useForeseeDispatchQuery({ body: { ...asked, part: true } }, { skip: asked.lines.length === 0 });
  const asks = form.refused?.asks ?? [];
  const post = async (part = false) => {
    const posted = await form.send((body) => dispatch({ body: part ? { ...body, part } : body }));
    if (!posted) return;
    const sent = count(lines.length, 'line');
    say({ text: `Dispatched ${sent} of ${order.number}.`, undo: { movementId: posted.movementId, what: `the dispatch of ${sent}` } });
    done();
  };
  const shown = asked.lines.length > 0;
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown ? problemOf(error) : null}>
      <Split>
        <Stack>
          {form.refused && asks.includes('part') ? (
            <Asking question={form.refused.title} answers={[{ label: 'Send the part', run: () => void post(true) }]} busy={form.isBusy} />
          ) : (
            <Refused error={form.refused} />
          )}
          <Card component="div">
            <Table aria-label="On the bench">
              <TableHead>
                <TableRow>
                  <TableCell>Item</TableCell>
                  <TableCell align="right">On the bench</TableCell>
                  <TableCell align="right">Goes out</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.map((line, index) => (
                  <TableRow key={line.lineId}>
                    <ItemCell of={line} />
                    <TableCell align="right">
                      {line.stocked ? quantity(line.waits) : <span className="quiet">{quantity(line.waits)}, not from stock</span>}
                    </TableCell>
                    <TableCell align="right">
                      <Cell number label={`Dispatch of ${line.sku}`} name={`lines.${index}.quantity`} tall />
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
        </Stack>
        <EffectPanel
          title="What dispatching will change"
          effects={shown ? currentData?.effects : undefined}
          error={shown ? error : undefined}
          idle="Nothing goes out yet."
        />
        <BottomBar
          hint="What stays on the bench can go with the next parcel"
          next={{ label: `Dispatch ${count(lines.length, 'line')} to ${order.customer}`, run: () => void post(), disabled: lines.length === 0 || form.isBusy }}
        >
          <Button onClick={done}>Back to the order</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
