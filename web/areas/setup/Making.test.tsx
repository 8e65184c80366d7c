/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { rights, type Right } from '@larder/contract/rights';
import { editCompany, reference } from '@larder/contract/setup';
import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useReferenceQuery } from '../../shared/reference';
import { around, signedIn, standInServer } from '../../testing/server';
import { Making } from './Making';
import { Selling } from './Selling';

function Both() {
  const { data } = useReferenceQuery({});
  return data ? (
    <>
      <Making now={data} />
      <Selling now={data} />
    </>
  ) : null;
}
const asks = 'Ask when one costs this many per cent more or less than by its bill';

async function open(given: readonly Right[] = rights) {
  const server = standInServer();
  signedIn(server, given);
  server.on(reference, () => ({ shipDays: 2, quoteDays: 30, makingDifference: 20, lotPattern: '{order}-{n}' }));
  server.on(editCompany, () => ({}));
  const { Around } = around();
  render(<Both />, { wrapper: Around });
  await screen.findByRole('heading', { name: 'Making' });
  return { server, user: userEvent.setup() };
}

test('when the cost of what is made is asked about is typed, and can be left empty', async () => {
  const { server, user } = await open();
  const field = await screen.findByLabelText<HTMLInputElement>(asks);
  expect(field.value).toBe('20');
  await user.clear(field);
  await user.click(screen.getByRole('button', { name: /^Save making/ }));
  expect(await screen.findByText('How making goes is kept.')).toBeTruthy();
  expect(server.sent(editCompany)).toEqual({ makingDifference: null, lotPattern: '{order}-{n}' });
});

test('a share that is none is said by its field, and nothing is sent', async () => {
  const { server, user } = await open();
  const field = await screen.findByLabelText<HTMLInputElement>(asks);
  await user.clear(field);
  await user.type(field, '5000');
  await user.click(screen.getByRole('button', { name: /^Save making/ }));
  expect(await screen.findByText('Give per cent from 0 to 1000.')).toBeTruthy();
  expect(server.sent(editCompany)).toBeUndefined();
});

test('the pattern of lot numbers shows what it makes; one that cannot be is said while it is typed, and not sent', async () => {
  const { server, user } = await open();
  expect(await screen.findByText('WO-12-2')).toBeTruthy();
  const field = screen.getByLabelText<HTMLInputElement>('Number lots that are made as');
  await user.clear(field);
  await user.type(field, '{{order}/{{week}');
  expect(await screen.findByText(/\{week\} stands for nothing/)).toBeTruthy();
  expect(screen.queryByText(/The second lot of WO-12/)).toBeNull();
  await user.click(screen.getByRole('button', { name: /^Save making/ }));
  expect(server.sent(editCompany)).toBeUndefined();
  await user.clear(field);
  await user.type(field, 'L{{order}/{{n}');
  expect(await screen.findByText('LWO-12/2')).toBeTruthy();
});

test('who may not change the setup reads it', async () => {
  await open(['look']);
  expect(screen.queryByRole('button', { name: /^Save/ })).toBeNull();
  expect(screen.queryByLabelText(asks)).toBeNull();
  expect(screen.getByText('20')).toBeTruthy();
});
