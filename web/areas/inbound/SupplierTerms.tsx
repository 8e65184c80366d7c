import { useState } from 'react';
import type { getSupplier } from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { refusalOf } from '../../kit/draft';
import { Choice, Field, TextField } from '../../kit/Field';
import { Refused } from '../../kit/states';
import { useEditPartyMutation, useReferenceQuery } from '../../shared/reference';

/** A supplier's name, address and terms while they are changed. */
export function SupplierTerms({ supplier, done }: { supplier: ResponseOf<typeof getSupplier>; done: () => void }) {
  const { data: reference } = useReferenceQuery({});
  const { id, version, name, email, address, taxCodeId } = supplier;
  const [form, setForm] = useState({ name, email, address, leadDays: String(supplier.leadDays), taxCodeId });
  const [edit, editing] = useEditPartyMutation();
  const { refused, busy, at } = refusalOf(editing);
  const put = (part: Partial<typeof form>) => setForm({ ...form, ...part });
  const save = async () => {
    const days = form.leadDays.trim();
    const body = { ...form, leadDays: /^\d{1,3}$/.test(days) ? Number(days) : -1, version };
    if (!(await edit({ params: { id }, body })).error) done();
  };
  return (
    <section className="card pad stack" aria-label="Terms">
      <Refused error={refused} />
      <div className="fields">
        <Field label="Name" value={form.name} onChange={(value) => put({ name: value })} error={at('name')} autoFocus />
        <Field label="Mail address" value={form.email} onChange={(value) => put({ email: value })} error={at('email')} />
        <Field label="Days to deliver" value={form.leadDays} onChange={(leadDays) => put({ leadDays })} error={at('leadDays')} />
        <Choice
          label="Tax on what they bill"
          none="as each item says"
          value={String(form.taxCodeId ?? '')}
          onChange={(value) => put({ taxCodeId: Number(value) || null })}
          options={(reference?.taxes ?? []).map((tax) => ({ value: String(tax.id), label: `${tax.name}, ${tax.rate} %` }))}
          error={at('taxCodeId')}
        />
      </div>
      <TextField label="Address" rows={3} value={form.address} onChange={(value) => put({ address: value })} error={at('address')} />
      <span>
        <button type="button" className="button" disabled={busy} onClick={() => void save()}>
          Keep the terms
        </button>{' '}
        <button type="button" className="button" onClick={done}>
          Leave them
        </button>
      </span>
    </section>
  );
}
