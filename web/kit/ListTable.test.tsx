/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { asMade, type ColumnLayout } from './columnLayout';
import { ColumnMenu } from './ColumnMenu';
import { ListTable, type Column } from './ListTable';

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
/** Which row is selected, counted from 1; those that are not drawn are counted too. */
const selected = () =>
  Number(
    screen
      .getAllByRole('row')
      .find((row) => row.getAttribute('aria-selected') === 'true')
      ?.getAttribute('aria-rowindex'),
  ) - 1;

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

const columns: Column<Row>[] = [
  { name: '', cell: () => '*' },
  { name: 'SKU', text: ({ sku }) => sku, cell: ({ sku }) => sku },
  { name: 'Free', number: true, cell: ({ free }) => free },
  { name: 'Double', number: true, cell: ({ free }) => free * 2 },
  { name: 'Half', number: true, cell: ({ free }) => free / 2 },
];
const many: Row[] = Array.from({ length: 40 }, (_, index) => ({
  id: index,
  sku: `${'ABCD'[Math.floor(index / 10)]}-${String(index).padStart(2, '0')}`,
  free: index,
}));

function openLaid(list: readonly Row[] = many) {
  const kept: ColumnLayout[] = [];
  const chosen = new Set<number>();
  function Page() {
    const [selected, select] = useState(0);
    const [layout, setLayout] = useState(asMade);
    const [, draw] = useState(0);
    const change = (next: ColumnLayout) => {
      kept.push(next);
      setLayout(next);
    };
    return (
      <>
        <ColumnMenu columns={columns} layout={layout} change={change} />
        <ListTable
          label="Stock"
          columns={columns}
          rows={list}
          keyOf={({ id }) => id}
          selected={selected}
          select={select}
          open={() => undefined}
          empty="No item yet."
          laying={{ layout, change }}
          choosing={{
            has: ({ id }) => chosen.has(id),
            set: (some, on) => {
              some.forEach(({ id }) => (on ? chosen.add(id) : chosen.delete(id)));
              draw((n) => n + 1);
            },
          }}
        />
      </>
    );
  }
  render(<Page />);
  return { user: userEvent.setup(), kept, chosen };
}
const heads = () => screen.getAllByRole('columnheader').map(({ textContent }) => textContent);

test('Home, End and the page keys go far', async () => {
  const { user } = openLaid();
  await user.keyboard('{End}');
  expect(selected()).toBe(40);
  await user.keyboard('{PageUp}');
  expect(selected()).toBe(28);
  await user.keyboard('{Home}{PageDown}');
  expect(selected()).toBe(13);
});

test('letters go to the row that begins with them; after a pause they begin anew', async () => {
  openLaid();
  await screen.findByText('A-00');
  let clock = 1000;
  /** Letters typed one after the other, so many milliseconds apart, after a pause. */
  const type = (letters: string, gap: number) => {
    clock += 5000;
    for (const key of letters) {
      const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
      Object.defineProperty(event, 'timeStamp', { value: (clock += gap) });
      fireEvent(document.body, event);
    }
  };
  type('c', 100);
  await waitFor(() => expect(selected()).toBe(21));
  type('c-25', 100);
  await waitFor(() => expect(selected()).toBe(26));
  // A hyphen by itself begins no row.
  type('d-', 5000);
  await waitFor(() => expect(selected()).toBe(31));
});

test('Space chooses a row and lets it go again, Shift with a key or a click all rows gone past', async () => {
  const { user, chosen } = openLaid();
  await user.keyboard(' ');
  expect([...chosen]).toEqual([0]);
  await user.keyboard(' ');
  expect([...chosen]).toEqual([]);
  await user.keyboard('{Shift>}{ArrowDown}{ArrowDown}{/Shift}');
  expect([...chosen].sort()).toEqual([0, 1, 2]);
  await user.keyboard('{Home}');
  chosen.clear();
  await user.keyboard('{Shift>}');
  await user.click(screen.getByText('A-04'));
  await user.keyboard('{/Shift}');
  expect([...chosen].sort()).toEqual([0, 1, 2, 3, 4]);
});

