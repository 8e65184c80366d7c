/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listAttributes } from '@larder/contract/attributes';
import { checkImport, keptColumns } from '@larder/contract/exchange';
import { exchangeKinds, type ExchangeKind } from '@larder/core/exchange/exchange';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, standInServer } from '../../testing/server';
import type { OpenFile } from './file';
import { Columns } from './ImportColumns';
import type { FileFound } from './readTable';

const items = exchangeKinds.find(({ key }) => key === 'items') as ExchangeKind;
const found: FileFound = {
  headings: ['Article', 'Name', 'Price', 'Lid'],
  rows: 2,
  sample: [
    ['JAR-1', 'Honey jar', '1.20', 'gold'],
    ['JAR-2', 'Tall jar', '1.40', ''],
  ],
  empty: [false, false, false, false],
  encoding: 'utf-8',
  separator: ';',
  mark: 'point',
  days: null,
};

function open(part: Partial<FileFound> = {}, answer: unknown = { id: 7 }) {
  const server = standInServer();
  server.on(listAttributes, () => ({ rows: [{ id: 5, name: 'Lid colour', subject: 'item', kind: 'text', choices: [] }] }));
  server.on(keptColumns, () => ({ fields: null }));
  server.on(checkImport, () => answer);
  const readings: unknown[] = [];
  const file = {
    file: { name: 'jars.csv' },
    rows: (reading: unknown) => {
      readings.push(reading);
      return Promise.resolve([['JAR-1', 'Honey jar', '1.20']]);
    },
  } as unknown as OpenFile;
  let done = 0;
  const { Around } = around();
  render(<Columns kind={items} file={file} found={{ ...found, ...part }} done={(id) => (done = id)} />, { wrapper: Around });
  return { user: userEvent.setup(), server, readings, done: () => done };
}
const is = (heading: string) => screen.getByLabelText<HTMLSelectElement>(`Column ${heading} is`);

test('columns are told by their headings, those nobody knows are left out, and a field is one column’s only', async () => {
  const { user } = open();
  expect(['Article', 'Name', 'Price', 'Lid'].map((heading) => is(heading).value)).toEqual(['sku', 'name', 'salesPrice', '']);
  expect(screen.getByText('All that is needed is there. 1 column left out.')).toBeTruthy();
  expect(screen.getByText('JAR-1 · JAR-2')).toBeTruthy();
  await waitFor(() => expect([...is('Lid').options].map(({ text }) => text)).toContain('Lid colour'));
  await user.selectOptions(is('Lid'), 'Lid colour');
  expect(screen.getByText('All that is needed is there. 0 columns left out.')).toBeTruthy();
  await user.selectOptions(is('Lid'), 'Name');
  expect([is('Lid').value, is('Name').value]).toEqual(['name', '']);
});

test('without what is needed nothing is tried, and what is missing is named', async () => {
  const { user } = open();
  await user.selectOptions(is('Article'), 'left out');
  expect(screen.getByText('Still needed: SKU.')).toBeTruthy();
  expect(screen.getByRole('button', { name: /^Try 2 rows/ }).hasAttribute('disabled')).toBe(true);
});

test('where decimals could be written either way, somebody has to say which', async () => {
  const { user, readings, done } = open({ mark: null });
  expect(screen.getByText('Say which; it could be either.')).toBeTruthy();
  const next = screen.getByRole('button', { name: /^Try 2 rows/ });
  expect(next.hasAttribute('disabled')).toBe(true);
  await user.selectOptions(screen.getByLabelText('Decimals have'), 'comma');
  await user.click(next);
  await waitFor(() => expect(done()).toBe(7));
  expect(readings).toMatchObject([{ fields: ['sku', 'name', 'salesPrice', null], mark: 'comma' }]);
});

test('the columns somebody told apart before are the same ones again', async () => {
  const { server, user, done } = open();
  server.on(keptColumns, () => ({ fields: ['sku', 'name', null, 'attribute 5'] }));
  await user.click(screen.getByRole('button', { name: /^Try 2 rows/ }));
  await waitFor(() => expect(done()).toBe(7));
  const sent = server.asked.find(({ endpoint }) => endpoint === `${checkImport.method} ${checkImport.path}`)?.body;
  expect(sent).toMatchObject({ kind: 'items', fileName: 'jars.csv', headings: found.headings, rows: [['JAR-1', 'Honey jar', '1.20']] });
});

test('why a file is not taken is said, and the columns stay as they were told', async () => {
  const { user, done } = open({}, refused(422, 'too-much', 'At most 50,000 rows at once.'));
  await user.selectOptions(is('Price'), 'Purchase price');
  await user.click(screen.getByRole('button', { name: /^Try 2 rows/ }));
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('At most 50,000 rows at once.'));
  expect(is('Price').value).toBe('purchasePrice');
  expect(done()).toBe(0);
});
