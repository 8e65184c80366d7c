import { Card, Fields } from '../kit/layout';
import { DayField } from '../kit/DayField';
import { Choice, Field } from '../kit/Field';
import { useMeQuery } from './me';
import { useAttributesQuery } from './items';

interface AttributeSheetProps {
  subject: 'item' | 'unit';
  values: readonly { attributeId: number; value: string }[];
  change: (values: { attributeId: number; value: string }[]) => void;
  errorAt: (field: string) => string | undefined;
}

/** The business's own facts on items or serial units, each by its kind; one with a reminder says so. */
export function AttributeSheet({ subject, values, change, errorAt }: AttributeSheetProps) {
  const { data } = useAttributesQuery({});
  const { data: me } = useMeQuery({});
  const rows = (data?.rows ?? []).filter((row) => row.subject === subject);
  if (rows.length === 0) return null;
  return (
    <Card aria-label="Own attributes">
      <h2>Own attributes</h2>
      <Fields pad>
        {rows.map(({ id, name, kind, choices, reminderDays }) => {
          const index = values.findIndex(({ attributeId }) => attributeId === id);
          const value = values[index]?.value ?? '';
          const label = reminderDays === null ? name : `${name}, reminds`;
          const put = (text: string) => change([...values.filter(({ attributeId }) => attributeId !== id), { attributeId: id, value: text }]);
          const error = index < 0 ? undefined : errorAt(`attributes.${index}`);
          if (kind === 'choice')
            return (
              <Choice
                key={id}
                label={label}
                value={value}
                none="None"
                onChange={put}
                options={choices.map((choice) => ({ value: choice, label: choice }))}
                error={error}
              />
            );
          if (kind === 'date')
            return (
              <DayField
                key={id}
                label={label}
                value={value === '' ? null : value}
                today={me?.company.today ?? ''}
                onChange={(day) => put(day ?? '')}
                error={error}
              />
            );
          return <Field key={id} label={label} value={value} onChange={put} error={error} />;
        })}
      </Fields>
    </Card>
  );
}
