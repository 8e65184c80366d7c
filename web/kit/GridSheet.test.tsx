/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { GridSheet } from './GridSheet';

const columns = [
  { key: 'sku', name: 'SKU' },
  { key: 'price', name: 'Price', number: true },
];

function Page() {
  const [rows, setRows] = useState<Record<string, string>[]>([
    { sku: 'A', price: '1.00' },
    { sku: 'B', price: '' },
    { sku: 'C', price: '' },
  ]);
  return (
    <GridSheet
      label="Members"
      headName="Member"
      columns={columns}
      rows={rows}
      change={setRows}
      head={(_, index) => index + 1}
      errorAt={(row, key) => (row === 1 && key === 'sku' ? 'Another item has it.' : undefined)}
      off={(row) => row.sku === 'C'}
    />
  );
}
const cell = (name: string, row: number) => screen.getByLabelText<HTMLInputElement>(`${name} of row ${row}`);

test('cells: arrows move, a block is pasted, the head sets all, Ctrl D fills down; what is off cannot be written and what is wrong is said', async () => {
  const user = userEvent.setup();
  render(<Page />);
  expect(cell('SKU', 2).getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByText('Another item has it.')).toBeTruthy();
  expect(cell('Price', 3).disabled).toBe(true);
  await user.click(cell('Price', 1));
  await user.keyboard('{ArrowDown}');
  expect(document.activeElement).toBe(cell('Price', 2));
  await user.click(cell('SKU', 1));
  await user.paste('X\t4.50\nY\t5.00');
  expect([cell('SKU', 1).value, cell('Price', 1).value, cell('SKU', 2).value, cell('Price', 2).value]).toEqual(['X', '4.50', 'Y', '5.00']);
  await user.type(screen.getByLabelText('Price of all rows'), '7');
  expect([1, 2, 3].map((row) => cell('Price', row).value)).toEqual(['7', '7', '']);
  await user.clear(cell('Price', 1));
  await user.type(cell('Price', 1), '8');
  await user.keyboard('{Control>}d{/Control}');
  expect(cell('Price', 2).value).toBe('8');
});
