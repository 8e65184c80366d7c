import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { conditions, needsBin } from '@larder/core/outbound/comingBack';
import { useEffect } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card } from '../../kit/layout';
import { usePut, useRow } from '../../kit/row';
import { useItemQuery } from '../../shared/items';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import { useItemStockQuery } from '../../shared/stock';
import { useMay } from '../../shared/may';
import { conditionWords } from './conditionWords';
import { binsFor, proposedBin, type BackLine, type ReturnDraft } from './returnForm';

const { Cell, CellChoice } = fieldsOf<ReturnDraft>();

interface LinesProps {
  ids: readonly string[];
  remove: (index: number) => void;
}

/** What comes back: how many, in which condition, into which bin, and why. */
export const BackLines = ({ ids, remove }: LinesProps) => (
  <Card sheet component="div">
    <Table aria-label="What comes back" className="floor">
      <TableHead>
        <TableRow>
          <TableCell>Goods</TableCell>
          <TableCell align="right">Come back</TableCell>
          <TableCell>Condition</TableCell>
          <TableCell>Why</TableCell>
          <TableCell />
        </TableRow>
      </TableHead>
      <TableBody>
        {ids.map((id, index) => (
          <LineRow key={id} index={index} remove={() => remove(index)} />
        ))}
      </TableBody>
    </Table>
  </Card>
);

/** Proposes the bin as soon as it is known where the goods belong. */
function useProposedBin(line: BackLine | undefined, siteId: number | null, put: (part: Partial<BackLine>) => void) {
  const { data: all } = useBinsQuery({ query: {} });
  const { data: item } = useItemQuery({ params: { id: line?.itemId ?? 0 } }, { skip: !line });
  const { data: stock } = useItemStockQuery({ params: { id: line?.itemId ?? 0 }, query: { siteId: siteId ?? undefined } }, { skip: !line || siteId === null });
  const bins = binsFor(all?.rows ?? [], line?.condition ?? 'shelf', siteId);
  const own = item?.policies.find((policy) => policy.siteId === siteId)?.binId ?? null;
  const liesIn = (stock?.sites ?? []).flatMap((site) => site.bins.map(({ binId }) => binId));
  const proposed = proposedBin(bins, own, liesIn);
  const asks = line !== undefined && needsBin(line.condition) && item !== undefined && stock !== undefined && all !== undefined;
  const isNone = asks && proposed !== null && !bins.some(({ id }) => id === line.binId);
  useEffect(() => {
    if (isNone) put({ binId: proposed });
  });
  return bins;
}

function LineRow({ index, remove }: { index: number; remove: () => void }) {
  const line = useRow<BackLine>(`lines.${index}`);
  const put = usePut<BackLine>(`lines.${index}`);
  const { control } = useFormContext<ReturnDraft>();
  const siteId = useWatch({ control, name: 'siteId' });
  const bins = useProposedBin(line, siteId, put);
  const { data: reference } = useReferenceQuery({});
  const maySendOn = useMay('inbound.receive');
  if (!line) return null;
  const of = `${line.sku}${line.lot ? ` ${line.lot}` : ''}${line.order ? ` on ${line.order}` : ''}`;
  const isOlder = line.salesLineId === null;
  // Of what was sold before these records nothing is written down that does not come into stock; straight on goes what came straight, by whom may send goods to suppliers.
  const goesOn = !isOlder && (line.straight === '' || Number(line.straight) > 0) && maySendOn;
  const offered = conditions.filter((one) => (one === 'supplier' ? goesOn : one !== 'scrap' || !isOlder));
  return (
    <TableRow>
      <ItemCell of={line}>
        <small className="quiet name">{isOlder ? 'sold before these records' : [line.order, line.lot].filter(Boolean).join(', ')}</small>
        {isOlder && line.tracking !== 'none' ? (
          <Cell label={`${line.tracking === 'serial' ? 'Serial' : 'Lot'} of ${line.sku}`} name={`lines.${index}.lot`} placeholder={line.tracking} width={130} />
        ) : null}
      </ItemCell>
      <TableCell align="right">
        <Cell number label={`How many of ${of}`} name={`lines.${index}.quantity`} width={72} tall />
        <small className="quiet name">{line.held === '' ? (line.unit === 'each' ? '' : line.unit) : `of ${quantity(line.held)}`}</small>
        {isOlder ? <Cell number label={`What one ${line.sku} is worth`} name={`lines.${index}.unitValue`} placeholder="one is worth" width={100} /> : null}
      </TableCell>
      <TableCell className="under">
        <CellChoice
          label={`Condition of ${of}`}
          name={`lines.${index}.condition`}
          chosen={() => put({ binId: null })}
          tall
          width={165}
          options={offered.map((value) => ({ value, label: conditionWords[value] }))}
        />
        {!needsBin(line.condition) ? null : (
          <CellChoice
            label={`Bin of ${of}`}
            name={`lines.${index}.binId`}
            ids
            none="which bin?"
            width={165}
            options={bins.map(({ id, code }) => ({ value: String(id), label: code }))}
          />
        )}
      </TableCell>
      <TableCell className="under">
        <CellChoice
          label={`Why ${of} comes back`}
          name={`lines.${index}.reasonId`}
          ids
          none="why?"
          tall
          width={190}
          options={(reference?.returnReasons ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
        />
        <Cell label={`Note on ${of}`} name={`lines.${index}.note`} placeholder="note" width={190} />
      </TableCell>
      <TableCell className="under">
        <Button size="small" onClick={remove} aria-label={`Remove ${of}`}>
          Remove
        </Button>
      </TableCell>
    </TableRow>
  );
}
