/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { addPerson, editPerson, listPeople, retirePerson } from '@larder/contract/colleagues';
import { firstRoles, rights } from '@larder/contract/rights';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { People } from './People';
import { mayIn, rightsInWords } from '../../shared/rightsInWords';

const sites = [
  { id: 1, name: 'Barn store', retired: false },
  { id: 2, name: 'Harbour shop', retired: false },
  { id: 3, name: 'Old mill', retired: true },
];
const roles = Object.entries(firstRoles).map(([name, given], index) => ({ id: index + 1, name, rights: given }));
const people = [
  { id: 1, name: 'Ada Finch', email: 'ada@test.example', retired: false, roles: [{ roleId: 1, siteId: null }], lastSeenAt: null },
  { id: 8, name: 'Rolf Wick', email: 'rolf@test.example', retired: false, roles: [{ roleId: 4, siteId: 3 }], lastSeenAt: null },
];

async function open(answer: unknown = { id: 9 }) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(listPeople, () => ({ people, roles }));
  server.on(addPerson, () => answer);
  server.on(editPerson, () => answer);
  server.on(retirePerson, () => answer);
  const { Around } = around();
  render(<People sites={sites} />, { wrapper: Around });
  const user = userEvent.setup();
  await screen.findByRole('table', { name: 'People' });
  const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
  return { user, server, field, choose: async (name: string) => user.click(within(screen.getByRole('table', { name: 'People' })).getByText(name)) };
}
const optionsOf = (list: HTMLElement) => [...(list as HTMLSelectElement).options].map(({ text }) => text);

test('somebody is added with a role at a site; what the role lets them do there stands below it', async () => {
  const { user, server, field } = await open();
  await waitFor(() => expect(document.activeElement).toBe(field('Name')));
  await user.type(field('Name'), 'Mabel Orr');
  await user.type(field('Mail address'), 'mabel@test.example');
  await user.type(field('First password, at least 12 characters'), 'three snails under moss');
  await user.selectOptions(field('Role'), 'Stock controller');
  expect(screen.getByText(/^May look at items, stock and orders, see cost and margin, change items, .* and undo what was posted\.$/)).toBeTruthy();
  await user.selectOptions(field('At'), 'Harbour shop');
  // what is done for the whole company is not part of a role at one site
  expect(screen.queryByText(/change items/)).toBeNull();
  expect(optionsOf(field('At'))).toEqual(['all sites', 'Barn store', 'Harbour shop']);
  await user.click(await screen.findByRole('button', { name: /^Add the person/ }));
  expect(await screen.findByText('Mabel Orr can sign in now, with the password you gave.')).toBeTruthy();
  expect(server.sent(addPerson)).toEqual({
    name: 'Mabel Orr',
    email: 'mabel@test.example',
    password: 'three snails under moss',
    roles: [{ roleId: 2, siteId: 2 }],
  });
});

test('somebody is changed without a new password, and keeps a role at a site that is retired', async () => {
  const { user, server, field, choose } = await open({});
  await choose('Rolf Wick');
  expect(optionsOf(field('At'))).toContain('Old mill');
  await user.type(field('Name'), 's');
  await user.keyboard('{Control>}s{/Control}');
  expect(await screen.findByText('Rolf Wicks is saved.')).toBeTruthy();
  expect(server.sent(editPerson)).toEqual({ name: 'Rolf Wicks', email: 'rolf@test.example', password: null, roles: [{ roleId: 4, siteId: 3 }] });
});

test('what is missing and what the server refuses is said at the field, also of the second role', async () => {
  const { user, server, field, choose } = await open(refused(422, 'twice', 'This role is given twice.', 'roles.1.roleId'));
  await user.click(await screen.findByRole('button', { name: /^Add the person/ }));
  await waitFor(() => expect(field('Name').getAttribute('aria-invalid')).toBe('true'));
  expect(screen.getByText('Choose one of these.')).toBeTruthy();
  expect(server.sent(addPerson)).toBeUndefined();
  await choose('Rolf Wick');
  await user.click(screen.getByRole('button', { name: 'Add a role' }));
  const [, second] = screen.getAllByLabelText<HTMLSelectElement>('Role');
  expect(document.activeElement).toBe(second);
  await user.selectOptions(second as HTMLElement, 'Floor');
  await user.click(screen.getByRole('button', { name: /^Save Rolf Wick/ }));
  await waitFor(() => expect(screen.getAllByText('This role is given twice.').length).toBeGreaterThan(0));
  await waitFor(() => expect(document.activeElement).toBe(screen.getAllByLabelText('Role')[1]));
});

test('who has left is shut out; oneself is not, and changes the password elsewhere', async () => {
  const { user, server, choose } = await open({});
  await choose('Rolf Wick');
  await user.click(screen.getByRole('button', { name: 'Retire' }));
  expect(await screen.findByText('Rolf Wick cannot sign in any more.')).toBeTruthy();
  expect(server.sent(retirePerson)).toEqual({ retired: true });
  await choose('Ada Finch');
  expect(screen.queryByRole('button', { name: 'Retire' })).toBeNull();
  expect(screen.queryByLabelText(/password/i)).toBeNull();
});

test('every right is told in words of its own', () => {
  expect(new Set(Object.values(rightsInWords)).size).toBe(rights.length);
  expect(mayIn(['look'], null)).toBe('look at items, stock and orders');
  expect(mayIn(['setup.edit'], 3)).toBe('do nothing');
  expect(mayIn(firstRoles.Floor ?? [], 3)).toBe(
    'look at items, stock and orders, receive goods, pick and dispatch, take back what customers return, correct stock, count bins, send goods between sites, move goods between bins, lend things and take them back and record what was used and made',
  );
});
