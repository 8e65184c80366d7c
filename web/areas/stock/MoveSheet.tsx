import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { decimal } from '@larder/core/decimal';
import { moveScan, type MoveBin } from '@larder/core/stock/moving';
import { useWatch } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { sentRow, useVersionOf } from '../../kit/row';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { doneOrKept } from '../../shared/floor/kept';
import { useSay } from '../../shared/say';
import { useBinContentsQuery, useMoveGoodsMutation } from './api';
import { isMoved, moveBody, moveRows, movesOf, type MoveDraft, type MoveRow } from './moveForm';

const { Cell, Choice } = fieldsOf<MoveDraft>();

interface MoveSheetProps {
  from: MoveBin;
  bins: readonly MoveBin[];
  /** What was said of the last scan. */
  said: string | null;
  say: (words: string | null) => void;
  /** Begins with another bin, or (null) anew. */
  begin: (binId: number | null, said?: string | null) => void;
}

/** What lies in the bin, how many of it are moved, and where to. The bin that is scanned last posts it. */
export function MoveSheet(props: MoveSheetProps) {
  const { currentData, error } = useBinContentsQuery({ params: { id: props.from.id }, query: {} }, { refetchOnMountOrArgChange: true });
  return currentData ? <Sheet {...props} rows={moveRows(currentData.rows)} /> : <Waiting error={error} />;
}

const keyOf = ({ itemId, lotId }: MoveRow): string => `${itemId}/${lotId ?? ''}`;

function Sheet({ from, bins, rows, said, say, begin }: MoveSheetProps & { rows: MoveRow[] }) {
  const tell = useSay();
  const [move] = useMoveGoodsMutation();
  const form = useForm({
    came: { toBinId: null, note: '', rows } as MoveDraft,
    version: useVersionOf(rows),
    rowKeys: { rows: keyOf },
    body: moveBody(from.id),
    checkedBy: async () => (await import('@larder/contract/moves')).moveGoods.body,
    sentAs: (path, typed) => {
      const row = sentRow(path, 'lines', typed.rows, isMoved);
      if (!row) return path;
      return row.part === 'toBinId' ? 'toBinId' : `rows.${row.at}.moved`;
    },
  });
  const typed = useWatch({ control: form.control }) as MoveDraft;
  const moved = typed.rows.filter(isMoved);
  const here = bins.filter(({ siteId, id }) => siteId === from.siteId && id !== from.id);
  const post = async () => {
    const lines = form.getValues('rows').filter(isMoved);
    const to = bins.find(({ id }) => id === form.getValues('toBinId'));
    const what = lines.length === 1 && lines[0] ? `${quantity(lines[0].moved.trim())} of ${lines[0].sku}` : count(lines.length, 'line');
    const kept = { words: `Move ${what} from ${from.code} to ${to?.code ?? ''}`, to: `/stock/move?from=${from.id}` };
    const posted = await form.send((body) => move({ body, kept: { ...kept, moves: movesOf(body) } }));
    if (!posted || !to) return;
    const words = `Moved ${what} from ${from.code} to ${to.code}.`;
    tell(doneOrKept(posted, words, `the move of ${what}`));
    begin(null, `${words} Scan the next bin.`);
  };
  useScan((code) => {
    const now = form.getValues('rows');
    const scan = moveScan(from, now, bins, code);
    if (scan.does === 'nothing') say(scan.said);
    else if (scan.does === 'from') begin(scan.bin.id);
    else if (scan.does === 'to') {
      form.setValue('toBinId', scan.bin.id, { shouldDirty: true });
      void post();
    } else {
      const more = decimal(scan.row.moved || '0')
        .plus(scan.quantity)
        .toFixed();
      form.setValue(
        'rows',
        now.map((row) => (row === scan.row ? { ...row, moved: more } : row)),
        { shouldDirty: true },
      );
      say(`${quantity(more)} of ${scan.row.sku} from ${from.code}.`);
    }
    return scan.does === 'nothing' ? 'refused' : true;
  });
  return (
    <FormFrame form={form} save={() => void post()}>
      {said === null ? null : <Notice role="status">{said}</Notice>}
      <Refused error={form.refused} />
      {rows.length === 0 ? (
        <Card state component="p">
          Nothing lies in {from.code}.
        </Card>
      ) : (
        <Card component="div">
          <Table aria-label={`In ${from.code}`} className="floor">
            <TableHead>
              <TableRow>
                <TableCell>Item</TableCell>
                <TableCell align="right">There</TableCell>
                <TableCell align="right">Move</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {typed.rows.map((row, index) => (
                <TableRow key={keyOf(row)}>
                  <ItemCell of={row}>
                    {row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}
                  </ItemCell>
                  <TableCell align="right" className="quiet">
                    <span className="phone-only">there </span>
                    {quantity(row.inBin)}
                  </TableCell>
                  <TableCell className="under" align="right">
                    <Cell number tall label={`Move of ${row.lot === null ? row.sku : `${row.sku} ${row.lot}`}`} name={`rows.${index}.moved`} />
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Card>
      )}
      <Card pad component="div">
        <Choice label="To bin" name="toBinId" ids none="Scan or choose it" options={here.map(({ id, code }) => ({ value: String(id), label: code }))} />
      </Card>
      <BottomBar
        hint="The bin that is scanned after the goods moves them"
        next={{ label: `Move ${count(moved.length, 'line')}`, run: () => void post(), disabled: form.isBusy || moved.length === 0 }}
      >
        <Button
          onClick={() =>
            form.setValue(
              'rows',
              form.getValues('rows').map((row) => ({ ...row, moved: row.inBin })),
              { shouldDirty: true },
            )
          }
          disabled={rows.length === 0}
        >
          The whole bin
        </Button>
        <Button onClick={() => begin(null)}>Another bin</Button>
      </BottomBar>
    </FormFrame>
  );
}
