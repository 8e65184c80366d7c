import Button from '@mui/material/Button';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useEffect } from 'react';
import { CellChoice, CellField } from '../../kit/CellField';
import { Check } from '../../kit/Check';
import { decimal } from '@larder/core/decimal';
import { correctionDifference } from '@larder/core/stock/correction';
import type { CorrectionForm, ItemStock } from '@larder/contract/stock';
import { useSite } from '../../shared/site';
import { useField } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { useBinsQuery } from '../../shared/reference';
import { usePut, useRow } from '../../kit/row';
import { isQuantity, type Entry } from './correctionForm';
import { useItemStockQuery } from '../../shared/stock';

interface EntryRowProps {
  index: number;
  way: CorrectionForm['way'];
  remove: () => void;
}

export function EntryRow({ index, way, remove }: EntryRowProps) {
  const entry = useRow<Entry>(`entries.${index}`);
  const change = usePut<Entry>(`entries.${index}`);
  return entry ? <Row entry={entry} way={way} name={`entries.${index}.quantity`} change={change} remove={remove} /> : null;
}

interface RowProps {
  entry: Entry;
  way: CorrectionForm['way'];
  /** Its quantity in the form. */
  name: string;
  change: (part: Partial<Entry>) => void;
  remove: () => void;
}

function Row({ entry, way, name, change, remove }: RowProps) {
  const field = useField(name);
  const { siteId } = useSite();
  const { data, isFetching } = useItemStockQuery({ params: { id: entry.itemId }, query: { siteId } }, { refetchOnMountOrArgChange: true });
  const { data: all } = useBinsQuery({ query: { siteId } });
  const holding = data ? binsHolding(data) : [];
  const binId = entry.binId ?? holding[0]?.binId ?? null;
  const lots = holding.find((bin) => bin.binId === binId)?.lots ?? [];
  const tracked = data !== undefined && data.tracking !== 'none';
  const lotId = tracked ? (entry.lotId ?? lots[0]?.lotId ?? null) : null;
  const held = (tracked ? lots.find((lot) => lot.lotId === lotId) : holding.find((bin) => bin.binId === binId))?.quantity ?? '0';
  const bins = all?.rows ?? [];
  /** What of it has no bin at the same site. */
  const loose = holding.find(
    ({ binId: id }) => id !== binId && bins.some((bin) => bin.id === id && bin.unplaced && bin.siteId === bins.find((one) => one.id === binId)?.siteId),
  );
  const looseHeld = (tracked ? loose?.lots.find((lot) => lot.lotId === lotId)?.quantity : loose?.quantity) ?? '0';
  const others = (all?.rows ?? []).filter((bin) => !holding.some((one) => one.binId === bin.id));
  /** From the first key on, what is typed is about what lay there then. */
  const enter = () => data && change({ binId, lotId, then: (entry.quantity === '' ? null : entry.then) ?? { held, seq: data.seq } });
  // What was scanned, or came with a file, is about what lies there once that is known.
  const isCounted = data !== undefined && !isFetching && entry.quantity !== '' && entry.then === null;
  useEffect(() => {
    if (isCounted) enter();
  });
  const there = decimal(entry.then?.held ?? held).plus(entry.sweep && way === 'there-are-now' ? looseHeld : '0');
  const difference = isQuantity(entry.quantity) ? correctionDifference(way, decimal(entry.quantity.trim()), there) : null;
  return (
    <TableRow>
      <TableCell>
        <span className="code">{data?.sku}</span>
        <span className="name">{data?.name}</span>
      </TableCell>
      <TableCell>
        <CellChoice
          label={`Bin of ${data?.sku ?? 'the line'}`}
          value={binId ?? ''}
          onChange={(typed) => change({ binId: Number(typed), lotId: null, quantity: '', then: null })}
          tall
        >
          {holding.map((bin) => (
            <option key={bin.binId} value={bin.binId}>
              {bin.bin} ({bin.site}): {quantity(bin.quantity)}
            </option>
          ))}
          {others.map((bin) => (
            <option key={bin.id} value={bin.id}>
              {bin.code} ({bin.siteName})
            </option>
          ))}
        </CellChoice>
        {lots.length > 0 ? (
          <CellChoice
            label={`Lot of ${data?.sku ?? 'the line'}`}
            value={lotId ?? ''}
            onChange={(typed) => change({ lotId: Number(typed), binId, quantity: '', then: null })}
            tall
          >
            {lots.map((lot) => (
              <option key={lot.lotId} value={lot.lotId}>
                {lot.code}: {quantity(lot.quantity)}
              </option>
            ))}
          </CellChoice>
        ) : null}
      </TableCell>
      <TableCell className="quiet" align="right">
        {quantity(entry.then?.held ?? held)}
        {way === 'there-are-now' && Number(looseHeld) > 0 ? (
          <Check label={`and ${quantity(looseHeld)} without a bin`} checked={entry.sweep} onChange={() => change({ sweep: !entry.sweep })} />
        ) : null}
      </TableCell>
      <TableCell align="right">
        <CellField
          number
          width={90}
          label={`${way === 'there-are-now' ? 'There are now' : 'Plus or minus'} of ${data?.sku ?? 'the line'}`}
          value={entry.quantity}
          onChange={(text) => {
            enter();
            field.onChange(text);
          }}
          onBlur={field.onBlur}
          ref={field.ref}
          error={field.error}
        />
      </TableCell>
      <TableCell className="strong" align="right">
        {difference === null ? '' : difference.isZero() ? 'agrees' : `${difference.gt(0) ? '+' : ''}${difference.toFixed()}`}
      </TableCell>
      <TableCell>
        <Button size="small" onClick={remove} aria-label={`Remove ${data?.sku ?? 'the line'}`}>
          Remove
        </Button>
      </TableCell>
    </TableRow>
  );
}

const binsHolding = (stock: ItemStock) => stock.sites.flatMap((site) => site.bins.map((bin) => ({ ...bin, site: site.site })));
