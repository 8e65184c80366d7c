import { useState } from 'react';
import { Link } from 'react-router';
import { problemOf } from '../../kit/problem';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { useTitle } from '../../kit/title';
import { Attributes } from './Attributes';
import { Categories } from './Categories';
import { Units } from './Units';
import { useMay } from '../../shared/may';
import { useBinsQuery, useCreatePartyMutation, usePartiesQuery, useReferenceQuery } from '../../shared/reference';
import { useCreateSiteMutation, useEditCompanyMutation } from './api';

/** Sites and their bins, suppliers and customers, categories. */
export function SetupPage() {
  useTitle('Setup');
  return (
    <div className="stack">
      <h1>Setup</h1>
      <div className="columns">
        <Sites />
        <Parties />
        <div className="stack">
          <Categories />
          <Units />
          <Attributes />
        </div>
      </div>
      <BottomBar hint="A site first, then its bins; then suppliers, customers and items">
        <Link className="button" to="/import?kind=suppliers">
          Bring in a file
        </Link>
        <Link className="button" to="/post">
          Post room
        </Link>
      </BottomBar>
    </div>
  );
}

function Sites() {
  const { data: reference } = useReferenceQuery({});
  const { data: bins } = useBinsQuery({ query: {} });
  const [site, setSite] = useState({ code: '', name: '' });
  const [createSite, creating] = useCreateSiteMutation();
  const { at } = refusalOf(creating);
  const addSite = async () => {
    if (!(await createSite({ body: site })).error) setSite({ code: '', name: '' });
  };
  return (
    <section className="card" aria-label="Sites and bins">
      <h2>Sites and bins</h2>
      <div className="pad stack">
        {reference?.sites.map((one) => (
          <Link key={one.id} to={`/setup/bins?site=${one.id}`}>
            <b>{one.name}</b> <span className="code quiet">{one.code}</span>,{' '}
            {count((bins?.rows ?? []).filter((bin) => bin.siteId === one.id && !bin.unplaced).length, 'bin')}
          </Link>
        ))}
        {reference?.sites.length === 0 ? <p className="quiet">No site yet. A site is a building or van where stock lies.</p> : null}
        <div className="fields">
          <Field label="Code of a new site" value={site.code} onChange={(code) => setSite({ ...site, code })} error={at('code')} />
          <Field label="Its name" value={site.name} onChange={(name) => setSite({ ...site, name })} error={at('name')} />
        </div>
        <button type="button" className="button" onClick={() => void addSite()}>
          Open the site
        </button>
        <FreeElsewhere />
      </div>
    </section>
  );
}

/** Whether whoever works at one site sees what is free at others. */
function FreeElsewhere() {
  const { data: reference } = useReferenceQuery({});
  const [editCompany, { isLoading, error }] = useEditCompanyMutation();
  const may = useMay('setup.edit');
  if (!reference || reference.sites.length < 2) return null;
  return (
    <label>
      <input
        type="checkbox"
        checked={reference.freeSeenElsewhere}
        disabled={!may || isLoading}
        onChange={(event) => void editCompany({ body: { freeSeenElsewhere: event.target.checked } })}
      />{' '}
      People of one site see how much is free at the others
      {error ? (
        <span className="refused" role="alert">
          {' '}
          {problemOf(error)?.title}
        </span>
      ) : null}
    </label>
  );
}

const noParty = { name: '', email: '', address: '', as: 'supplier', leadDays: '7' };

function Parties() {
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
    <section className="card" aria-label="Suppliers and customers">
      <h2>
        Suppliers and customers<span>{data ? data.rows.length : ''}</span>
      </h2>
      <div className="pad stack">
        <div className="fields">
          <Field label="Name" value={form.name} onChange={(name) => setForm({ ...form, name })} error={errorAt('name')} />
          <Choice
            label="Is"
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
        </div>
        <button type="button" className="button" onClick={() => void add()}>
          Add {form.name || 'them'}
        </button>
        <Field label="Find among them" value={q} onChange={setQ} />
        <div style={{ maxHeight: 320, overflow: 'auto' }} tabIndex={0} role="region" aria-label="All suppliers and customers">
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
        </div>
      </div>
    </section>
  );
}
