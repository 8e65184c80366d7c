import { Card, Fields } from '../kit/layout';
import type { listAttributes } from '@larder/contract/attributes';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useController } from 'react-hook-form';
import { sentenceIn } from '../kit/form';
import { useReadOnly } from '../kit/formFields';
import { DayField } from '../kit/DayField';
import { Choice, Field } from '../kit/Field';
import { useMeQuery } from './me';
import { useAttributesQuery } from './items';

type AttributeRow = ResponseOf<typeof listAttributes>['rows'][number];
type Values = readonly { attributeId: number; value: string }[];

/** The business's own facts on items or serial units, each by its kind; one with a reminder says so. In a form that holds them as `attributes`. */
export function AttributeSheet({ subject }: { subject: 'item' | 'unit' }) {
  const { data } = useAttributesQuery({});
  const rows = (data?.rows ?? []).filter((row) => row.subject === subject);
  if (rows.length === 0) return null;
  return (
    <Card aria-label="Own attributes">
      <h2>Own attributes</h2>
      <Fields pad>
        {rows.map((row) => (
          <Attribute key={row.id} {...row} />
        ))}
      </Fields>
    </Card>
  );
}

function Attribute({ id, name, kind, choices, reminderDays }: AttributeRow) {
  const { field, formState } = useController({ name: 'attributes' });
  const { data: me } = useMeQuery({});
  const isRead = useReadOnly();
  const values = field.value as Values;
  const index = values.findIndex(({ attributeId }) => attributeId === id);
  const value = values[index]?.value ?? '';
  const errors = formState.errors['attributes'] as Record<number, unknown> | undefined;
  const error = index < 0 ? undefined : sentenceIn(errors?.[index]);
  const label = reminderDays === null ? name : `${name}, reminds`;
  const put = (text: string) => field.onChange([...values.filter(({ attributeId }) => attributeId !== id), { attributeId: id, value: text }]);
  const given = { label, error, disabled: isRead };
  if (kind === 'choice')
    return <Choice {...given} value={value} none="None" onChange={put} options={choices.map((choice) => ({ value: choice, label: choice }))} />;
  if (kind === 'date') return <DayField {...given} value={value === '' ? null : value} today={me?.company.today ?? ''} onChange={(day) => put(day ?? '')} />;
  return <Field {...given} value={value} onChange={put} />;
}
