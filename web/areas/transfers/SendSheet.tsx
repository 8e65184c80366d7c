import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Transfer, transferPickList } from '@larder/contract/transfers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { problemOf } from '../../kit/problem';
import { sentRow, useVersionOf } from '../../kit/row';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { useCarriersQuery } from '../../shared/carriers';
import { pickScan } from '../../shared/pickScan';
import { useSay } from '../../shared/say';
import { useForeseeTransferSentQuery, useSendTransferMutation, useTransferPickListQuery } from './api';

/** Goods of a transfer where they lie, and how many of them go. */
interface SendRow {
  lineId: number;
  sku: string;
  name: string;
  unit: string;
  /** Null: on the bench. */
  binId: number | null;
  bin: string;
  lotId: number | null;
  lot: string | null;
  codes: { code: string; factor: string }[];
  /** So many are there for it. */
  take: string;
  goes: string;
}
interface SendForm {
  rows: SendRow[];
  carrierId: number | null;
  tracking: string;
  expectedOn: string | null;
}
const { Cell, Choice, Day, Field } = fieldsOf<SendForm>();
const goes = ({ goes: many }: SendRow): boolean => many.trim() !== '' && Number(many) !== 0;
const rowKeys = { rows: ({ lineId, binId, lotId }: SendRow): string => `${lineId} ${binId ?? 'bench'} ${lotId ?? ''}` };
const bodyOf = ({ rows, carrierId, tracking, expectedOn }: SendForm) => ({
  lines: rows.filter(goes).map(({ lineId, binId, lotId, goes: many }) => ({ lineId, binId, lotId, quantity: many.trim() })),
  carrierId,
  tracking,
  expectedOn,
});

interface SendSheetProps {
  one: Transfer;
  today: string;
  done: () => void;
}

/** What goes on its way, from the bench or straight from its bins, as soon as it is known where it lies. */
export function SendSheet(props: SendSheetProps) {
  const { data, error } = useTransferPickListQuery({ params: { id: props.one.id } });
  return data ? <Sheet {...props} rows={rowsOf(props.one, data.rows)} /> : <Waiting error={error} />;
}

/** What lies on the bench first, then what is in its bins, in walking order; all of it goes unless somebody says otherwise. */
function rowsOf(one: Transfer, picks: ResponseOf<typeof transferPickList>['rows']): SendRow[] {
  const onBench = one.onBench.flatMap(({ lineId, lotId, lot, quantity: many }): SendRow[] => {
    const line = one.lines.find(({ id }) => id === lineId);
    return line ? [{ ...line, lineId, binId: null, bin: 'bench', lotId, lot, codes: [], take: many, goes: many }] : [];
  });
  const shelved = picks.map((row): SendRow => ({ ...row, goes: row.doubtful ? '0' : row.take }));
  return [...onBench, ...shelved];
}

function Sheet({ one, today, rows, done }: SendSheetProps & { rows: SendRow[] }) {
  const say = useSay();
  const params = { id: one.id };
  const [send] = useSendTransferMutation();
  const { data: carriers } = useCarriersQuery({});
  const [scanned, setScanned] = useState<string | null>(null);
  const form = useForm({
    came: { rows, carrierId: one.carrierId, tracking: one.tracking, expectedOn: one.expectedOn !== null && one.expectedOn < today ? today : one.expectedOn },
    version: useVersionOf(rows),
    rowKeys,
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/transfers')).sendTransfer.body,
    sentAs: (path, typed: SendForm) => {
      const row = sentRow(path, 'lines', typed.rows, goes);
      return row ? `rows.${row.at}.goes` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as SendForm;
  const going = typed.rows.filter(goes);
  const asked = useDelayed(bodyOf(typed), 250);
  const shown = asked.lines.length > 0;
  const { currentData, error } = useForeseeTransferSentQuery({ params, body: asked }, { skip: !shown });
  useScan((code) => {
    // From the first scan on only what is scanned goes, beside what is on the bench already.
    const before = form.getValues('rows').map((row) => (scanned === null && row.binId !== null && row.goes === row.take ? { ...row, goes: '0' } : row));
    const found = pickScan(before, (row) => row.goes, code);
    const more = (row: SendRow) => ({
      ...row,
      goes: decimal(row.goes || 0)
        .plus(found.row === null ? 0 : found.quantity)
        .toFixed(),
    });
    form.setValue(
      'rows',
      before.map((row) => (row === found.row ? more(row) : row)),
      { shouldDirty: true },
    );
    setScanned(found.said);
    return found.row === null ? 'refused' : true;
  });
  const post = async () => {
    const sent = await form.send((body) => send({ params, body }));
    if (!sent) return;
    const lines = count(going.length, 'line');
    say({ text: `${lines} of ${one.number} in transit to ${one.to}.`, undo: { movementId: sent.movementId, what: `the sending of ${lines}` } });
    done();
  };
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown ? problemOf(error) : null}>
      <Split>
        <Stack>
          {scanned === null ? null : <Notice role="status">{scanned}</Notice>}
          <Refused error={form.refused} />
          <Card component="div" sheet>
            <Table aria-label="What goes" className="floor">
              <TableHead>
                <TableRow>
                  <TableCell>From</TableCell>
                  <TableCell>Item</TableCell>
                  <TableCell align="right">For it</TableCell>
                  <TableCell align="right">Goes</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.rows.map((row, index) => (
                  <TableRow key={rowKeys.rows(row)}>
                    <TableCell className="code strong">{row.bin}</TableCell>
                    <ItemCell of={row}>{row.lot ? <small className="quiet">{row.lot}</small> : null}</ItemCell>
                    <TableCell align="right" className="quiet">
                      <span className="phone-only">for it </span>
                      {quantity(row.take)}
                    </TableCell>
                    <TableCell align="right" className="under">
                      <Cell number label={`Goes of ${row.sku} from ${row.bin}${row.lot ? ` ${row.lot}` : ''}`} name={`rows.${index}.goes`} tall />
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
          <Card pad fields aria-label="How it goes">
            <Choice
              label="Goes by"
              name="carrierId"
              ids
              none="Our own van"
              options={(carriers?.rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Field label="Tracking" name="tracking" />
            <Day label="Should arrive" name="expectedOn" today={today} />
          </Card>
        </Stack>
        <EffectPanel
          title="What sending will change"
          effects={shown ? currentData?.effects : undefined}
          error={shown ? error : undefined}
          idle="Nothing goes yet."
        />
        <BottomBar
          hint="Scan each piece, or type how many go"
          next={{ label: `Send ${count(going.length, 'line')}`, run: () => void post(), disabled: going.length === 0 || form.isBusy }}
        >
          <Button onClick={done}>Back to the transfer</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
