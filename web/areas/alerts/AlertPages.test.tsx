/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { alertWishes, listAlerts, seeAlerts, setAlertWishes, type Alert } from '@larder/contract/alerts';
import { rights } from '@larder/contract/rights';
import { reference } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, signedIn, standInServer } from '../../testing/server';
import { AlertSettingsPage } from './AlertSettingsPage';
import { AlertsPage } from './AlertsPage';

const told = (id: number, text: string, isNew: boolean): Alert => ({
  id,
  kind: 'low',
  at: '2026-12-01T08:00:00Z',
  text,
  leadsTo: `/planning?item=${id}`,
  person: 'Ines',
  letter: 'none',
  isNew,
});

function open(page: 'mine' | 'settings', { email = 'ines@larkmoor.example', address = '/alerts' } = {}) {
  const server = standInServer();
  signedIn(server, rights);
  server.on(reference, () => ({
    sites: [
      { id: 1, name: 'Barn store' },
      { id: 2, name: 'Harbour shop' },
    ],
    categories: [{ id: 5, name: 'Jars' }],
  }));
  server.on(listAlerts, () => ({ rows: [told(9, 'VASE at Barn store is low', true), told(7, 'BOWL at Barn store is low', false)], next: null }));
  server.on(seeAlerts, () => ({}));
  server.on(alertWishes, () => ({ wishes: [{ kind: 'low', siteIds: [1], categoryIds: null, how: 'at once', byMail: true }], roundUpAt: '07:30', email }));
  server.on(setAlertWishes, () => ({}));
  const { Around } = around(address);
  render(page === 'mine' ? <AlertsPage /> : <AlertSettingsPage />, { wrapper: Around });
  return { server, user: userEvent.setup() };
}

test('what was told leads to where one acts; what stands here was seen, and stays marked as new while it is read', async () => {
  const { server } = open('mine');
  expect((await screen.findByRole('link', { name: 'VASE at Barn store is low' })).getAttribute('href')).toBe('/planning?item=9');
  await waitFor(() => expect(server.sent(seeAlerts)).toEqual({ upTo: 9 }));
  server.on(listAlerts, () => ({ rows: [told(9, 'VASE at Barn store is low', false)], next: null }));
  expect(screen.getByText('new')).toBeTruthy();
});

test('one chooses what, how and of which sites; what is off is not sent, and none chosen means all', async () => {
  const { server, user } = open('settings');
  await user.selectOptions(await screen.findByLabelText('Out of stock: I am told'), 'round-up');
  await user.clear(screen.getByLabelText('Round-up at'));
  await user.type(screen.getByLabelText('Round-up at'), '06:15');
  await user.click(screen.getByRole('button', { name: /^Save what I am told/ }));
  expect(await screen.findByText('What you are told is kept.')).toBeTruthy();
  expect(server.sent(setAlertWishes)).toEqual({
    roundUpAt: '06:15',
    wishes: [
      { kind: 'low', how: 'at once', byMail: true, siteIds: [1], categoryIds: null },
      { kind: 'out', how: 'round-up', byMail: false, siteIds: null, categoryIds: null },
    ],
  });
});

test('the link of a letter stops its kind with one step', async () => {
  const { server, user } = open('settings', { address: '/alerts/settings?stop=low' });
  await user.click(await screen.findByRole('button', { name: /^Stop Low/ }));
  await waitFor(() => expect(server.sent(setAlertWishes)).toEqual({ roundUpAt: '07:30', wishes: [] }));
});

test('whoever has no address is told so where mail is switched on', async () => {
  open('settings', { email: '' });
  expect(await screen.findByText(/You have no mail address here/)).toBeTruthy();
});
