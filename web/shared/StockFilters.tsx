import Button from '@mui/material/Button';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { useTyped, type Address } from '../kit/address';
import { Choice, Field } from '../kit/Field';
import { Fields, Stack } from '../kit/layout';
import { CategoryFilter } from './CategoryFilter';
import { OwnFilter } from './OwnFilter';
import { usePartiesQuery, useReferenceQuery } from './reference';

const names = ['supplier', 'zone', 'from', 'to', 'attribute', 'value'];

/** What a stock table is held to, as its address has it. */
export const heldTo = (address: Address) => ({
  categoryId: Number(address.get('category')) || undefined,
  supplierId: Number(address.get('supplier')) || undefined,
  zone: address.get('zone') || undefined,
  fromSku: address.get('from') || undefined,
  toSku: address.get('to') || undefined,
  attributeId: Number(address.get('attribute')) || undefined,
  attributeValue: address.get('value') || undefined,
});

/** The filters of the stock table; those that are asked for less often stand behind one button that says how many are on. */
export function StockFilters({ address }: { address: Address }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const on = names.filter((name) => name !== 'value' && address.get(name) !== '').length;
  return (
    <>
      <CategoryFilter address={address} />
      <Button aria-haspopup="dialog" onClick={(event) => setAnchor(event.currentTarget)}>
        More filters{on > 0 ? ` (${on})` : ''}
      </Button>
      <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <Panel address={address} />
      </Popover>
    </>
  );
}

function Panel({ address }: { address: Address }) {
  const { data: suppliers } = usePartiesQuery({ query: { as: 'supplier' } });
  const { data: reference } = useReferenceQuery({});
  const from = useTyped(address, 'from');
  const to = useTyped(address, 'to');
  const field = (name: string) => ({ value: address.get(name), onChange: (value: string) => address.put(name, value) });
  return (
    <Stack pad sx={{ width: 320 }} role="dialog" aria-label="More filters">
      <Choice
        label="Supplier"
        none="Any"
        {...field('supplier')}
        options={(suppliers?.rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
      />
      {(reference?.zones ?? []).length > 0 ? (
        <Choice label="Lying in zone" none="Any" {...field('zone')} options={(reference?.zones ?? []).map((zone) => ({ value: zone, label: zone }))} />
      ) : null}
      <Fields sx={{ gridTemplateColumns: '1fr 1fr' }}>
        <Field label="SKU from" {...from} />
        <Field label="SKU to" {...to} />
      </Fields>
      <OwnFilter address={address} subject="item" asColumns={false} />
      <Button size="small" onClick={() => names.forEach((name) => address.put(name, ''))}>
        Remove all these filters
      </Button>
    </Stack>
  );
}
