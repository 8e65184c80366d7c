import { Card } from '../../kit/layout';
import { useSite } from '../../shared/site';
import { DayField } from '../../kit/DayField';
import { Choice, Field } from '../../kit/Field';
import { useMeQuery } from '../../shared/me';
import { useBinsQuery } from '../../shared/reference';
import { PartyPicker } from '../../shared/PartyPicker';

export interface UnorderedHeadForm {
  binId: number | null;
  supplier: { id: number; name: string } | null;
  paid: string;
  packingNote: string;
  cameOn: string | null;
}

interface UnorderedHeadProps {
  form: UnorderedHeadForm;
  put: (part: Partial<UnorderedHeadForm>) => void;
  at: (field: string) => string | undefined;
}

/** Where goods without an order go, of whom they are, and when they came. */
export function UnorderedHead({ form, put, at }: UnorderedHeadProps) {
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const { data: bins } = useBinsQuery({ query: { siteId } });
  return (
    <Card pad fields aria-label="Receipt">
      <Choice
        label="Into bin"
        value={String(form.binId ?? '')}
        none="each item’s own"
        onChange={(value) => put({ binId: Number(value) || null })}
        options={(bins?.rows ?? []).filter(({ retired }) => !retired).map(({ id, code, siteName }) => ({ value: String(id), label: `${code} (${siteName})` }))}
      />
      <PartyPicker as="supplier" label="From (or nobody)" value={form.supplier} onChange={(supplier) => put({ supplier })} error={at('supplierId')} />
      <Choice
        label="Paid already"
        value={form.paid}
        onChange={(paid) => put({ paid })}
        options={[
          { value: 'yes', label: 'yes, or nothing to pay' },
          { value: 'no', label: 'no, a bill will come' },
        ]}
      />
      <Field label="Packing note" value={form.packingNote} onChange={(packingNote) => put({ packingNote })} error={at('packingNote')} />
      {me ? (
        <DayField
          lies="behind"
          label="Came on, if not today"
          value={form.cameOn}
          today={me.company.today}
          onChange={(cameOn) => put({ cameOn })}
          error={at('effectiveOn')}
        />
      ) : null}
    </Card>
  );
}
