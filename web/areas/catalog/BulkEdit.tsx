import Button from '@mui/material/Button';
import { Card, Stack } from '../../kit/layout';
import { useState } from 'react';
import { Link } from 'react-router';
import { Asking } from '../../kit/Asking';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { inUse, useReferenceQuery } from '../../shared/reference';
import { useAttributesQuery } from '../../shared/items';
import { useEditItemsMutation } from './api';

const facts = [
  ['categoryId', 'Category'],
  ['taxCodeId', 'Tax'],
  ['brand', 'Brand'],
  ['maker', 'Maker'],
  ['priceChange', 'Sales price, per cent more or less'],
  ['attribute', 'Own attribute'],
  ['retired', 'Retired or in use'],
] as const;
type Fact = (typeof facts)[number][0];

/** Changes one fact of all chosen items. */
export function BulkEdit({ ids, done }: { ids: readonly number[]; done: () => void }) {
  const { data: reference } = useReferenceQuery({});
  const { data: attributes } = useAttributesQuery({});
  const own = (attributes?.rows ?? []).filter(({ subject }) => subject === 'item');
  const [fact, setFact] = useState<Fact>('categoryId');
  const [value, setValue] = useState('');
  const [attributeId, setAttributeId] = useState('');
  const [edit, editing] = useEditItemsMutation();
  const { refused, problem, busy, at } = refusalOf(editing);
  const change = async (more: { retiredInUse?: boolean } = {}) => {
    const part = {
      categoryId: { categoryId: Number(value) || null },
      taxCodeId: { taxCodeId: Number(value) || null },
      brand: { brand: value },
      maker: { maker: value },
      priceChange: { priceChange: value.trim() },
      attribute: { attribute: { attributeId: Number(attributeId || own[0]?.id), value } },
      retired: { retired: value === 'yes' },
    }[fact];
    if (!(await edit({ body: { ids: [...ids], ...part, ...more } })).error) done();
  };
  const named = (rows: readonly { id: number; name: string }[] | undefined) => (rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }));
  const lists: Partial<Record<Fact, { value: string; label: string }[]>> = {
    categoryId: named(inUse(reference?.categories)),
    taxCodeId: named(inUse(reference?.taxes)),
    retired: [
      { value: 'yes', label: 'retired' },
      { value: 'no', label: 'in use' },
    ],
  };
  return (
    <Card aria-label="Change the chosen items">
      <h2>Change {count(ids.length, 'item')}</h2>
      <Stack pad>
        {problem?.asks.includes('retired-in-use') ? (
          <Asking question={problem.title} answers={[{ label: 'Retire them all the same', run: () => void change({ retiredInUse: true }) }]} busy={busy} />
        ) : (
          <Refused error={refused} />
        )}
        <Choice
          label="What"
          value={fact}
          onChange={(next) => {
            setFact(next as Fact);
            setValue('');
          }}
          options={facts.filter(([key]) => key !== 'attribute' || own.length > 0).map(([key, label]) => ({ value: key, label }))}
        />
        {fact === 'attribute' ? (
          <Choice label="Attribute" value={attributeId || String(own[0]?.id ?? '')} onChange={setAttributeId} options={named(own)} />
        ) : null}
        {lists[fact] ? (
          <Choice label="To" value={value} none={fact === 'retired' ? 'Choose' : 'None'} onChange={setValue} options={lists[fact]} />
        ) : (
          <Field label="To" value={value} onChange={setValue} error={at(fact)} />
        )}
        <Button disabled={busy || (fact === 'retired' && value === '')} onClick={() => void change()}>
          Change {count(ids.length, 'item')}
        </Button>
        <Button component={Link} to={`/labels?items=${ids.join(',')}`}>
          Print {count(ids.length, 'label')}
        </Button>
        <Button component={Link} to={`/stock/opening?${ids.map((id) => `item=${id}`).join('&')}`}>
          Opening stock of {count(ids.length, 'item')}
        </Button>
      </Stack>
    </Card>
  );
}
