import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { LoanLine } from '@larder/contract/loans';
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
import { useVersionOf } from '../../kit/row';
import { Refused } from '../../kit/states';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useForeseeLostQuery, useLoseLoanMutation } from './api';
import { backField, backRowKeys, backRows, comesBack, type BackDraft } from './backForm';

type LostDraft = BackDraft & { reasonId: number | null; note: string };
const { Cell, Choice, Field } = fieldsOf<LostDraft>();
const bodyOf = ({ rows, reasonId, note }: LostDraft) => ({
  reasonId,
  note,
  lines: rows.filter(comesBack).map(({ lineId, quantity: lost }) => ({ lineId, quantity: lost.trim() })),
});

/** What a holder will not bring back, and what became of it: it goes to the account of the reason. */
export function LostSheet({ lines, done }: { lines: readonly LoanLine[]; done: () => void }) {
  const say = useSay();
  const { data: reference } = useReferenceQuery({});
  const [lose] = useLoseLoanMutation();
  const form = useForm({
    came: { reasonId: null, note: '', rows: backRows(lines) } as LostDraft,
    version: useVersionOf(lines.map(({ id, out }) => [id, out])),
    rowKeys: backRowKeys,
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/loans')).loseLoan.body,
    sentAs: backField,
  });
  const typed = useWatch({ control: form.control }) as LostDraft;
  const lost = typed.rows.filter(comesBack);
  const asked = useDelayed(bodyOf(typed), 250);
  const shown = asked.lines.length > 0 && asked.reasonId !== null;
  const { currentData, error } = useForeseeLostQuery({ body: asked }, { skip: !shown });
  const post = async () => {
    const sent = await form.send((body) => lose({ body }));
    if (!sent) return;
    const words = count(lost.length, 'line');
    say({ text: `${words} will not come back.`, undo: { movementId: sent.movementId, what: `what was lost on loan` } });
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
              options={(reference?.reasons ?? [])
                .filter(({ place }) => place === 'found-or-lost' || place === 'scrap')
                .map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Field label="Note" name="note" placeholder="such as: left on the hill" />
          </Card>
          <Card component="div" sheet>
            <Table aria-label="Out" className="floor">
              <TableHead>
                <TableRow>
                  <TableCell>Item</TableCell>
                  <TableCell align="right">Out</TableCell>
                  <TableCell align="right">Will not come back</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.rows.map((row, index) => (
                  <TableRow key={row.lineId}>
                    <ItemCell of={row}>{row.lot ? <small className="quiet">{row.lot}</small> : null}</ItemCell>
                    <TableCell align="right" className="quiet">
                      <span className="phone-only">out </span>
                      {quantity(row.out)}
                    </TableCell>
                    <TableCell align="right" className="under">
                      <Cell number tall label={`Will not come back of ${row.lot ?? row.sku}`} name={`rows.${index}.quantity`} />
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
          idle="Say what became of it, and how many will not come back."
        />
        <BottomBar next={{ label: `Take ${count(lost.length, 'line')} off`, run: () => void post(), disabled: lost.length === 0 || form.isBusy }}>
          <Button onClick={done}>Never mind</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
