import { useSay } from '../../shared/Messages';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, Split, Stack } from '../../kit/layout';
import { CellField } from '../../kit/CellField';
import { useState } from 'react';
import type { SalesOrder } from '@larder/contract/outbound';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { count, quantity } from '../../kit/format';
import { Refused } from '../../kit/states';
import { goesOut } from './cover';
import { useDispatchMutation, useForeseeDispatchQuery } from './api';

/** What waits on the bench for an order, to be sent out whole or in part. */
export function DispatchSheet({ order, done }: { order: SalesOrder; done: () => void }) {
  const waiting = order.lines.filter((line) => Number(goesOut(line)) > 0);
  const [typed, setTyped] = useState<Record<number, string>>({});
  const say = useSay();
  const [dispatch, { isLoading, error: refused }] = useDispatchMutation();
  const lines = waiting.flatMap((line) => {
    const many = typed[line.id] ?? goesOut(line);
    return Number(many) !== 0 ? [{ lineId: line.id, quantity: many.trim() }] : [];
  });
  const body = { orderId: order.id, lines };
  const asked = useDelayed(body, 250);
  const { currentData, error } = useForeseeDispatchQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const post = async () => {
    const result = await dispatch({ body });
    if (result.error) return;
    const sent = count(lines.length, 'line');
    say({ text: `Dispatched ${sent} of ${order.number}.`, undo: { movementId: result.data.movementId, what: `the dispatch of ${sent}` } });
    done();
  };
  return (
    <Split>
      <Stack>
        <Refused error={refused} />
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
              {waiting.map((line) => (
                <TableRow key={line.id}>
                  <TableCell>
                    <span className="code">{line.sku}</span>
                    <span className="name">{line.name}</span>
                  </TableCell>
                  <TableCell align="right">
                    {line.stocked ? quantity(goesOut(line)) : <span className="quiet">{quantity(goesOut(line))}, not from stock</span>}
                  </TableCell>
                  <TableCell align="right">
                    <CellField
                      number
                      label={`Dispatch of ${line.sku}`}
                      value={typed[line.id] ?? goesOut(line)}
                      onChange={(text) => setTyped({ ...typed, [line.id]: text })}
                      tall
                    />
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      </Stack>
      <EffectPanel
        title="What dispatching will change"
        effects={asked.lines.length > 0 ? currentData?.effects : undefined}
        error={asked.lines.length > 0 ? error : undefined}
        idle="Nothing goes out yet."
      />
      <BottomBar
        hint="What stays on the bench can go with the next parcel"
        next={{ label: `Dispatch ${count(lines.length, 'line')} to ${order.customer}`, run: () => void post(), disabled: lines.length === 0 || isLoading }}
      >
        <Button onClick={done}>Back to the order</Button>
      </BottomBar>
    </Split>
  );
}
