/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listAttributes } from '@larder/contract/attributes';
import { editItems } from '@larder/contract/catalog';
import { reference } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, standInServer } from '../../testing/server';
import { BulkEdit } from './BulkEdit';

async function open(answer: (body: { retiredInUse?: boolean }) => unknown = () => ({ changed: 2 })) {
  const server = standInServer();
  server.on(reference, () => ({
    categories: [
      { id: 5, name: 'Jars', retired: false },
      { id: 6, name: 'Old jars', retired: true },
    ],
    taxes: [{ id: 4, name: 'Standard', retired: false }],
  }));
  server.on(listAttributes, () => ({
    rows: [
      { id: 8, name: 'Colour', subject: 'item' },
      { id: 9, name: 'Owner', subject: 'unit' },
    ],
  }));
  server.on(editItems, answer);
  let isDone = false;
  const { Around } = around();
  render(<BulkEdit ids={[11, 12]} done={() => (isDone = true)} />, { wrapper: Around });
  await screen.findByRole('option', { name: 'Own attribute' });
  await screen.findByRole('option', { name: 'Jars' });
  const user = userEvent.setup();
  const choose = (label: string, option: string) => user.selectOptions(screen.getByLabelText(label), option);
  const change = () => user.click(screen.getByRole('button', { name: 'Change 2 items' }));
  return { user, server, choose, change, isDone: () => isDone };
}

test('one fact of all chosen items is changed; a list that is retired is not offered', async () => {
  const { server, choose, change, isDone } = await open();
  expect(screen.queryByRole('option', { name: 'Old jars' })).toBeNull();
  await choose('To', 'Jars');
  await change();
  expect(await screen.findByText('2 items changed.')).toBeTruthy();
  expect(server.sent(editItems)).toEqual({ ids: [11, 12], categoryId: 5 });
  expect(isDone()).toBe(true);
});

test('another fact begins with nothing; what is no number is said at the field and not sent', async () => {
  const { user, server, choose, change } = await open();
  await choose('To', 'Jars');
  await choose('What', 'Sales price, per cent more or less');
  const to = screen.getByLabelText<HTMLInputElement>('To');
  expect(to.value).toBe('');
  await user.type(to, 'a lot');
  await change();
  await waitFor(() => expect(to.getAttribute('aria-invalid')).toBe('true'));
  expect(server.sent(editItems)).toBeUndefined();
  await user.clear(to);
  await user.type(to, '-2.5');
  await change();
  await screen.findByText('2 items changed.');
  expect(server.sent(editItems)).toEqual({ ids: [11, 12], priceChange: '-2.5' });
});

test('a fact of the business’s own is one of items', async () => {
  const { user, server, choose, change } = await open();
  await choose('What', 'Own attribute');
  expect(screen.queryByRole('option', { name: 'Owner' })).toBeNull();
  await user.type(screen.getByLabelText('To'), 'amber');
  await change();
  await screen.findByText('2 items changed.');
  expect(server.sent(editItems)).toEqual({ ids: [11, 12], attribute: { attributeId: 8, value: 'amber' } });
});

test('items that are still in use are retired only when that was said', async () => {
  const { user, server, choose, change, isDone } = await open(({ retiredInUse }) =>
    retiredInUse ? { changed: 2 } : refused(409, 'in-use', 'One of them is on an open order.', undefined, ['retired-in-use']),
  );
  await choose('What', 'Retired or in use');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Change 2 items' }).disabled).toBe(true);
  await choose('To', 'retired');
  await change();
  await user.click(await screen.findByRole('button', { name: 'Retire them all the same' }));
  await screen.findByText('2 items changed.');
  expect(server.sent(editItems)).toMatchObject({ retired: true, retiredInUse: true });
  expect(isDone()).toBe(true);
});
