import Button from '@mui/material/Button';
import { Card, Stack } from '../../kit/layout';
import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { Asking } from '../../kit/Asking';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { inUse, useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
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

interface BulkForm {
  fact: Fact;
  value: string;
  attributeId: number | null;
}
const { Choice, Field } = fieldsOf<BulkForm>();

/** The one fact that is sent. */
const sentFact = ({ fact, value, attributeId }: BulkForm) =>
  ({
    categoryId: { categoryId: Number(value) || null },
    taxCodeId: { taxCodeId: Number(value) || null },
    brand: { brand: value },
    maker: { maker: value },
    priceChange: { priceChange: value.trim() },
    attribute: { attribute: { attributeId: attributeId ?? 0, value } },
    retired: { retired: value === 'yes' },
  })[fact];

const named = (rows: readonly { id: number; name: string }[] | undefined) => (rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }));

/** Changes one fact of all chosen items. */
export function BulkEdit({ ids, done }: { ids: readonly number[]; done: () => void }) {
  const { data: reference } = useReferenceQuery({});
  const { data: attributes } = useAttributesQuery({});
  const own = (attributes?.rows ?? []).filter(({ subject }) => subject === 'item');
  const [edit] = useEditItemsMutation();
  const say = useSay();
  const form = useForm({
    came: { fact: 'categoryId', value: '', attributeId: null } as BulkForm,
    body: (typed) => ({ ids: [...ids], ...sentFact(typed) }),
    checkedBy: async () => (await import('@larder/contract/catalog')).editItems.body,
    sentAs: (path) => (path.startsWith('ids') ? path : 'value'),
  });
  const { fact, value } = useWatch({ control: form.control }) as BulkForm;
  const change = async (more: { retiredInUse?: boolean } = {}) => {
    const changed = await form.send((body) => edit({ body: { ...body, ...more } }));
    if (!changed) return;
    say({ text: `${count(changed.changed, 'item')} changed.` });
    done();
  };
  const lists: Partial<Record<Fact, { value: string; label: string }[]>> = {
    categoryId: named(inUse(reference?.categories)),
    taxCodeId: named(inUse(reference?.taxes)),
    retired: [
      { value: 'yes', label: 'retired' },
      { value: 'no', label: 'in use' },
    ],
  };
  return (
    <FormFrame form={form} save={() => void change()}>
      <Card aria-label="Change the chosen items">
        <h2>Change {count(ids.length, 'item')}</h2>
        <Stack pad>
          {form.refused?.asks.includes('retired-in-use') ? (
            <Asking
              question={form.refused.title}
              answers={[{ label: 'Retire them all the same', run: () => void change({ retiredInUse: true }) }]}
              busy={form.isBusy}
            />
          ) : (
            <Refused error={form.refused} />
          )}
          <Choice
            label="What"
            name="fact"
            chosen={(next) => {
              form.setValue('value', '');
              if (next === 'attribute' && own[0]) form.setValue('attributeId', form.getValues('attributeId') ?? own[0].id);
            }}
            options={facts.filter(([key]) => key !== 'attribute' || own.length > 0).map(([key, label]) => ({ value: key, label }))}
          />
          {fact === 'attribute' ? <Choice label="Attribute" name="attributeId" ids options={named(own)} /> : null}
          {lists[fact] ? (
            <Choice label="To" name="value" none={fact === 'retired' ? 'Choose' : 'None'} options={lists[fact]} />
          ) : (
            <Field label="To" name="value" />
          )}
          <Button disabled={form.isBusy || (fact === 'retired' && value === '')} onClick={() => void change()}>
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
    </FormFrame>
  );
}
