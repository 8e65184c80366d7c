/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { ListTable } from './ListTable';

interface Row {
  id: number;
  sku: string;
  free: number;
}
const rows: Row[] = [
  { id: 1, sku: 'VASE', free: 4 },
  { id: 2, sku: 'BOWL', free: 0 },
  { id: 3, sku: 'DISH', free: 12 },
];

function open(list: readonly Row[] = rows) {
  const opened: string[] = [];
  const sorted: string[] = [];
  function Page() {
    const [selected, select] = useState(0);
    return (
      <>
        <input aria-label="Find" />
        <ListTable
          label="Stock"
          columns={[
            { name: 'SKU', sort: 'sku', cell: ({ sku }) => sku },
            { name: 'Free', sort: 'free', number: true, cell: ({ free }) => free },
          ]}
          rows={list}
          keyOf={({ id }) => id}
          selected={selected}
          select={select}
          open={({ sku }) => void opened.push(sku)}
          sort={{ key: 'sku', direction: 'up', change: (key) => void sorted.push(key) }}
          empty="Nothing fits."
        />
      </>
    );
  }
  render(<Page />);
  return { user: userEvent.setup(), opened, sorted };
}
const selected = () => screen.getAllByRole('row').findIndex((row) => row.getAttribute('aria-selected') === 'true');

test('arrows move by row and stop at both ends, Enter opens, a click selects and a double click opens', async () => {
  const { user, opened } = open();
  await user.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}');
  expect(selected()).toBe(3);
  await user.keyboard('{ArrowUp}{Enter}');
  expect(opened).toEqual(['BOWL']);
  await user.click(screen.getByText('VASE'));
  expect(selected()).toBe(1);
  await user.dblClick(screen.getByText('DISH'));
  expect(opened).toEqual(['BOWL', 'DISH']);
});

test('which column it is sorted by is told, and each heading asks for its own', async () => {
  const { user, sorted } = open();
  expect(screen.getByRole('columnheader', { name: /SKU/ }).getAttribute('aria-sort')).toBe('ascending');
  expect(screen.getByRole('columnheader', { name: 'Free' }).getAttribute('aria-sort')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Free' }));
  expect(sorted).toEqual(['free']);
});

test('where nothing fits that is said', () => {
  open([]);
  expect(screen.getByText('Nothing fits.')).toBeTruthy();
  expect(screen.queryByRole('table')).toBeNull();
});
