/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { Right } from '@larder/contract/rights';
import { openCounts } from '@larder/contract/planning';
import { reference } from '@larder/contract/setup';
import { ThemeProvider } from '@mui/material/styles';
import { act, render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { SiteProvider } from '../shared/site';
import { around, signedIn, standInServer } from '../testing/server';
import { AreaBar } from './AreaBar';
import { PersonMenu } from './PersonMenu';
import { theme } from './theme';

function open(rights: readonly Right[], address = '/stock/trail') {
  const server = standInServer();
  signedIn(server, rights);
  server.on(reference, () => ({
    sites: [
      { id: 1, name: 'Barn store' },
      { id: 2, name: 'Harbour shop' },
    ],
    reasons: [],
    units: [],
    taxes: [],
    categories: [],
    freeSeenElsewhere: true,
  }));
  server.on(openCounts, () => ({ comingIn: 3, low: 2, goingOut: 1, making: 0 }));
  const { Around } = around(address);
  render(
    <ThemeProvider theme={theme}>
      <SiteProvider>
        <PersonMenu name="Ines Vale" withSites />
        <AreaBar />
      </SiteProvider>
    </ThemeProvider>,
    { wrapper: Around },
  );
  return { user: userEvent.setup() };
}
const bar = () => within(screen.getByRole('navigation', { name: 'Areas' }));
const named = (list: HTMLElement[]) => list.map(({ textContent }) => textContent);

test('the bar has the areas one works in, the one that is open is told, and the others are behind More', async () => {
  const { user } = open(['look', 'inbound.receive', 'outbound.ship', 'stock.correct']);
  await waitFor(() => expect(named(bar().getAllByRole('link'))).toEqual(['Today', 'Items', 'Inbound', 'Stock', 'Outbound']));
  expect(bar().getByRole('link', { current: 'page' }).textContent).toBe('Stock');
  await user.click(bar().getByRole('button', { name: 'More' }));
  expect(named(await screen.findAllByRole('menuitem'))).toEqual(['Making', 'Planning', 'Setup']);
  await user.click(screen.getByRole('menuitem', { name: 'Planning' }));
  await waitFor(() => expect(screen.queryByRole('menuitem')).toBeNull());
  expect(bar().queryByRole('link', { current: 'page' })).toBeNull();
});

test('who keeps the books has them, and who may not see cost does not have them anywhere', async () => {
  open(['look', 'costs.see', 'books.bill', 'books.pay']);
  await waitFor(() => expect(named(bar().getAllByRole('link'))).toContain('Books'));
});

test('site and person are one menu: the site that is chosen stands beside the name, and is heard with it', async () => {
  const { user } = open(['look']);
  const person = await screen.findByRole('button', { name: 'Signed in as Ines Vale, All sites' });
  await user.click(person);
  await waitFor(() => expect(named(screen.getAllByRole('menuitemradio')).slice(0, 3)).toEqual(['All sites', 'Barn store', 'Harbour shop']));
  expect(screen.getByRole('menuitemradio', { name: 'All sites' }).getAttribute('aria-checked')).toBe('true');
  await user.click(screen.getByRole('menuitemradio', { name: 'Harbour shop' }));
  await screen.findByRole('button', { name: 'Signed in as Ines Vale, Harbour shop' });
  expect(screen.getByText('Harbour shop, Ines')).toBeTruthy();
});

test('the menu opens by keyboard, and gives the focus back', async () => {
  const { user } = open(['look']);
  const person = await screen.findByRole('button', { name: /^Signed in as Ines Vale/ });
  act(() => person.focus());
  await user.keyboard('{Enter}');
  expect(await screen.findByRole('menu')).toBeTruthy();
  await user.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByRole('menu')).toBeNull());
  expect(document.activeElement).toBe(person);
});
