import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { useState } from 'react';
import { Link } from 'react-router';
import { problemOf } from '../../kit/problem';
import { useDelayed } from '../../kit/delayed';
import { Choice, Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { useCreatePartyMutation, usePartiesQuery } from '../../shared/reference';

const noParty = { name: '', email: '', address: '', as: 'supplier', leadDays: '7' };

/** Adds a supplier or a customer. */
export function Parties() {
  const [q, setQ] = useState('');
  const { data } = usePartiesQuery({ query: { q: useDelayed(q, 120) } });
  const [form, setForm] = useState(noParty);
  const [create, { error }] = useCreatePartyMutation();
  const problem = problemOf(error);
  const errorAt = (field: string) => problem?.errors.find((one) => one.field === field)?.sentence;
  const add = async () => {
    const body = {
      name: form.name,
      email: form.email,
      address: form.address,
      isSupplier: form.as !== 'customer',
      isCustomer: form.as !== 'supplier',
      leadDays: Number(form.leadDays),
    };
    if (!(await create({ body })).error) setForm(noParty);
  };
  return (
    <Card aria-label="Suppliers and customers">
      <h2>
        Suppliers and customers<span>{data ? data.rows.length : ''}</span>
      </h2>
      <Stack pad>
        <Fields>
          <Field label="Name" value={form.name} onChange={(name) => setForm({ ...form, name })} error={errorAt('name')} />
          <Choice
            label="Kind"
            value={form.as}
            onChange={(as) => setForm({ ...form, as })}
            options={[
              { value: 'supplier', label: 'a supplier' },
              { value: 'customer', label: 'a customer' },
              { value: 'both', label: 'both' },
            ]}
          />
          <Field label="Mail address" value={form.email} onChange={(email) => setForm({ ...form, email })} error={errorAt('email')} />
          <Field label="Days to deliver" value={form.leadDays} onChange={(leadDays) => setForm({ ...form, leadDays })} error={errorAt('leadDays')} />
        </Fields>
        <Button onClick={() => void add()}>Add {form.name || 'them'}</Button>
        <Field label="Find among them" value={q} onChange={setQ} />
        <Box sx={{ maxHeight: 320, overflow: 'auto' }} tabIndex={0} role="region" aria-label="All suppliers and customers">
          {data?.rows.map((party) => (
            <p key={party.id}>
              {party.isSupplier ? <Link to={`/inbound/suppliers/${party.id}`}>{party.name}</Link> : party.name}{' '}
              <span className="quiet">
                {party.isSupplier ? `supplier, ${count(party.leadDays, 'day')}` : ''}
                {party.isSupplier && party.isCustomer ? '; ' : ''}
                {party.isCustomer ? 'customer' : ''}
              </span>
            </p>
          ))}
        </Box>
      </Stack>
    </Card>
  );
}
