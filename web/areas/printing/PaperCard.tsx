import { Card, Fields } from '../../kit/layout';
import { sheets } from '@larder/core/printing/sheets';
import type { LabelForm } from '@larder/contract/printing';
import { Choice, Field } from '../../kit/Field';
import { useReferenceQuery } from '../../shared/reference';
import { measureNames, measures, symbologies } from './labelForm';

/** How labels are to be printed, as it is typed. */
export interface PaperForm {
  sheet: string;
  own: typeof measures;
  startAt: string;
  copies: string;
  symbology: LabelForm['symbology'];
  codeSheet: string;
}

interface PaperCardProps {
  form: PaperForm;
  put: (part: Partial<PaperForm>) => void;
  at: (field: string) => string | undefined;
}

/** On which paper labels go, from which on, how many of each, with which code. */
export function PaperCard({ form, put, at }: PaperCardProps) {
  const { data: reference } = useReferenceQuery({});
  return (
    <Card pad stack aria-label="Paper">
      <Choice
        label="Sheet or roll"
        value={form.sheet}
        onChange={(sheet) => put({ sheet, startAt: '1' })}
        options={[...sheets.map(({ key, name }) => ({ value: key, label: name })), { value: 'own', label: 'Own size' }]}
        error={at('sheet') ?? at('own')}
      />
      {form.sheet === 'own' ? (
        <Fields sx={{ gridTemplateColumns: '1fr 1fr' }}>
          {(Object.keys(measures) as (keyof typeof measures)[]).map((name) => (
            <Field key={name} label={measureNames[name]} value={form.own[name]} onChange={(value) => put({ own: { ...form.own, [name]: value } })} />
          ))}
        </Fields>
      ) : null}
      <Field label="Start at label" value={form.startAt} onChange={(startAt) => put({ startAt })} error={at('startAt')} />
      {form.codeSheet === '' ? <Field label="Of each" value={form.copies} onChange={(copies) => put({ copies })} error={at('copies')} /> : null}
      <Choice
        label="Code"
        value={form.symbology}
        onChange={(key) => put({ symbology: key as PaperForm['symbology'] })}
        options={symbologies.map(([value, label]) => ({ value, label }))}
        error={at('symbology')}
      />
      <Choice
        label="Or a code sheet to hang up"
        value={form.codeSheet}
        none="No: the labels that were chosen"
        onChange={(codeSheet) => put({ codeSheet })}
        options={[
          ...(reference?.sites ?? []).map(({ id, name }) => ({ value: `site-${id}`, label: `All bins of ${name}` })),
          ...(reference?.categories ?? []).map(({ id, name }) => ({ value: `category-${id}`, label: `All items of ${name}` })),
        ]}
      />
    </Card>
  );
}
