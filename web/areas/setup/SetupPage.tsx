import { useAddress } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { PageHead, Stack } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useReferenceQuery } from '../../shared/reference';
import { useSetupListsQuery } from './api';
import { Attributes } from './Attributes';
import { Carriers } from './Carriers';
import { Categories } from './Categories';
import { Departments } from './Departments';
import { Making } from './Making';
import { Numbers } from './Numbers';
import { Papers } from './Papers';
import { People } from './People';
import { Planning } from './Planning';
import { Reasons } from './Reasons';
import { Selling } from './Selling';
import { Sites } from './Sites';
import { Taxes } from './Taxes';
import { Units } from './Units';

const sections = [
  ['sites', 'Sites and bins'],
  ['categories', 'Categories'],
  ['units', 'Units'],
  ['reasons', 'Reasons'],
  ['departments', 'Departments'],
  ['taxes', 'Taxes'],
  ['carriers', 'Carriers'],
  ['selling', 'Selling'],
  ['making', 'Making'],
  ['planning', 'Planning'],
  ['papers', 'Papers'],
  ['numbers', 'Numbers'],
  ['attributes', 'Own attributes'],
  ['people', 'People'],
] as const;

/** The lists that a business is set up by, section by section. */
export function SetupPage() {
  useTitle('Setup');
  const address = useAddress();
  const { data, error } = useSetupListsQuery({});
  const { data: reference } = useReferenceQuery({});
  // Who works here, and what each may do, is for those who may change it.
  const shown = useMay('setup.edit', null) ? sections : sections.filter(([name]) => name !== 'people');
  const section = address.choice('section', shown);
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Setup</h1>
        <AddressTabs label="Section" address={address} name="section" options={shown} />
      </PageHead>
      {!data ? <Waiting error={error} /> : null}
      {data && section === 'sites' ? <Sites rows={data.sites} /> : null}
      {data && section === 'categories' ? <Categories rows={data.categories} /> : null}
      {data && section === 'units' ? <Units rows={data.units} /> : null}
      {data && section === 'reasons' ? <Reasons rows={data.reasons} /> : null}
      {data && section === 'departments' ? <Departments rows={data.departments} /> : null}
      {data && section === 'taxes' ? <Taxes rows={data.taxes} /> : null}
      {section === 'carriers' ? <Carriers /> : null}
      {reference && section === 'selling' ? <Selling now={reference} /> : null}
      {reference && section === 'making' ? <Making now={reference} /> : null}
      {reference && section === 'planning' ? <Planning now={reference.planning} /> : null}
      {section === 'papers' ? <Papers /> : null}
      {data && section === 'numbers' ? <Numbers rows={data.numbers} /> : null}
      {data && section === 'attributes' ? <Attributes /> : null}
      {data && section === 'people' ? <People sites={data.sites} /> : null}
    </Stack>
  );
}