test('columns are hidden and moved, all but the one a row is known by; as they were is one step away', async () => {
  const { user, kept } = openLaid();
  expect(heads()).toEqual(['', 'SKU', 'Free', 'Double', 'Half']);
  await user.click(screen.getByRole('button', { name: 'Columns' }));
  const menu = within(screen.getByRole('dialog', { name: 'Columns' }));
  expect(menu.queryByLabelText('SKU')).toBeNull();
  await user.click(menu.getByLabelText('Double'));
  await user.click(menu.getByRole('button', { name: 'Move Half to the left' }));
  await user.click(menu.getByRole('button', { name: 'Move Half to the left' }));
  expect(kept.at(-1)).toEqual({ hidden: ['Double'], shown: [], order: ['Half', 'Free', 'Double'], widths: {} });
  expect(screen.getAllByRole('columnheader', { hidden: true }).map(({ textContent }) => textContent)).toEqual(['', 'SKU', 'Half', 'Free']);
  await user.click(menu.getByRole('button', { name: 'As they were' }));
  expect(kept.at(-1)).toEqual(asMade);
});

test('a width is typed within reason, and taken off again', async () => {
  const { user, kept } = openLaid();
  await user.click(screen.getByRole('button', { name: 'Columns' }));
  const width = screen.getByLabelText<HTMLInputElement>('Width of Free');
  await user.type(width, '220');
  await user.tab();
  expect(kept.at(-1)?.widths).toEqual({ Free: 220 });
  await user.clear(width);
  await user.type(width, '7');
  await user.tab();
  expect([kept.at(-1)?.widths, width.value]).toEqual([{ Free: 220 }, '220']);
  await user.clear(width);
  await user.tab();
  expect(kept.at(-1)?.widths).toEqual({});
});

test('of many rows those in sight are drawn, and those that follow are asked for before the end', async () => {
  const long: Row[] = Array.from({ length: 500 }, (_, index) => ({ id: index, sku: `N-${index}`, free: index }));
  let asked = 0;
  function Page() {
    const [selected, select] = useState(0);
    return (
      <ListTable
        label="Stock"
        columns={[
          { name: 'SKU', text: ({ sku }) => sku, cell: ({ sku }) => sku, sum: '712 items' },
          { name: 'Free', number: true, cell: ({ free }) => free, sum: '124750' },
        ]}
        rows={long}
        count={712}
        more={() => void (asked += 1)}
        keyOf={({ id }) => id}
        selected={selected}
        select={select}
        open={() => undefined}
        empty=""
      />
    );
  }
  render(<Page />);
  const user = userEvent.setup();
  expect(screen.getByRole('table').getAttribute('aria-rowcount')).toBe('713');
  expect(screen.getAllByRole('row').length).toBeLessThan(60);
  expect(screen.getByText('712 items').closest('tfoot')).toBeTruthy();
  expect(asked).toBe(0);
  await user.keyboard('{End}');
  expect(selected()).toBe(500);
  expect(screen.getByText('N-499')).toBeTruthy();
  expect(screen.queryByText('N-0')).toBeNull();
  expect(screen.getAllByRole('row').length).toBeLessThan(60);
  expect(asked).toBeGreaterThan(0);
});

test('a row is opened in place by its arrow or the right arrow key, and closed again; one that holds nothing has none', async () => {
  const opened: string[] = [];
  function Page() {
    const [selected, select] = useState(0);
    return (
      <ListTable
        label="Stock"
        columns={[{ name: 'SKU', text: ({ sku }) => sku, cell: ({ sku }) => <b>{sku}</b> }]}
        rows={rows}
        keyOf={({ id }) => id}
        selected={selected}
        select={select}
        open={({ sku }) => void opened.push(sku)}
        empty=""
        opening={{ Inside: ({ row }) => <p>Bins of {row.sku}</p>, holds: ({ free }) => free > 0 }}
      />
    );
  }
  render(<Page />);
  const user = userEvent.setup();
  const arrow = screen.getByRole('button', { name: 'What is in VASE' });
  expect(arrow.getAttribute('aria-expanded')).toBe('false');
  expect(screen.queryByRole('button', { name: 'What is in BOWL' })).toBeNull();
  await user.click(screen.getByText('DISH'));
  await user.keyboard('{ArrowRight}');
  expect(screen.getByText('Bins of DISH')).toBeTruthy();
  await user.click(arrow);
  expect([selected(), screen.getByText('Bins of VASE') !== null, arrow.getAttribute('aria-expanded')]).toEqual([3, true, 'true']);
  await user.keyboard('{ArrowUp}{ArrowRight}');
  expect(screen.queryByText('Bins of BOWL')).toBeNull();
  await user.keyboard('{ArrowDown}{ArrowLeft}');
  expect(screen.queryByText('Bins of DISH')).toBeNull();
  await user.dblClick(screen.getByRole('button', { name: 'What is in DISH' }));
  expect(opened).toEqual([]);
});
