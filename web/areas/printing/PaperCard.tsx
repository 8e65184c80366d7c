import { sheets } from '@larder/core/printing/sheets';
import { useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { Card, Fields } from '../../kit/layout';
import { useReferenceQuery } from '../../shared/reference';
import { measureNames, measures, symbologies, type PaperForm } from './labelForm';

const { Choice, Field } = fieldsOf<PaperForm>();

/** On which paper the labels of the form around go, from which on, how many of each, with which code. */
export function PaperCard() {
  const { data: reference } = useReferenceQuery({});
  const { control, setValue } = useFormContext<PaperForm>();
  const [sheet, codeSheet] = useWatch({ control, name: ['sheet', 'codeSheet'] });
  return (
    <Card pad stack aria-label="Paper">
      <Choice
        label="Sheet or roll"
        name="sheet"
        chosen={() => setValue('startAt', '1')}
        options={[...sheets.map(({ key, name }) => ({ value: key, label: name })), { value: 'own', label: 'Own size' }]}
      />
      {sheet === 'own' ? (
        <Fields sx={{ gridTemplateColumns: '1fr 1fr' }}>
          {(Object.keys(measures) as (keyof typeof measures)[]).map((name) => (
            <Field key={name} label={measureNames[name]} name={`own.${name}`} />
          ))}
        </Fields>
      ) : null}
      <Field label="Start at label" name="startAt" />
      {codeSheet === '' ? <Field label="Copies of each" name="copies" /> : null}
      <Choice label="Code" name="symbology" options={symbologies.map(([value, label]) => ({ value, label }))} />
      <Choice
        label="Or a code sheet to hang up"
        name="codeSheet"
        none="No: the labels that were chosen"
        options={[
          ...(reference?.sites ?? []).map(({ id, name }) => ({ value: `site-${id}`, label: `All bins of ${name}` })),
          ...(reference?.categories ?? []).map(({ id, name }) => ({ value: `category-${id}`, label: `All items of ${name}` })),
        ]}
      />
    </Card>
  );
}
