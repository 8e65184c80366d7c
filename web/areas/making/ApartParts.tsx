import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { ApartOutcome } from '@larder/contract/takingApart';
import type { LotEntry } from '@larder/contract/values';
import { Fragment } from 'react';
import { useController, useFormContext } from 'react-hook-form';
import { sentenceIn } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { money } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card } from '../../kit/layout';
import { LineEntry } from '../../shared/LineEntry';
import { LotFields } from '../../shared/LotFields';
import { goodOf, plannedOf, type ApartDraft, type PartRow } from './apartForm';

const { Cell, CellChoice } = fieldsOf<ApartDraft>();

interface ApartPartsProps {
  rows: readonly PartRow[];
  bins: readonly { id: number; code: string; retired: boolean }[];
  outcome: ApartOutcome | undefined;
}

/** What comes of it: how many it should give, how many of those are good, and where they go. */
export function ApartParts({ rows, bins, outcome }: ApartPartsProps) {
  const { getValues, setValue } = useFormContext<ApartDraft>();
  const options = bins.filter(({ retired }) => !retired).map(({ id, code }) => ({ value: String(id), label: code }));
  return (
    <Card component="div" sheet>
      <Table aria-label="What comes of it" className="floor">
        <TableHead>
          <TableRow>
            <TableCell>What comes of it</TableCell>
            <TableCell align="right">Should give</TableCell>
            <TableCell align="right">Good</TableCell>
            <TableCell>Into bin</TableCell>
            <TableCell align="right">Share of cost</TableCell>
            <TableCell align="right">Takes</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row, index) => (
            <Fragment key={row.itemId}>
              <TableRow>
                <ItemCell of={row} />
                <TableCell align="right" className="under">
                  <span className="phone-only">should give </span>
                  <Cell number tall label={`${row.sku} should give`} name={`parts.${index}.planned`} proposed={plannedOf({ ...row, planned: null })} />
                </TableCell>
                <TableCell align="right" className="under">
                  <span className="phone-only">good </span>
                  <Cell number tall label={`Good of ${row.sku}`} name={`parts.${index}.good`} proposed={goodOf({ ...row, good: null })} />
                </TableCell>
                <TableCell className="under">
                  <CellChoice tall ids label={`Bin of ${row.sku}`} name={`parts.${index}.binId`} options={[{ value: '', label: 'its own' }, ...options]} />
                </TableCell>
                <TableCell align="right" className="wide-only">
                  <Cell number tall label={`Share of ${row.sku}`} name={`parts.${index}.share`} placeholder="by cost" />
                </TableCell>
                <TableCell align="right" className="quiet wide-only">
                  {money(outcome?.parts.find(({ itemId }) => itemId === row.itemId)?.value ?? '')}
                </TableCell>
              </TableRow>
              {row.tracking === 'none' || Number(goodOf(row)) === 0 ? null : (
                <TableRow>
                  <TableCell colSpan={6}>
                    <Lots row={row} index={index} />
                  </TableCell>
                </TableRow>
              )}
            </Fragment>
          ))}
          <TableRow>
            <TableCell colSpan={6}>
              <LineEntry
                label="Another part"
                isNewLine
                takesScans={false}
                add={(item, many) => {
                  if (getValues('parts').some(({ itemId }) => itemId === item.id)) return;
                  const { id: itemId, sku, name, tracking } = item;
                  setValue(
                    'parts',
                    [...getValues('parts'), { itemId, sku, name, tracking, gives: '', planned: many || '1', good: null, share: '', binId: null, lots: [] }],
                    {
                      shouldDirty: true,
                    },
                  );
                }}
              />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}

function Lots({ row, index }: { row: PartRow; index: number }) {
  const { field, fieldState } = useController<ApartDraft>({ name: `parts.${index}.lots` });
  return <LotFields item={row} wanted={goodOf(row)} lots={field.value as LotEntry[]} change={field.onChange} error={sentenceIn(fieldState.error)} />;
}
