import Button from '@mui/material/Button';
import { Stack } from '../../kit/layout';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { itemKinds } from '@larder/core/catalog/kind';
import { trackings } from '@larder/contract/catalog';
import type { Address } from '../../kit/address';
import { Choice } from '../../kit/Field';
import { usePartiesQuery } from '../../shared/reference';
import { kindNames } from './kindNames';
import { useFamiliesQuery } from './api';
import { OwnFilter } from '../../shared/OwnFilter';

const names = ['supplier', 'kind', 'tracking', 'family', 'state', 'life', 'attribute', 'value'];

/** The filters that are asked for less often, behind one button that says how many are on. */
export function ItemFilters({ address }: { address: Address }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const on = names.filter((name) => name !== 'value' && address.get(name) !== '').length;
  return (
    <>
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
  const { data: families } = useFamiliesQuery({ query: {} });
  const named = (rows: readonly { id: number; name: string }[] | undefined) => (rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }));
  const field = (name: string) => ({ value: address.get(name), onChange: (value: string) => address.put(name, value) });
  return (
    <Stack pad sx={{ width: 300 }} role="dialog" aria-label="More filters">
      <Choice label="Supplier" none="Any" {...field('supplier')} options={named(suppliers?.rows)} />
      <Choice label="Family" none="Any" {...field('family')} options={[{ value: '0', label: 'Items without a family' }, ...named(families?.rows)]} />
      <Choice label="Kind" none="Any" {...field('kind')} options={itemKinds.map((value) => ({ value, label: kindNames[value] }))} />
      <Choice
        label="Tracking"
        none="Any"
        {...field('tracking')}
        options={trackings.map((value) => ({ value, label: { none: 'None', lot: 'By lot', serial: 'By serial' }[value] }))}
      />
      <Choice
        label="Stock"
        none="Any"
        {...field('state')}
        options={[
          ['in-stock', 'In stock'],
          ['low', 'Low'],
          ['short', 'Short'],
          ['out', 'Out'],
        ].map(([value, label]) => ({ value: value as string, label: label as string }))}
      />
      <Choice
        label="In use or retired"
        none="In use"
        {...field('life')}
        options={[
          { value: 'retired', label: 'Retired' },
          { value: 'all', label: 'All' },
        ]}
      />
      <OwnFilter address={address} subject="item" />
      <Button size="small" onClick={() => names.forEach((name) => address.put(name, ''))}>
        Remove all these filters
      </Button>
    </Stack>
  );
}
