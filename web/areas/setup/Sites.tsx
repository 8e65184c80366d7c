import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { Check } from '../../kit/Check';
import { useState } from 'react';
import { Link } from 'react-router';
import { problemOf } from '../../kit/problem';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { useMay } from '../../shared/may';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import { useCreateSiteMutation, useEditCompanyMutation } from './api';

/** The sites, where each is opened and retired. */
export function Sites() {
  const { data: reference } = useReferenceQuery({});
  const { data: bins } = useBinsQuery({ query: {} });
  const [site, setSite] = useState({ code: '', name: '' });
  const [createSite, creating] = useCreateSiteMutation();
  const { at } = refusalOf(creating);
  const addSite = async () => {
    if (!(await createSite({ body: site })).error) setSite({ code: '', name: '' });
  };
  return (
    <Card aria-label="Sites and bins">
      <h2>Sites and bins</h2>
      <Stack pad>
        {reference?.sites.map((one) => (
          <Link key={one.id} to={`/setup/bins?site=${one.id}`}>
            <b>{one.name}</b> <span className="code quiet">{one.code}</span>,{' '}
            {count((bins?.rows ?? []).filter((bin) => bin.siteId === one.id && !bin.unplaced).length, 'bin')}
          </Link>
        ))}
        {reference?.sites.length === 0 ? <p className="quiet">No site yet. A site is a building or van where stock lies.</p> : null}
        <Fields>
          <Field label="Code of a new site" value={site.code} onChange={(code) => setSite({ ...site, code })} error={at('code')} />
          <Field label="Its name" value={site.name} onChange={(name) => setSite({ ...site, name })} error={at('name')} />
        </Fields>
        <Button onClick={() => void addSite()}>Add the site</Button>
        <FreeElsewhere />
      </Stack>
    </Card>
  );
}

/** Whether whoever works at one site sees what is free at others. */
function FreeElsewhere() {
  const { data: reference } = useReferenceQuery({});
  const [editCompany, { isLoading, error }] = useEditCompanyMutation();
  const may = useMay('setup.edit');
  if (!reference || reference.sites.length < 2) return null;
  return (
    <Check
      label={
        <>
          People of one site see how much is free at the others
          {error ? (
            <span className="late" role="alert">
              {' '}
              {problemOf(error)?.title}
            </span>
          ) : null}
        </>
      }
      checked={reference.freeSeenElsewhere}
      disabled={!may || isLoading}
      onChange={(checked) => void editCompany({ body: { freeSeenElsewhere: checked } })}
    />
  );
}
