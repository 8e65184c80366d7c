import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Fields, inRow } from '../kit/layout';
import { isNumber } from '@larder/core/number';
import { useState } from 'react';
import { parseSerials } from '@larder/core/catalog/serials';
import { decimal, sum } from '@larder/core/decimal';
import type { LotEntry } from '@larder/contract/values';
import { DayField } from '../kit/DayField';
import { useDelayed } from '../kit/delayed';
import { Field, LongField } from '../kit/Field';
import { count, quantity } from '../kit/format';
import { useMeQuery } from './me';
import { useKnownSerialsQuery } from './stock';

interface LotFieldsProps {
  item: { itemId: number; sku: string; tracking: 'none' | 'lot' | 'serial' };
  wanted: string;
  lots: readonly LotEntry[];
  change: (lots: LotEntry[]) => void;
  error?: string | undefined;
}

/** Lots or serials of goods coming in, right where the quantity is: how many are still missing is always in view. */
export function LotFields(props: LotFieldsProps) {
  if (props.item.tracking === 'none') return null;
  // How many are missing stands beside the fields anyway.
  const missing = isNumber(props.wanted, 'quantity') && !decimal(props.wanted.trim()).eq(givenOf(props.lots));
  return (
    <Box sx={{ display: 'grid', gap: 6, padding: '2px 0 6px' }}>
      {props.item.tracking === 'serial' ? <Serials {...props} /> : <Lots {...props} />}
      {props.error && !missing ? (
        <small className="late" role="alert">
          {props.error}
        </small>
      ) : null}
    </Box>
  );
}

const givenOf = (lots: readonly LotEntry[]) =>
  sum(lots.filter((row) => row.code !== '' && isNumber(row.quantity, 'quantity')).map((row) => decimal(row.quantity)));

/** "28 of 40 still missing", or that all are there, or too many. */
function Missing({ wanted, given, what }: { wanted: string; given: string; what: string }) {
  if (!isNumber(wanted, 'quantity')) return null;
  const left = decimal(wanted.trim()).minus(given);
  if (left.isZero())
    return (
      <span className="here">
        All {quantity(wanted)} {what} given.
      </span>
    );
  return <span className="late">{left.gt(0) ? `${left.toFixed()} of ${quantity(wanted)} ${what} still missing.` : `${left.abs().toFixed()} too many.`}</span>;
}

/** Serials that have a field for their tag here. */
const mostTagged = 40;

/** Typed, scanned one after the other, pasted, or as a range. */
function Serials({ item, wanted, lots, change }: LotFieldsProps) {
  const [text, setText] = useState(lots.map(({ code }) => code).join('\n'));
  const [tags, setTags] = useState(lots.some(({ tag }) => tag !== undefined));
  const { codes, faults } = parseSerials(text);
  const asked = useDelayed(codes, 250);
  const { currentData } = useKnownSerialsQuery({ body: { itemId: item.itemId, codes: asked } }, { skip: asked.length === 0 });
  const write = (typed: string) => {
    setText(typed);
    change(parseSerials(typed).codes.map((code) => ({ code, useBy: null, quantity: '1', ...tagged(code) })));
  };
  const tagged = (code: string) => {
    const tag = lots.find((lot) => lot.code === code)?.tag;
    return tag ? { tag } : {};
  };
  const putTag = (code: string, tag: string) =>
    change(lots.map((lot) => (lot.code !== code ? lot : { code, useBy: null, quantity: '1', ...(tag.trim() === '' ? {} : { tag: tag.trim() }) })));
  const said = [
    ...faults,
    ...(currentData?.rows ?? []).map(({ code, where, ours }) => `${code} is ${ours ? 'here already' : 'known and lies elsewhere'}: ${where}.`),
  ];
  return (
    <>
      <span className="quiet">Serials of {item.sku}: one a line, or a range such as LX-0001..LX-0040</span>
      <LongField
        label={`Serials of ${item.sku}`}
        hideLabel
        code
        takesLines
        rows={Math.min(6, Math.max(2, text.split('\n').length))}
        value={text}
        onChange={write}
      />
      <p role="status">
        <Missing wanted={wanted} given={String(codes.length)} what="serials" />{' '}
        {said.slice(0, 5).map((sentence) => (
          <span key={sentence} className="late">
            {sentence}{' '}
          </span>
        ))}
        {said.length > 5 ? <span className="late">and {count(said.length - 5, 'more')}</span> : null}
        {codes.length > 0 && !tags ? (
          <Button size="small" onClick={() => setTags(true)}>
            Give our tags
          </Button>
        ) : null}
      </p>
      {tags ? (
        <Fields>
          {lots.slice(0, mostTagged).map(({ code, tag = '' }) => (
            <Field key={code} label={`Tag of ${code}`} value={tag} onChange={(typed) => putTag(code, typed)} />
          ))}
          {lots.length > mostTagged ? <p className="quiet">The tags of the others are imported from a file, or given on each unit’s own page.</p> : null}
        </Fields>
      ) : null}
    </>
  );
}

function Lots({ item, wanted, lots, change }: LotFieldsProps) {
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? '';
  const rows = lots.length > 0 ? lots : [{ code: '', useBy: null, quantity: wanted }];
  const put = (index: number, part: Partial<LotEntry>) => change(rows.map((row, at) => (at === index ? { ...row, ...part } : row)));
  return (
    <>
      {rows.map((row, index) => (
        <Fields key={index} sx={inRow('minmax(110px, 2fr) minmax(100px, 1fr) 80px auto')}>
          <Field label={`Lot of ${item.sku}`} value={row.code} onChange={(code) => put(index, { code })} />
          <DayField label="Use by" value={row.useBy} today={today} onChange={(useBy) => put(index, { useBy })} />
          <Field label="How many" value={row.quantity} onChange={(text) => put(index, { quantity: text })} />
          <Button
            size="small"
            sx={{ height: 36 }}
            disabled={rows.length === 1}
            onClick={() => change(rows.filter((_, at) => at !== index))}
            aria-label={`Remove lot ${index + 1} of ${item.sku}`}
          >
            ×
          </Button>
        </Fields>
      ))}
      <p>
        <Missing wanted={wanted} given={givenOf(rows).toFixed()} what={`of ${item.sku}`} />{' '}
        <Button size="small" onClick={() => change([...rows, { code: '', useBy: null, quantity: '' }])}>
          Another lot
        </Button>
      </p>
    </>
  );
}
