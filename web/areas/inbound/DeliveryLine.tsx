import { memo } from 'react';
import { Choices } from '../../kit/layout';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { CellChoice, CellField } from '../../kit/CellField';
import { Check } from '../../kit/Check';
import { counted, type TallyLine } from '@larder/core/inbound/tally';
import type { DeskLine } from '@larder/contract/receiving';
import { due, quantity } from '../../kit/format';
import { useBinsQuery } from '../../shared/reference';
import { LotFields } from '../../shared/LotFields';
import { lotsApart, waitingWords } from '@larder/core/inbound/desk';
import { ItemCell } from '../../kit/ItemCell';

/** Where an order goes and when it is due, or how late it is. */
export function DeliveryDue({ line, today }: { line: DeskLine; today: string }) {
  const late = line.expectedOn !== null && line.expectedOn < today;
  return (
    <>
      to {line.site},{' '}
      <span className={late ? 'late' : ''}>
        {late ? '' : 'due '}
        {due(line.expectedOn, today)}
      </span>
    </>
  );
}

export interface Put {
  lineId: number;
  put: Partial<TallyLine>;
}

interface DeliveryLineProps {
  line: DeskLine;
  at: TallyLine | undefined;
  put: (lines: Put[]) => void;
}

/** One line at the desk; drawn anew only when something is counted on it. */
export const DeliveryLine = memo(function DeliveryLine({ line, at, put: putLines }: DeliveryLineProps) {
  const put = (part: Partial<TallyLine>) => putLines([{ lineId: line.lineId, put: part }]);
  const { data: bins } = useBinsQuery({ query: { siteId: line.siteId } });
  const here = counted(at);
  const some = here.gt(0);
  const of = `${line.sku} on ${line.orderNumber}`;
  const binId = at?.binId ?? line.binId;
  const given = (at?.lots ?? []).filter(({ code }) => code.trim() !== '');
  const { apart } = lotsApart(given, counted({ quantity: at?.damaged ?? '', binId: null }));
  return (
    <>
      <TableRow aria-selected={some}>
        <ItemCell of={line}>
          {line.waiting.length > 0 ? <small className="low">{waitingWords(line)}</small> : null}
          {line.others.map(({ person, quantity: many }) => (
            <Box component="small" key={person} className="quiet" sx={{ display: 'block' }}>
              {person} has counted {quantity(many)} just now
            </Box>
          ))}
        </ItemCell>
        <TableCell align="right">
          <Button size="small" aria-label={`Take all ${quantity(line.outstanding)} of ${of}`} onClick={() => put({ quantity: line.outstanding, binId })}>
            of {quantity(line.outstanding)}
          </Button>{' '}
          <CellField number label={`Quantity of ${of}`} value={at?.quantity ?? ''} onChange={(typed) => put({ quantity: typed.slice(0, 20), binId })} />
        </TableCell>
        <TableCell className="under" sx={{ width: 150 }}>
          {line.stocked ? (
            <CellChoice width="100%" label={`Bin for ${of}`} value={binId ?? ''} onChange={(typed) => put({ binId: Number(typed) })}>
              {(bins?.rows ?? []).map((bin) => (
                <option key={bin.id} value={bin.id}>
                  {bin.code}
                </option>
              ))}
            </CellChoice>
          ) : (
            <span className="quiet">not kept in stock</span>
          )}
        </TableCell>
      </TableRow>
      {some ? (
        <TableRow>
          <TableCell colSpan={3} className="under">
            <Choices>
              {line.stocked && (bins?.rows ?? []).some(({ sellable }) => !sellable) ? (
                <label>
                  Damaged{' '}
                  <CellField
                    number
                    width={64}
                    label={`Damaged of ${of}`}
                    value={at?.damaged ?? ''}
                    onChange={(typed) => put({ damaged: typed.slice(0, 20) })}
                  />{' '}
                  to quarantine
                  {apart.length > 0 ? <span className="code"> {apart.map(({ code }) => code).join(', ')}</span> : null}
                </label>
              ) : null}
              {line.waiting.length > 0 ? (
                <Check label="Straight to the bench" checked={at?.toBench ?? false} onChange={(checked) => put({ toBench: checked })} />
              ) : null}
              {line.kind === 'purchase' && here.lt(line.outstanding) ? (
                <Check
                  label={<>The other {quantity(here.minus(line.outstanding).neg().toFixed())} will not come</>}
                  checked={at?.noMore ?? false}
                  onChange={(checked) => put({ noMore: checked })}
                />
              ) : null}
            </Choices>
            <LotFields item={line} wanted={at?.quantity ?? ''} lots={at?.lots ?? []} change={(lots) => put({ lots })} />
          </TableCell>
        </TableRow>
      ) : null}
    </>
  );
});
