/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { measureItem, type LandedLine } from '@larder/contract/landed';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, standInServer } from '../../testing/server';
import { MeasureItems } from './MeasureItems';

const line = (itemId: number, sku: string) => ({ itemId, sku, name: `Goods ${sku}`, unit: 'each' }) as LandedLine;

function open(what: 'weight' | 'volume', lines = [line(1, 'VASE'), line(2, 'BOWL'), line(1, 'VASE')]) {
  const server = standInServer();
  server.on(measureItem, ({ itemId }: { itemId: number }) => ({ itemId }));
  const { Around } = around();
  render(<MeasureItems what={what} lines={lines} />, { wrapper: Around });
  return { user: userEvent.setup(), server };
}

test('each item is asked for once, and Enter keeps what one weighs', async () => {
  const { user, server } = open('weight');
  expect(screen.getAllByLabelText(/^Weight of/)).toHaveLength(2);
  await user.type(screen.getByLabelText('Weight of BOWL'), ' 1.25 {Enter}');
  await waitFor(() => expect(server.sent(measureItem)).toEqual({ itemId: 2, weightKg: '1.25' }));
});

test('a size is three sides, however they are written', async () => {
  const { user, server } = open('volume');
  await user.type(screen.getByLabelText('Size of VASE'), '40 x 30X20{Enter}');
  await waitFor(() => expect(server.sent(measureItem)).toEqual({ itemId: 1, sizeCm: ['40', '30', '20'] }));
  await user.clear(screen.getByLabelText('Size of VASE'));
  await user.type(screen.getByLabelText('Size of VASE'), '1.5*2×3{Enter}');
  await waitFor(() => expect(server.sent(measureItem)).toEqual({ itemId: 1, sizeCm: ['1.5', '2', '3'] }));
});

test('a side that is missing is said at the field, and nothing is sent', async () => {
  const { user, server } = open('volume');
  const size = screen.getByLabelText('Size of VASE');
  await user.type(size, '40 x 30{Enter}');
  await waitFor(() => expect(size.getAttribute('aria-invalid')).toBe('true'));
  expect(screen.getByLabelText('Size of BOWL').getAttribute('aria-invalid')).toBe('false');
  expect(server.sent(measureItem)).toBeUndefined();
});

test('where every item is measured nothing is asked', () => {
  open('weight', []);
  expect(screen.queryByRole('note', { name: /weigh/ })).toBeNull();
  expect(screen.queryByText(/What does one weigh/)).toBeNull();
});
