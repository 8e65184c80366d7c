import { useSay } from '../../shared/say';
import Button from '@mui/material/Button';
import { Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { decimal } from '@larder/core/decimal';
import type { SalesOrder } from '@larder/contract/outbound';
import { problemOf } from '../../kit/problem';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { sentRow, useVersionOf } from '../../kit/row';
import { count, quantity } from '../../kit/format';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { pickScan, type PickRow } from './pickScan';
import { isPicked, pickedLines, rowKeys, type PickForm } from './pickForm';
import { useForeseePickQuery, usePickListQuery, usePickMutation } from './api';
import { PickRows } from './PickRows';

const { Field } = fieldsOf<PickForm>();

/** The pick list of one order, as soon as it is there. */
export function PickSheet({ order, mayShipFrom, done }: { order: SalesOrder; mayShipFrom: (siteId: number) => boolean; done: () => void }) {
  const { data, error } = usePickListQuery({ params: { id: order.id } });
  return data ? (
    <Sheet order={order} rows={data.rows.filter(({ siteId }) => mayShipFrom(siteId))} missing={data.missing} done={done} />
  ) : (
    <Waiting error={error} />
  );
}

interface SheetProps {
  order: SalesOrder;
  rows: readonly PickRow[];
  missing: readonly { lineId: number; sku: string; quantity: string }[];
  done: () => void;
}

/** The pick list of one order in walking order. Quantities are what is asked; less is a short pick, with a reason. A scan counts one. */
function Sheet({ order, rows, missing, done }: SheetProps) {
  const [scanned, setScanned] = useState<string | null>(null);
  const say = useSay();
  const [pick] = usePickMutation();
  const form = useForm({
    came: { rows: rows.map((row) => ({ ...row, picked: row.take })), shortReason: '' },
    version: useVersionOf(rows),
    rowKeys,
    body: (typed: PickForm) => ({ orderId: order.id, lines: pickedLines(typed), shortReason: typed.shortReason }),
    checkedBy: async () => (await import('@larder/contract/outbound')).pick.body,
    sentAs: (path, typed) => {
      const row = sentRow(path, 'lines', typed.rows, isPicked);
      return row ? `rows.${row.at}.picked` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as PickForm;
  const lines = pickedLines(typed);
  const asked = useDelayed({ orderId: order.id, lines, shortReason: typed.shortReason }, 250);
  const { currentData, error: foreseen } = useForeseePickQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const shown = asked.lines.length > 0;
  const isShort = typed.rows.some(({ picked, take }) => Number(picked) < Number(take));
  useScan((code) => {
    // From the first scan on only what is scanned counts.
    const before = form.getValues('rows').map((row) => (scanned === null && row.picked === row.take ? { ...row, picked: '0' } : row));
    const { said, ...found } = pickScan(before, ({ picked }) => picked, code);
    const counted = (one: PickForm['rows'][number]) =>
      found.row === one
        ? {
            ...one,
            picked: decimal(one.picked || 0)
              .plus(found.quantity)
              .toFixed(),
          }
        : one;
    form.setValue('rows', before.map(counted), { shouldDirty: true });
    setScanned(said);
    return true;
  });
  const post = async () => {
    const posted = await form.send((body) => pick({ body }));
    if (!posted) return;
    const sent = count(lines.length, 'line');
    say({ text: `${sent} of ${order.number} on the bench.`, undo: { movementId: posted.movementId, what: `the pick of ${sent}` } });
    done();
  };
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown ? problemOf(foreseen) : null}>
      <Split>
        <Stack>
          {scanned === null ? null : <Notice role="status">{scanned}</Notice>}
          <Refused error={form.refused} />
          <PickRows rows={typed.rows} />
          {missing.map((line) => (
            <p key={line.lineId} className="late">
              {quantity(line.quantity)} of {line.sku} cannot be picked yet; they stay on the order.
            </p>
          ))}
          {isShort ? <Field label="Why fewer than asked" name="shortReason" placeholder="such as: two were cracked" /> : null}
        </Stack>
        <EffectPanel
          title="What picking will change"
          effects={shown ? currentData?.effects : undefined}
          error={shown ? foreseen : undefined}
          idle="Nothing is picked yet."
        />
        <BottomBar
          hint="Scan each piece, or type what you took"
          next={{ label: `Put ${count(lines.length, 'line')} on the bench`, run: () => void post(), disabled: lines.length === 0 || form.isBusy }}
        >
          <Button onClick={done}>Back to the order</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
