import Button from '@mui/material/Button';
import { Card, Fields } from '../../kit/layout';
import { useState } from 'react';
import type { getSupplier } from '@larder/contract/inbound';
import type { ResponseOf } from '@larder/contract/endpoint';
import { refusalOf } from '../../kit/draft';
import { Choice, Field, LongField } from '../../kit/Field';
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
    <Card pad stack aria-label="Terms">
      <Refused error={refused} />
      <Fields>
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
      </Fields>
      <LongField label="Address" rows={3} value={form.address} onChange={(value) => put({ address: value })} error={at('address')} />
      <span>
        <Button disabled={busy} onClick={() => void save()}>
          Keep the terms
        </Button>{' '}
        <Button onClick={done}>Leave them</Button>
      </span>
    </Card>
  );
}
