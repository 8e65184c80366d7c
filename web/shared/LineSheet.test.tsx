/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listItems } from '@larder/contract/catalog';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { z } from 'zod';
import type { Problem } from '@larder/contract/values';
import { BottomBar } from '../kit/BottomBar';
import { useForm } from '../kit/form';
import { FormFrame } from '../kit/FormFrame';
import { around, standInServer } from '../testing/server';
import type { DraftLine } from './draftLines';
import { LineSheet } from './LineSheet';

const items = [
  { id: 1, sku: 'VASE', name: 'Tall vase', unit: 'each', purchasePrice: '2.50', salesPrice: '6', free: '4', units: [] },
  {
    id: 2,
    sku: 'JAR',
    name: 'Honey jar',
    unit: 'each',
    purchasePrice: '0.40',
    salesPrice: '1',
    free: '90',
    units: [{ unitId: 7, unit: 'case', factor: '24', buys: true, sells: false }],
  },
];
let now: DraftLine[] = [];
/** With how many lines it was placed, each time. */
const placed: number[] = [];

interface PageProps {
  way: 'buys' | 'sells';
  problem?: Problem | null;
  lines?: DraftLine[];
}
function Page({ way, problem = null, lines = [] }: PageProps) {
  const form = useForm({
    came: { lines, added: [] as DraftLine[] },
    body: ({ lines }) => ({ lines }),
    checkedBy: () => Promise.resolve(z.object({ lines: z.array(z.unknown()) })),
  });
  const save = () => void form.send(() => Promise.resolve(problem ? { error: problem } : { data: true }));
  now = form.watch('lines');
  return (
    <FormFrame form={form} save={save}>
      <LineSheet way={way} />
      <BottomBar next={{ label: 'Place it', run: () => placed.push(now.length), disabled: now.length === 0 }} />
    </FormFrame>
  );
}

function open(way: 'buys' | 'sells', problem?: Problem, lines: DraftLine[] = []) {
  const server = standInServer();
  server.on(listItems, (_, path) => {
    const words = new URLSearchParams(path.split('?')[1]).get('q')?.toLowerCase() ?? '';
    return { rows: items.filter(({ sku, name }) => `${sku} ${name}`.toLowerCase().includes(words)), next: null };
  });
  const { Around } = around();
  const shown = render(<Page way={way} problem={problem ?? null} lines={lines} />, { wrapper: Around });
  const user = userEvent.setup();
  const enter = async (text: string) => {
    await user.type(screen.getByLabelText('New line'), text);
    await screen.findByRole('listbox', { name: 'Items that fit' });
    await user.keyboard('{Enter}');
  };
  return { user, enter, shown };
}

test('a line is taken by words with its quantity, in the unit it is bought in, at what so many cost; the same again adds up', async () => {
  const { enter } = open('buys');
  await enter('3 jar');
  expect(now).toMatchObject([{ sku: 'JAR', quantity: '3', unit: 'case', unitId: 7, factor: '24', price: '9.60' }]);
  await enter('vase 2');
  expect(now[1]).toMatchObject({ sku: 'VASE', quantity: '2', unitId: null, price: '2.50' });
  await enter('4 jar');
  expect(now.map(({ quantity }) => quantity)).toEqual(['7', '2']);
  expect(screen.getByLabelText<HTMLInputElement>('New line').value).toBe('');
  expect(document.activeElement).toBe(screen.getByLabelText('New line'));
});

test('what is sold begins with the base unit and the sales price; another unit keeps what one costs; a typed price is the person’s own', async () => {
  const { user, enter } = open('sells');
  await enter('5 jar');
  expect(now[0]).toMatchObject({ unitId: null, price: '1.00', quantity: '5' });
  await user.selectOptions(screen.getByLabelText('Unit of line 1'), '7');
  expect(now[0]).toMatchObject({ unitId: 7, factor: '24', price: '24.00' });
  expect(now[0]?.ownPrice).toBeUndefined();
  await user.clear(screen.getByLabelText('Price of line 1'));
  await user.type(screen.getByLabelText('Price of line 1'), '20');
  expect(now[0]).toMatchObject({ price: '20', ownPrice: true });
  const row = screen.getAllByRole('row')[1] as HTMLElement;
  expect(within(row).getByText('100.00')).toBeTruthy();
});

