import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { WorkOrder } from '@larder/contract/workOrders';
import { isNumber } from '@larder/core/number';
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
import { useBinsQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useBringPartsBackMutation, useForeseePartsBackQuery } from './api';

interface BackRow {
  key: string;
  lineId: number;
  itemId: number;
  sku: string;
  name: string;
  unit: string;
  lotId: number | null;
  lot: string | null;
  atWork: string;
  quantity: string;
  binId: number | null;
}
interface BackDraft {
  rows: BackRow[];
}
const { Cell, CellChoice } = fieldsOf<BackDraft>();
const rowKeys = { rows: { key: ({ key }: BackRow): string => key, typed: ['quantity', 'binId'] as const } };
const goesBack = ({ quantity: many }: BackRow): boolean => many.trim() !== '' && !(isNumber(many, 'quantity') && Number(many) === 0);
const backBody = ({ rows }: BackDraft) => ({
  lines: rows.filter(goesBack).map(({ lineId, lotId, binId, quantity: many }) => ({ lineId, lotId, binId: binId ?? 0, quantity: many })),
});

/** Parts that are at the work of an order and go back to bins. */
export function BringBackSheet({ one, done }: { one: WorkOrder; done: () => void }) {
  const say = useSay();
  const [bring] = useBringPartsBackMutation();
  const { data: bins } = useBinsQuery({ query: { siteId: one.siteId } });
  const usual = (bins?.rows ?? []).find((bin) => bin.sellable && !bin.retired)?.id ?? null;
  const rows = one.lines.flatMap(({ id: lineId, itemId, sku, name, unit, lots }) =>
    lots.map(({ lotId, lot, quantity: atWork }): BackRow => ({
      key: `${lineId}/${lotId ?? ''}`,
      lineId,
      itemId,
      sku,
      name,
      unit,
      lotId,
      lot,
      atWork,
      quantity: '',
      binId: usual,
    })),
  );
  const form = useForm({
    came: { rows },
    version: useVersionOf([one.lines, usual]),
    rowKeys,
    body: backBody,
    checkedBy: async () => (await import('@larder/contract/workOrders')).bringBack.body,
    sentAs: (path, typed: BackDraft) => {
      const row = sentRow(path, 'lines', typed.rows, goesBack);
      return row ? `rows.${row.at}.${row.part}` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as BackDraft;
  const back = typed.rows.filter(goesBack);
  const asked = useDelayed(backBody(typed), 250);
  const shown = asked.lines.length > 0;
  const { currentData, error } = useForeseePartsBackQuery({ params: { id: one.id }, body: asked }, { skip: !shown });
  const post = async () => {
    const sent = await form.send((body) => bring({ params: { id: one.id }, body }));
    if (!sent) return;
    say({
      text: `${count(back.length, 'part')} of ${one.number} brought back.`,
      undo: { movementId: sent.movementId, what: `what was brought back of ${one.number}` },
    });
    done();
  };
  const options = (bins?.rows ?? []).filter((bin) => !bin.retired).map(({ id, code }) => ({ value: String(id), label: code }));
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown ? problemOf(error) : null}>
      <Split>
        <Stack>
          <Refused error={form.refused} />
          <Card component="div" sheet>
            <Table aria-label="At the work" className="floor">
              <TableHead>
                <TableRow>
                  <TableCell>At the work</TableCell>
                  <TableCell align="right">There</TableCell>
                  <TableCell align="right">Goes back</TableCell>
                  <TableCell>Into bin</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.rows.map((row, index) => (
                  <TableRow key={row.key}>
                    <ItemCell of={row}>{row.lot === null ? null : <small className="quiet">{row.lot}</small>}</ItemCell>
                    <TableCell align="right" className="quiet">
                      <span className="phone-only">there </span>
                      {quantity(row.atWork)}
                    </TableCell>
                    <TableCell align="right" className="under">
                      <span className="phone-only">back </span>
                      <Cell number tall label={`Back of ${row.lot ?? row.sku}`} name={`rows.${index}.quantity`} />
                    </TableCell>
                    <TableCell className="under">
                      <CellChoice tall ids label={`Bin of ${row.lot ?? row.sku}`} name={`rows.${index}.binId`} options={options} />
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
          idle="Say how many go back, and into which bin."
        />
        <BottomBar next={{ label: `Bring ${count(back.length, 'part')} back`, run: () => void post(), disabled: back.length === 0 || form.isBusy }}>
          <Button
            onClick={() =>
              form.setValue(
                'rows',
                form.getValues('rows').map((row) => ({ ...row, quantity: row.atWork })),
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
