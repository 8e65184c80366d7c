import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ToPutAway } from '@larder/contract/moves';
import type { MoveForm } from '@larder/contract/moves';
import { decimal } from '@larder/core/decimal';
import { moveScan } from '@larder/core/stock/moving';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { sentRow, useVersionOf } from '../../kit/row';
import { useScan } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinsQuery } from '../../shared/reference';
import { doneOrKept } from '../../shared/floor/kept';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { useMoveGoodsMutation, useToPutAwayQuery } from './api';
import { movesOf } from './moveForm';
import { StockWays } from '../../shared/StockWays';

type Row = Omit<ToPutAway, 'quantity'> & { inBin: string; moved: string };
interface PutAwayForm {
  rows: Row[];
}
const { Cell, CellChoice } = fieldsOf<PutAwayForm>();

const isReady = ({ moved, toBinId }: Row): boolean => moved.trim() !== '' && Number(moved) !== 0 && toBinId !== null;
const keyOf = ({ itemId, lotId, fromBinId }: Row): string => `${itemId}/${lotId ?? ''}/${fromBinId}`;
/** What is left of a row that was put away, if anything. */
function leftOf(row: Row): Row[] {
  if (!isReady(row)) return [row];
  const left = decimal(row.inBin).minus(row.moved.trim());
  return left.gt(0) ? [{ ...row, inBin: left.toFixed(), moved: '' }] : [];
}
const bodyOf = ({ rows }: PutAwayForm): MoveForm => ({
  note: '',
  lines: rows
    .filter(isReady)
    .map(({ itemId, lotId, moved, fromBinId, toBinId }) => ({ itemId, lotId, quantity: moved.trim(), fromBinId, toBinId: toBinId as number })),
});

/** Goods that have no proper bin yet, with the bin where each should go. */
export function PutAwayPage() {
  useTitle('To put away');
  const { siteId } = useSite();
  const { data, error } = useToPutAwayQuery({ query: { siteId } });
  // Until it is known which bins there are, no scan is taken.
  const { data: bins } = useBinsQuery({ query: { siteId } });
  return (
    <Stack sx={{ maxWidth: 980 }}>
      <PageHead sx={{ margin: 0 }}>
        <h1>To put away</h1>
        <StockWays />
      </PageHead>
      {data === undefined || bins === undefined ? (
        <Waiting error={error} />
      ) : data.rows.length === 0 ? (
        <Card state component="p">
          Everything has its bin. What is received without one will stand here.
        </Card>
      ) : (
        <Sheet rows={data.rows.map(({ quantity: inBin, ...row }) => ({ ...row, inBin, moved: '' }))} />
      )}
    </Stack>
  );
}

