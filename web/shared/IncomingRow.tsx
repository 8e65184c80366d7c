import Button from '@mui/material/Button';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { CellChoice } from '../kit/CellField';
import { fieldsOf, useField } from '../kit/formFields';
import { useEffect } from 'react';
import { useSeesCosts } from './may';
import { useSite } from './site';
import { plainPrice } from '../kit/format';
import { useItemQuery } from './items';
import { useBinsQuery } from './reference';
import { LotFields } from './LotFields';
import { isNumber, numberSentence, type NumberKind } from '@larder/core/number';
import { useRow } from '../kit/row';
import { useFormContext } from 'react-hook-form';
import type { Entry, WithEntries } from './entries';

const { Cell } = fieldsOf<WithEntries>();

interface EntryRowProps {
  index: number;
  worth: string;
  remove: () => void;
}

export function EntryRow({ index, worth: asked, remove }: EntryRowProps) {
  const { setValue } = useFormContext<WithEntries>();
  const entry = useRow<Entry>(`entries.${index}`);
  const lots = useField(`entries.${index}.lots`);
  const { siteId } = useSite();
  const isShown = useSeesCosts();
  const { data: item } = useItemQuery({ params: { id: entry?.itemId ?? 0 } }, { skip: !entry });
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const rows = bins?.rows ?? [];
  const proposed =
    item?.policies.find((policy) => policy.binId !== null && (siteId === undefined || policy.siteId === siteId))?.binId ??
    rows.find(({ unplaced }) => unplaced)?.id ??
    null;
  const isKnown = item !== undefined && bins !== undefined;
  const asksBin = isKnown && entry?.binId === null && proposed !== null;
  const asksWorth = isKnown && entry?.unitValue === null && isShown;
  useEffect(() => {
    if (asksBin) setValue(`entries.${index}.binId`, proposed);
    if (asksWorth) setValue(`entries.${index}.unitValue`, item?.purchasePrice ? plainPrice(item.purchasePrice) : '');
  });
  if (!entry) return null;
  const sku = item?.sku ?? 'the item';
  return (
    <TableBody>
      <TableRow>
        <TableCell>
          <span className="code">{item?.sku}</span>
          <span className="name">{item?.name}</span>
        </TableCell>
        <TableCell>
          <CellChoice
            label={`Bin of ${sku}`}
            value={entry.binId ?? ''}
            onChange={(typed) => setValue(`entries.${index}.binId`, Number(typed), { shouldDirty: true })}
            tall
          >
            {rows.map((bin) => (
              <option key={bin.id} value={bin.id}>
                {bin.code} ({bin.siteName})
              </option>
            ))}
          </CellChoice>
        </TableCell>
        <TableCell align="right">
          <Cell
            number
            placeholder="how many"
            label={`Quantity of ${sku}`}
            name={`entries.${index}.quantity`}
            hint={(text) => oddNumber(text, 'quantity')}
            tall
          />{' '}
          <span className="quiet">{item && item.unit !== 'each' ? item.unit : ''}</span>
        </TableCell>
        <TableCell align="right">
          <Cell
            number
            placeholder={isShown ? 'each' : 'as bought'}
            label={`${asked}: ${sku}`}
            name={`entries.${index}.unitValue`}
            read={(typed) => (typed === '' && !isShown ? null : typed)}
            hint={(text) => oddNumber(text, 'price')}
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
              change={lots.onChange}
              error={lots.error}
            />
          </TableCell>
        </TableRow>
      ) : null}
    </TableBody>
  );
}

const oddNumber = (text: string, kind: NumberKind): string | undefined => (text.trim() === '' || isNumber(text, kind) ? undefined : numberSentence(kind));
