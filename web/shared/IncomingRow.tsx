import Button from '@mui/material/Button';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { CellChoice, CellField } from '../kit/CellField';
import { useEffect } from 'react';
import { useSeesCosts } from './may';
import { useSite } from './site';
import { plainPrice } from '../kit/format';
import { useItemQuery } from './items';
import { useBinsQuery } from './reference';
import { LotFields } from './LotFields';
import { isNumber, numberSentence, type NumberKind } from '@larder/core/number';
import type { Entry } from './entries';

interface EntryRowProps {
  entry: Entry;
  worth: string;
  change: (part: Partial<Entry>) => void;
  remove: () => void;
  errorAt: (field: string) => string | undefined;
}

export function EntryRow({ entry, worth: asked, change, remove, errorAt }: EntryRowProps) {
  const { siteId } = useSite();
  const isShown = useSeesCosts();
  const { data: item } = useItemQuery({ params: { id: entry.itemId } });
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const rows = bins?.rows ?? [];
  const proposed =
    item?.policies.find((policy) => policy.binId !== null && (siteId === undefined || policy.siteId === siteId))?.binId ??
    rows.find(({ unplaced }) => unplaced)?.id ??
    null;
  const open = item !== undefined && bins !== undefined && ((entry.binId === null && proposed !== null) || (entry.unitValue === null && isShown));
  useEffect(() => {
    if (!open) return;
    change({ binId: entry.binId ?? proposed, unitValue: entry.unitValue ?? (isShown ? (item.purchasePrice ? plainPrice(item.purchasePrice) : '') : null) });
  });
  const sku = item?.sku ?? 'the item';
  return (
    <TableBody>
      <TableRow>
        <TableCell>
          <span className="code">{item?.sku}</span>
          <span className="name">{item?.name}</span>
        </TableCell>
        <TableCell>
          <CellChoice label={`Bin of ${sku}`} value={entry.binId ?? ''} onChange={(typed) => change({ binId: Number(typed) })} tall>
            {rows.map((bin) => (
              <option key={bin.id} value={bin.id}>
                {bin.code} ({bin.siteName})
              </option>
            ))}
          </CellChoice>
        </TableCell>
        <TableCell align="right">
          <CellField
            number
            placeholder="how many"
            label={`Quantity of ${sku}`}
            value={entry.quantity}
            onChange={(typed) => change({ quantity: typed })}
            error={oddNumber(entry.quantity, 'quantity') ?? errorAt('quantity')}
            tall
          />{' '}
          <span className="quiet">{item && item.unit !== 'each' ? item.unit : ''}</span>
        </TableCell>
        <TableCell align="right">
          <CellField
            number
            placeholder={isShown ? 'each' : 'as bought'}
            label={`${asked}: ${sku}`}
            value={entry.unitValue ?? ''}
            onChange={(typed) => change({ unitValue: typed === '' && !isShown ? null : typed })}
            error={oddNumber(entry.unitValue ?? '', 'price') ?? errorAt('unitValue')}
            tall
          />
        </TableCell>
        <TableCell>
          <Button size="small" onClick={remove} aria-label={`Remove ${sku}`}>
            Remove
          </Button>
        </TableCell>
      </TableRow>
      {item && item.tracking !== 'none' ? (
        <TableRow>
          <TableCell colSpan={5} className="under">
            <LotFields
              item={{ itemId: item.id, sku: item.sku, tracking: item.tracking }}
              wanted={entry.quantity}
              lots={entry.lots}
              change={(lots) => change({ lots })}
              error={errorAt('lots')}
            />
          </TableCell>
        </TableRow>
      ) : null}
    </TableBody>
  );
}

const oddNumber = (text: string, kind: NumberKind): string | undefined => (text.trim() === '' || isNumber(text, kind) ? undefined : numberSentence(kind));