function Sheet({ rows }: { rows: Row[] }) {
  const { siteId } = useSite();
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const tell = useSay();
  const [said, setSaid] = useState<string | null>(null);
  /** The row that was scanned last, which goes into the bin that is scanned next. */
  const [inHand, setInHand] = useState<string | null>(null);
  const [move] = useMoveGoodsMutation();
  const form = useForm({
    came: { rows } as PutAwayForm,
    version: useVersionOf(rows),
    rowKeys: { rows: keyOf },
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/moves')).moveGoods.body,
    sentAs: (path, typed) => {
      const row = sentRow(path, 'lines', typed.rows, isReady);
      return row ? `rows.${row.at}.${row.part === 'toBinId' ? 'toBinId' : 'moved'}` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as PutAwayForm;
  const ready = typed.rows.filter(isReady);
  const usable = (bins?.rows ?? []).filter(({ retired, unplaced }) => !retired && !unplaced);
  const put = (key: string, part: Partial<Row>) =>
    form.setValue(
      'rows',
      form.getValues('rows').map((row) => (keyOf(row) === key ? { ...row, ...part } : row)),
      { shouldDirty: true },
    );
  const post = async () => {
    const lines = form.getValues('rows').filter(isReady);
    const what = lines.length === 1 && lines[0] ? `${quantity(lines[0].moved.trim())} of ${lines[0].sku}` : count(lines.length, 'line');
    const posted = await form.send((body) => move({ body, kept: { words: `Put ${what} away`, to: '/stock/put-away', moves: movesOf(body) } }));
    if (!posted) return;
    // What is left stands there at once; the list follows.
    form.reset({ rows: form.getValues('rows').flatMap(leftOf) });
    setInHand(null);
    setSaid(null);
    tell(doneOrKept(posted, `Put ${count(lines.length, 'line')} away.`, `the putting away of ${count(lines.length, 'line')}`));
  };
  useScan((code) => {
    const now = form.getValues('rows');
    const held = now.find((row) => keyOf(row) === inHand);
    const lying = now.map((row) => ({ ...row, lot: row.lot, key: keyOf(row) }));
    const at = held ? { id: held.fromBinId, code: 'the goods without a bin', siteId: held.siteId, siteName: held.site } : null;
    const scan = moveScan(at ?? { id: 0, code: 'the goods without a bin', siteId: now[0]?.siteId ?? 0, siteName: '' }, lying, usable, code);
    if (scan.does === 'nothing') setSaid(scan.said);
    else if (scan.does === 'count') {
      const more = scan.quantity.plus(scan.row.moved || '0').toFixed();
      put(scan.row.key, { moved: more });
      setInHand(scan.row.key);
      setSaid(`${quantity(more)} of ${scan.row.sku}${scan.row.to === null ? '. Scan its bin.' : `, for ${scan.row.to}. Scan the bin.`}`);
    } else if (held) {
      put(keyOf(held), { toBinId: scan.bin.id });
      setSaid(`${held.sku} goes into ${scan.bin.code}.`);
      void post();
    } else {
      setSaid('Scan first what is put away.');
      return 'refused';
    }
    return scan.does === 'nothing' ? 'refused' : true;
  });
  return (
    <FormFrame form={form} save={() => void post()}>
      {said === null ? null : <Notice role="status">{said}</Notice>}
      <Refused error={form.refused} />
      <Card component="div">
        <Table aria-label="Goods without a bin" className="floor">
          <TableHead>
            <TableRow>
              <TableCell>Item</TableCell>
              <TableCell className="wide-only">Site</TableCell>
              <TableCell align="right">There</TableCell>
              <TableCell>Into bin</TableCell>
              <TableCell align="right">Put away</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {typed.rows.map((row, index) => (
              <TableRow key={keyOf(row)} aria-selected={keyOf(row) === inHand}>
                <ItemCell of={row}>{row.lot ? <small className="quiet">{row.useBy ? `lot ${row.lot}, use by ${row.useBy}` : row.lot}</small> : null}</ItemCell>
                <TableCell className="quiet wide-only">{row.site}</TableCell>
                <TableCell align="right" className="quiet">
                  <span className="phone-only">there </span>
                  {quantity(row.inBin)}
                </TableCell>
                <TableCell className="under">
                  <CellChoice
                    label={`Bin of ${row.sku}`}
                    name={`rows.${index}.toBinId`}
                    ids
                    tall
                    none="choose"
                    options={usable.filter((bin) => bin.siteId === row.siteId).map(({ id, code }) => ({ value: String(id), label: code }))}
                  />
                </TableCell>
                <TableCell className="under" align="right">
                  <Cell number tall label={`Put away of ${row.sku}`} name={`rows.${index}.moved`} />
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Card>
      <BottomBar
        hint="Scan a thing, then the bin it goes into"
        next={{ label: `Put ${count(ready.length, 'line')} away`, run: () => void post(), disabled: form.isBusy || ready.length === 0 }}
      >
        <Button
          onClick={() =>
            form.setValue(
              'rows',
              form.getValues('rows').map((row) => (row.toBinId === null ? row : { ...row, moved: row.inBin })),
              { shouldDirty: true },
            )
          }
        >
          All where they are proposed
        </Button>
      </BottomBar>
    </FormFrame>
  );
}
