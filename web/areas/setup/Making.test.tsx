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
  server.on(reference, () => ({ shipDays: 2, quoteDays: 30, makingDifference: 20 }));
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
  expect(await screen.findByText('When the cost of what is made is asked about is kept.')).toBeTruthy();
  expect(server.sent(editCompany)).toEqual({ makingDifference: null });
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

test('who may not change the setup reads it', async () => {
  await open(['look']);
  expect(screen.queryByRole('button', { name: /^Save/ })).toBeNull();
  expect(screen.queryByLabelText(asks)).toBeNull();
  expect(screen.getByText('20')).toBeTruthy();
});
