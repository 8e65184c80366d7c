import { useSay } from '../../shared/Messages';
import Button from '@mui/material/Button';
import { Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState } from 'react';
import { decimal } from '@larder/core/decimal';
import type { SalesOrder } from '@larder/contract/outbound';
import { problemOf } from '../../kit/problem';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { Field } from '../../kit/Field';
import { count, quantity } from '../../kit/format';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { pickScan, type PickRow } from './pickScan';
import { useForeseePickQuery, usePickListQuery, usePickMutation } from './api';
import { PickRows, pickKey } from './PickRows';

/** The pick list of one order in walking order. Quantities are what is asked; less is a short pick, with a reason. A scan counts one. */
export function PickSheet({ order, done }: { order: SalesOrder; done: () => void }) {
  const { data, error } = usePickListQuery({ params: { id: order.id } });
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [scanned, setScanned] = useState<string | null>(null);
  const [shortReason, setShortReason] = useState('');
  const say = useSay();
  const [pick, { isLoading, error: refused }] = usePickMutation();
  const rows = data?.rows ?? [];
  const picked = (row: (typeof rows)[number]) => typed[pickKey(row)] ?? (scanned === null ? row.take : '0');
  const lines = rows.flatMap((row) =>
    Number(picked(row)) !== 0 ? [{ lineId: row.lineId, binId: row.binId, lotId: row.lotId, quantity: picked(row).trim() }] : [],
  );
  const body = { orderId: order.id, lines, shortReason };
  const asked = useDelayed(body, 250);
  const { currentData, error: foreseen } = useForeseePickQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const isShort = rows.some((row) => Number(picked(row)) < Number(row.take));
  const problem = problemOf(refused);
  useScan((code) => {
    const counted = (row: PickRow) => (scanned === null ? '0' : picked(row));
    const { said, ...found } = pickScan(rows, counted, code);
    if (found.row)
      setTyped({
        ...typed,
        [pickKey(found.row)]: decimal(counted(found.row) || 0)
          .plus(found.quantity)
          .toFixed(),
      });
    setScanned(said);
    return true;
  });
  const post = async () => {
    const result = await pick({ body });
    if (result.error) return;
    const sent = count(lines.length, 'line');
    say({ text: `${sent} of ${order.number} on the bench.`, undo: { movementId: result.data.movementId, what: `the pick of ${sent}` } });
    done();
  };
  if (!data) return <Waiting error={error} />;
  return (
    <Split>
      <Stack>
        {scanned === null ? null : <Notice role="status">{scanned}</Notice>}
        <Refused error={refused} />
        <PickRows
          rows={rows}
          picked={picked}
          type={(row, value) => setTyped({ ...typed, [pickKey(row)]: value })}
          faultsOf={(row) =>
            (problem?.errors ?? [])
              .filter(({ field }) => field.startsWith(`lines.${lines.findIndex((line) => pickKey(line) === pickKey(row))}.`))
              .map(({ sentence }) => sentence)
          }
        />
        {data.missing.map((line) => (
          <p key={line.lineId} className="late">
            {quantity(line.quantity)} of {line.sku} cannot be picked yet; they stay on the order.
          </p>
        ))}
        {isShort ? <Field label="Why fewer than asked" value={shortReason} onChange={setShortReason} placeholder="such as: two were cracked" /> : null}
      </Stack>
      <EffectPanel
        title="What picking will change"
        effects={asked.lines.length > 0 ? currentData?.effects : undefined}
        error={asked.lines.length > 0 ? foreseen : undefined}
        idle="Nothing is picked yet."
      />
      <BottomBar
        hint="Scan each piece, or type what you took"
        next={{ label: `Put ${count(lines.length, 'line')} on the bench`, run: () => void post(), disabled: lines.length === 0 || isLoading }}
      >
        <Button onClick={done}>Back to the order</Button>
      </BottomBar>
    </Split>
  );
}