test('a line goes when it is removed, and what the server refuses stands at its field', async () => {
  const problem: Problem = {
    status: 422,
    type: 'unfit',
    title: 'Look at the fields.',
    asks: [],
    errors: [{ field: 'lines.1.quantity', sentence: 'At least 24.' }],
  };
  const { user, enter } = open('buys', problem);
  await enter('3 jar');
  await enter('1 vase');
  await user.keyboard('{Control>}s{/Control}');
  expect(await screen.findByText('At least 24.')).toBeTruthy();
  expect(screen.getByLabelText('Quantity of line 2').getAttribute('aria-invalid')).toBe('true');
  expect(document.activeElement).toBe(screen.getByLabelText('Quantity of line 2'));
  expect(screen.getByLabelText('Quantity of line 1').getAttribute('aria-invalid')).toBe('false');
  await user.click(screen.getByLabelText('Remove line 1'));
  expect(now.map(({ sku }) => sku)).toEqual(['VASE']);
});

test('of many lines those in sight are there; one that is refused comes into sight, and what was typed stays when it has gone again', async () => {
  const line = (index: number): DraftLine => ({
    itemId: index,
    sku: `S-${index}`,
    name: 'Spoon',
    unit: 'each',
    unitId: null,
    factor: '1',
    units: [],
    baseUnit: 'each',
    quantity: '5',
    price: '1.00',
    pricePer: '1',
  });
  const problem: Problem = { status: 422, type: 'unfit', title: 'No.', asks: [], errors: [{ field: 'lines.179.quantity', sentence: 'At least 24.' }] };
  const { user } = open(
    'buys',
    problem,
    Array.from({ length: 200 }, (_, index) => line(index + 1)),
  );
  await screen.findByLabelText('Quantity of line 1');
  expect(screen.getByRole('table', { name: 'Lines' }).getAttribute('aria-rowcount')).toBe('202');
  expect(screen.getAllByLabelText(/^Quantity of line/).length).toBeLessThan(40);
  expect(screen.queryByLabelText('Quantity of line 180')).toBeNull();
  await user.click(screen.getByLabelText('Quantity of line 2'));
  await user.keyboard('7{Control>}s{/Control}');
  const wrong = await screen.findByLabelText('Quantity of line 180');
  await waitFor(() => expect(document.activeElement).toBe(wrong));
  expect(wrong.getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByText('At least 24.')).toBeTruthy();
  await user.keyboard('24');
  // the line that was typed in before is out of sight, and has kept it
  await waitFor(() => expect(screen.queryByLabelText('Quantity of line 2')).toBeNull());
  expect([now[1]?.quantity, now[179]?.quantity, now[178]?.quantity, now.length]).toEqual(['7', '24', '5', 200]);
  expect(screen.getByText('180').closest('tr')?.getAttribute('aria-rowindex')).toBe('181');
});

test('keys that come before the item was looked up wait for it: the line is taken once, and then the next step', async () => {
  const { user } = open('sells');
  await user.type(screen.getByLabelText('New line'), '2 vase{Enter}{Enter}{Control>}{Enter}{/Control}');
  await waitFor(() => expect(placed).toEqual([1]));
  expect(now).toMatchObject([{ sku: 'VASE', quantity: '2' }]);
});

test('what fits no item is said and kept as it was typed', async () => {
  const { user } = open('buys');
  await user.type(screen.getByLabelText('New line'), '2 spoons{Enter}');
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('No item fits “2 spoons”.'));
  expect(screen.getByLabelText<HTMLInputElement>('New line').value).toBe('2 spoons');
  expect(now).toEqual([]);
});
