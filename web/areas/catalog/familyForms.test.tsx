/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listItems } from '@larder/contract/catalog';
import { addMembers, joinFamily, type Family } from '@larder/contract/families';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, standInServer } from '../../testing/server';
import { FamilyGrow } from './FamilyGrow';
import { FamilyJoin } from './FamilyJoin';

const family = {
  id: 4,
  name: 'Lid',
  code: 'LID',
  skuPattern: 'LID-{Colour}-{Size}',
  axisValues: [
    { name: 'Colour', values: [{ name: 'Gold', code: 'GOLD' }] },
    {
      name: 'Size',
      values: [
        { name: 'Small', code: 'S' },
        { name: 'Large', code: 'L' },
      ],
    },
  ],
} as unknown as Family;

function open(answer: unknown = family) {
  const server = standInServer();
  server.on(addMembers, () => answer);
  server.on(joinFamily, () => answer);
  server.on(listItems, () => ({ rows: [{ id: 21, sku: 'LID-OLD', name: 'Old lid', unit: 'each', units: [], free: '3' }], next: null }));
  const { Around } = around();
  render(
    <>
      <FamilyGrow family={family} />
      <FamilyJoin family={family} />
    </>,
    { wrapper: Around },
  );
  return { user: userEvent.setup(), server };
}

test('a new value makes an item with each value of the other axes; its code is made of its letters until one is typed', async () => {
  const { user, server } = open();
  await user.type(screen.getByLabelText('New value'), 'Matt black');
  const code = screen.getByLabelText<HTMLInputElement>('Its code in SKUs');
  expect(code.value).toBe('MATTBL');
  expect(screen.getByText('LID-MATTBL-S, LID-MATTBL-L')).toBeTruthy();
  await user.clear(code);
  await user.type(code, 'MBK');
  await user.click(screen.getByRole('button', { name: 'Make 2 items' }));
  expect(await screen.findByText('2 items of Lid made.')).toBeTruthy();
  expect(server.sent(addMembers)).toEqual({
    newValues: [{ axis: 1, name: 'Matt black', code: 'MBK' }],
    members: [
      { values: ['Matt black', 'Small'], sku: 'LID-MBK-S' },
      { values: ['Matt black', 'Large'], sku: 'LID-MBK-L' },
    ],
  });
  expect(screen.getByLabelText<HTMLInputElement>('New value').value).toBe('');
});

test('what is refused of a new value or its code is said at its own field', async () => {
  const { user } = open(refused(409, 'taken', 'GOLD is the code of Gold already.', 'newValues.0.code'));
  await user.type(screen.getByLabelText('New value'), 'Golden');
  await user.click(screen.getByRole('button', { name: 'Make 2 items' }));
  const code = screen.getByLabelText<HTMLInputElement>('Its code in SKUs');
  await waitFor(() => expect(code.getAttribute('aria-invalid')).toBe('true'));
  expect(screen.getByLabelText('New value').getAttribute('aria-invalid')).toBe('false');
});

test('a loose item joins by its values, one of which may be new', async () => {
  const { user, server } = open();
  await user.type(screen.getByLabelText('Item'), 'old');
  await user.click(await screen.findByRole('option', { name: /LID-OLD/ }));
  await user.selectOptions(screen.getByLabelText('Size'), 'another value');
  await user.type(screen.getByLabelText('Another value of Size'), 'Huge');
  await user.click(screen.getByRole('button', { name: 'Add it to the family' }));
  expect(await screen.findByText('LID-OLD is in the family.')).toBeTruthy();
  expect(server.sent(joinFamily)).toEqual({ items: [{ itemId: 21, values: ['Gold', 'Huge'] }] });
  expect(screen.queryByRole('button', { name: 'Add it to the family' })).toBeNull();
});

test('a new value that was not typed is asked for where it belongs, and nothing is sent', async () => {
  const { user, server } = open();
  await user.type(screen.getByLabelText('Item'), 'old');
  await user.click(await screen.findByRole('option', { name: /LID-OLD/ }));
  await user.selectOptions(screen.getByLabelText('Colour'), 'another value');
  await user.click(screen.getByRole('button', { name: 'Add it to the family' }));
  const fresh = screen.getByLabelText('Another value of Colour');
  await waitFor(() => expect(fresh.getAttribute('aria-invalid')).toBe('true'));
  expect(document.activeElement).toBe(fresh);
  expect(server.sent(joinFamily)).toBeUndefined();
});
