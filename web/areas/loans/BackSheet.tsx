import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { LoanLine } from '@larder/contract/loans';
import { conditions, isSetApart } from '@larder/core/stock/loans';
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
import { useVersionOf } from '../../kit/row';
import { useScan } from '../../kit/scan';
import { Refused } from '../../kit/states';
import { useBinsQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useBringBackMutation, useForeseeBackQuery } from './api';
import { backBody, backField, backRowKeys, backRows, comesBack, withBack, type BackDraft } from './backForm';

const { Cell, CellChoice } = fieldsOf<BackDraft>();

/** What comes back of one loan or of several: how many, in which condition, and into which bin. */
export function BackSheet({ lines, from, done }: { lines: readonly LoanLine[]; from: string; done: () => void }) {
  const say = useSay();
  const [said, setSaid] = useState<string | null>(null);
  const [bringBack] = useBringBackMutation();
  const { data: bins } = useBinsQuery({ query: {} });
  const form = useForm({
    came: { rows: backRows(lines) } as BackDraft,
    version: useVersionOf(lines.map(({ id, out }) => [id, out])),
    rowKeys: backRowKeys,
    body: backBody,
    checkedBy: async () => (await import('@larder/contract/loans')).bringBack.body,
    sentAs: backField,
  });
  const typed = useWatch({ control: form.control }) as BackDraft;
  const back = typed.rows.filter(comesBack);
  const asked = useDelayed(backBody(typed), 250);
  const shown = asked.lines.length > 0;
  const { currentData, error } = useForeseeBackQuery({ body: asked }, { skip: !shown });
  useScan((code) => {
    const scanned = withBack(form.getValues('rows'), code);
    if (!scanned) setSaid(`${code} is not out here.`);
    else {
      form.setValue('rows', scanned.rows, { shouldDirty: true });
      setSaid(`${quantity(scanned.row.quantity)} of ${scanned.row.lot ?? scanned.row.sku} comes back.`);
    }
    return scanned ? true : 'refused';
  });
  const options = (siteId: number, isApart: boolean) =>
    (bins?.rows ?? [])
      .filter((bin) => !bin.retired)
      // The site's own first; what is set apart goes where it is not sold from.
      .sort(
        (one, other) =>
          Number(other.siteId === siteId) - Number(one.siteId === siteId) || Number(one.sellable === isApart) - Number(other.sellable === isApart),
      )
      .map(({ id, code, siteName }) => ({ value: String(id), label: `${code} (${siteName})` }));
  const post = async () => {
    const sent = await form.send((body) => bringBack({ body }));
    if (!sent) return;
    const words = count(back.length, 'line');
    say({ text: `${words} came back from ${from}.`, undo: { movementId: sent.movementId, what: `what came back from ${from}` } });
    done();
  };
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown ? problemOf(error) : null}>
      <Split>
        <Stack>
          <Refused error={form.refused} />
          {said === null ? null : <Notice role="status">{said}</Notice>}
          <Card component="div" sheet>
            <Table aria-label="What comes back" className="floor">
              <TableHead>
                <TableRow>
                  <TableCell>Item</TableCell>
                  <TableCell align="right">Out</TableCell>
                  <TableCell align="right">Back</TableCell>
                  <TableCell>Condition</TableCell>
                  <TableCell>Into bin</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.rows.map((row, index) => (
                  <TableRow key={row.lineId}>
                    <ItemCell of={row}>
                      <small className="quiet">{[row.lot, row.number].filter(Boolean).join(', ')}</small>
                    </ItemCell>
                    <TableCell align="right" className="quiet">
                      <span className="phone-only">out </span>
                      {quantity(row.out)}
                    </TableCell>
                    <TableCell align="right" className="under">
                      <span className="phone-only">back </span>
                      <Cell number tall label={`Back of ${row.lot ?? row.sku}`} name={`rows.${index}.quantity`} />
                    </TableCell>
                    <TableCell className="under">
                      <CellChoice
                        tall
                        label={`Condition of ${row.lot ?? row.sku}`}
                        name={`rows.${index}.condition`}
                        options={conditions.map((one) => ({ value: one, label: one }))}
                      />
                      {row.condition === 'as it was' ? null : (
                        <Cell tall label={`What is said of ${row.lot ?? row.sku}`} name={`rows.${index}.note`} placeholder="such as: a dent" width={160} />
                      )}
                    </TableCell>
                    <TableCell className="under">
                      <CellChoice
                        tall
                        ids
                        label={`Bin of ${row.lot ?? row.sku}`}
                        name={`rows.${index}.binId`}
                        options={options(row.siteId, isSetApart(row.condition))}
                      />
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
          idle="Scan what comes back, or say how many; what is damaged goes into a bin that is not sold from."
        />
        <BottomBar
          hint="Each scan brings one back"
          next={{ label: `Take ${count(back.length, 'line')} back`, run: () => void post(), disabled: back.length === 0 || form.isBusy }}
        >
          <Button
            onClick={() =>
              form.setValue(
                'rows',
                form.getValues('rows').map((row) => ({ ...row, quantity: row.out })),
                { shouldDirty: true },
              )
            }
          >
            All of it
          </Button>
          <Button onClick={done}>Never mind</Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
