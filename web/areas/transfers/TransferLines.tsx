import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ReactNode } from 'react';
import { useFormContext, useWatch, type UseFieldArrayAppend } from 'react-hook-form';
import { CellChoice } from '../../kit/CellField';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Choices } from '../../kit/layout';
import { LineEntry } from '../../shared/LineEntry';
import { useBinsQuery } from '../../shared/reference';
import { newLine, type Figures, type LineDraft, type TransferDraft } from './transferForm';

const { Cell, CellChoice: BinChoice } = fieldsOf<TransferDraft>();

interface TransferLinesProps {
  /** What tells the lines apart while they are typed. */
  ids: readonly string[];
  figuresOf: (line: LineDraft) => Figures | undefined;
  append: UseFieldArrayAppend<TransferDraft, 'lines'>;
  remove: (index: number) => void;
  autoFocus: boolean;
  /** What the sites are called that it comes from and goes to. */
  ends: { from: string; to: string };
  /** Stands over the lines: what fills them all. */
  beside: ReactNode;
}

/** What is to go: how many of each, from which bin and into which, row by row or all at once. */
export function TransferLines({ ids, figuresOf, append, remove, autoFocus, ends, beside }: TransferLinesProps) {
  const { control, setValue, getValues } = useFormContext<TransferDraft>();
  const [lines, fromSiteId, toSiteId] = useWatch({ control, name: ['lines', 'fromSiteId', 'toSiteId'] });
  const from = useBinOptions(fromSiteId, true);
  const to = useBinOptions(toSiteId, false);
  const putAll = (name: 'fromBinId' | 'toBinId', value: string) =>
    getValues('lines').forEach((_, index) => setValue(`lines.${index}.${name}`, Number(value) || null, { shouldDirty: true }));
  return (
    <Card component="div" sheet>
      {lines.length > 1 ? (
        <Choices sx={{ padding: '8px 14px' }}>
          {beside}
          <span>
            take all from <CellChoice label="Take all from" value="" none="bin…" options={from} onChange={(value) => putAll('fromBinId', value)} />
          </span>
          <span>
            put all into <CellChoice label="Put all into" value="" none="bin…" options={to} onChange={(value) => putAll('toBinId', value)} />
          </span>
        </Choices>
      ) : null}
      <Table aria-label="Lines" className="floor">
        <TableHead>
          <TableRow>
            <TableCell>Item</TableCell>
            <TableCell align="right">
              Free <small className="quiet name">{ends.from}</small>
            </TableCell>
            <TableCell align="right">
              Short <small className="quiet name">{ends.to}</small>
            </TableCell>
            <TableCell align="right">Goes</TableCell>
            <TableCell>From bin</TableCell>
            <TableCell>Into bin</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {lines.map((line, index) => {
            const found = figuresOf(line);
            const isPicked = Number(line.picked) > 0;
            return (
              <TableRow key={ids[index] ?? index}>
                <ItemCell of={line}>{line.order === '' ? null : <small className="quiet">for {line.order}</small>}</ItemCell>
                <TableCell align="right" className="quiet">
                  <span className="phone-only">free </span>
                  {found?.free ? quantity(found.free) : ''}
                </TableCell>
                <TableCell align="right" className={Number(found?.short ?? 0) > 0 ? 'late' : 'quiet wide-only'}>
                  <span className="phone-only">short </span>
                  {found ? quantity(found.short, true) : ''}
                </TableCell>
                <TableCell align="right">
                  <Cell number label={`Goes of ${line.sku}`} name={`lines.${index}.quantity`} tall />
                  {isPicked ? <small className="quiet name">{quantity(line.picked)} picked</small> : null}
                </TableCell>
                <TableCell>
                  <BinChoice label={`From bin of ${line.sku}`} name={`lines.${index}.fromBinId`} ids none="any" options={from} />
                </TableCell>
                <TableCell>
                  <BinChoice label={`Into bin of ${line.sku}`} name={`lines.${index}.toBinId`} ids none="any" options={to} />
                </TableCell>
                <TableCell>
                  {isPicked ? null : (
                    <Button size="small" onClick={() => remove(index)} aria-label={`Remove ${line.sku}`}>
                      Remove
                    </Button>
                  )}
                </TableCell>
              </TableRow>
            );
          })}
          <TableRow>
            <TableCell colSpan={7} className="under">
              <LineEntry
                autoFocus={autoFocus}
                add={(item, many) => {
                  const at = getValues('lines').findIndex(({ itemId, salesLineId }) => itemId === item.id && salesLineId === null);
                  if (at < 0) append(newLine(item, many === '' ? '1' : many), { focusName: `lines.${lines.length}.quantity` });
                  else setValue(`lines.${at}.quantity`, String((Number(getValues(`lines.${at}.quantity`)) || 0) + (Number(many) || 1)), { shouldDirty: true });
                }}
              />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}

/** Bins of a site; only those that goods are taken from, or all. */
function useBinOptions(siteId: number | null, sellable: boolean) {
  const { data } = useBinsQuery({ query: { siteId: siteId ?? 0 } }, { skip: siteId === null });
  return siteId === null
    ? []
    : (data?.rows ?? []).filter((bin) => !bin.retired && (bin.sellable || !sellable)).map(({ id, code }) => ({ value: String(id), label: code }));
}
