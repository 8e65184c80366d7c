import { useSay } from '../../shared/Messages';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card, PageHead, Stack, State } from '../../kit/layout';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { PurchaseOrder } from '@larder/contract/inbound';
import type { LotEntry } from '@larder/contract/values';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { count, quantity } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { LotFields } from '../../shared/LotFields';
import { useForeseeDirectQuery, usePurchaseQuery, useRecordDirectMutation } from './api';

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

function Sheet({ order, today }: { order: PurchaseOrder; today: string }) {
  const navigate = useNavigate();
  const say = useSay();
  const [typed, setTyped] = useState<Record<number, string>>({});
  const [lots, setLots] = useState<Record<number, LotEntry[]>>({});
  const [cameOn, setCameOn] = useState<string | null>(today);
  const [note, setNote] = useState('');
  const [record, recording] = useRecordDirectMutation();
  const { refused, busy, at } = refusalOf(recording);
  const open = order.lines.filter(({ outstanding }) => Number(outstanding) > 0);
  const going = open.filter((line) => (typed[line.id] ?? '').trim() !== '');
  const body = {
    effectiveOn: cameOn ?? today,
    note: note.trim(),
    lines: going.map((line) => ({ lineId: line.id, quantity: (typed[line.id] ?? '').trim(), lots: lots[line.id] ?? [] })),
  };
  const asked = useDelayed(body, 300);
  const { error: unforeseen } = useForeseeDirectQuery({ params: { id: order.id }, body: asked }, { skip: asked.lines.length === 0 });
  const foreseen = refusalOf({ error: unforeseen, isLoading: false });
  const save = async () => {
    const { data, error } = await record({ params: { id: order.id }, body });
    if (error) return;
    const lines = count(going.length, 'line');
    say({ text: `Recorded ${lines} of ${order.number}.`, undo: { movementId: data.movementId, what: `the delivery of ${lines}` } });
    void navigate(`/inbound/orders/${order.id}`);
  };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>What {order.shipsTo} got</h1>
        <Link className="code" to={`/inbound/orders/${order.id}`}>
          {order.number}
        </Link>
        <span className="quiet">straight from {order.supplier}; it never was our stock, and its cost goes to cost of sales</span>
      </PageHead>
      <Refused error={refused} />
      <Card pad fields aria-label="Delivery">
        <DayField
          label="Delivered on"
          lies="behind"
          value={cameOn}
          today={today}
          onChange={setCameOn}
          error={at('effectiveOn') ?? foreseen.at('effectiveOn')}
        />
        <Field label="Packing note" value={note} onChange={setNote} error={at('note')} />
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
            {open.map((line) => {
              const index = going.indexOf(line);
              const field = index < 0 ? '' : `lines.${index}`;
              return (
                <TableRow key={line.id}>
                  <TableCell>
                    <span className="code">{line.sku}</span>
                    <span className="name">{line.name}</span>
                  </TableCell>
                  <TableCell align="right">{quantity(line.outstanding)}</TableCell>
                  <TableCell>
                    <Field
                      label={`Delivered of ${line.sku}`}
                      hideLabel
                      value={typed[line.id] ?? ''}
                      onChange={(value) => setTyped({ ...typed, [line.id]: value })}
                      error={index < 0 ? undefined : (at(field) ?? foreseen.at(field))}
                    />
                    {line.tracking !== 'none' && index >= 0 ? (
                      <LotFields
                        item={line}
                        wanted={typed[line.id] ?? ''}
                        lots={lots[line.id] ?? []}
                        change={(entered) => setLots({ ...lots, [line.id]: entered })}
                      />
                    ) : null}
                  </TableCell>
                </TableRow>
              );
            })}
          </TableBody>
        </Table>
      </Card>
      <BottomBar next={{ label: `Record ${count(going.length, 'line')}`, run: () => void save(), disabled: busy || going.length === 0 }}>
        <Button onClick={() => setTyped(Object.fromEntries(open.map((line) => [line.id, line.outstanding])))}>All of it was delivered</Button>
      </BottomBar>
    </Stack>
  );
}
