import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { Transfer } from '@larder/contract/transfers';
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
import { problemOf } from '../../kit/problem';
import { sentRow, useVersionOf } from '../../kit/row';
import { Refused } from '../../kit/states';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useForeseeTransferLostQuery, useLoseTransferMutation } from './api';

type LostRow = Transfer['underWay'][number] & { sku: string; name: string; unit: string; lost: string };
interface LostForm {
  reasonId: number | null;
  note: string;
  rows: LostRow[];
}
const { Cell, Choice, Field } = fieldsOf<LostForm>();
const isLost = ({ lost }: LostRow): boolean => lost.trim() !== '' && Number(lost) !== 0;
const rowKeys = { rows: ({ lineId, lotId }: LostRow): string => `${lineId} ${lotId ?? ''}` };
const bodyOf = ({ reasonId, note, rows }: LostForm) => ({
  reasonId,
  note,
  lines: rows.filter(isLost).map(({ lineId, lotId, lost }) => ({ lineId, lotId, quantity: lost.trim() })),
});

/** What of a transfer is in transit and will not arrive, and what became of it: it goes to the account of the reason. */
export function LostSheet({ one, done }: { one: Transfer; done: () => void }) {
  const say = useSay();
  const params = { id: one.id };
  const { data: reference } = useReferenceQuery({});
  const [lose] = useLoseTransferMutation();
  const rows = one.underWay.flatMap((part): LostRow[] => {
    const line = one.lines.find(({ id }) => id === part.lineId);
    return line ? [{ ...part, sku: line.sku, name: line.name, unit: line.unit, lost: '' }] : [];
  });
  const form = useForm({
    came: { reasonId: null, note: '', rows } as LostForm,
    version: useVersionOf(one.underWay),
    rowKeys,
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/transfers')).loseTransfer.body,
    sentAs: (path, typed: LostForm) => {
      const row = sentRow(path, 'lines', typed.rows, isLost);
      return row ? `rows.${row.at}.lost` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as LostForm;
  const lost = typed.rows.filter(isLost);
  const asked = useDelayed(bodyOf(typed), 250);
  const shown = asked.lines.length > 0 && asked.reasonId !== null;
  const { currentData, error } = useForeseeTransferLostQuery({ params, body: asked }, { skip: !shown });
  const post = async () => {
    const sent = await form.send((body) => lose({ params, body }));
    if (!sent) return;
    const lines = count(lost.length, 'line');
    say({ text: `${lines} of ${one.number} will not arrive.`, undo: { movementId: sent.movementId, what: `what was lost of ${one.number}` } });
    done();
  };
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown ? problemOf(error) : null}>
      <Split>
        <Stack>
          <Refused error={form.refused} />
          <Card pad fields aria-label="Why">
            <Choice
              label="What became of it"
              name="reasonId"
              ids
              none="Choose a reason"
              options={(reference?.reasons ?? []).filter(({ place }) => place === 'found-or-lost').map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Field label="Note" name="note" placeholder="such as: fell off the van" />
          </Card>
          <Card component="div" sheet>
            <Table aria-label="In transit" className="floor">
              <TableHead>
                <TableRow>
                  <TableCell>Item</TableCell>
                  <TableCell align="right">In transit</TableCell>
                  <TableCell align="right">Will not arrive</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.rows.map((row, index) => (
                  <TableRow key={rowKeys.rows(row)}>
                    <ItemCell of={row}>{row.lot ? <small className="quiet">{row.lot}</small> : null}</ItemCell>
                    <TableCell align="right" className="quiet">
                      <span className="phone-only">in transit </span>
                      {quantity(row.quantity)}
                    </TableCell>
                    <TableCell align="right" className="under">
                      <Cell number label={`Will not arrive of ${row.sku}${row.lot ? ` ${row.lot}` : ''}`} name={`rows.${index}.lost`} tall />
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Card>
        </Stack>
        <EffectPanel
          title="What this will change"
          effects={shown ? currentData?.effects : undefined}
          error={shown ? error : undefined}
          idle="What still comes stays in transit; what came damaged is received into a quarantine bin."
        />
        <BottomBar next={{ label: `Take ${count(lost.length, 'line')} off`, run: () => void post(), disabled: lost.length === 0 || form.isBusy }}>
          <Button onClick={done}>Back to the transfer</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
