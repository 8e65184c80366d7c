/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listItems, readCode } from '@larder/contract/catalog';
import { countBin, enterCount, finishBin, getCount, nameLot, takeBin } from '@larder/contract/counts';
import { listBins } from '@larder/contract/setup';
import { act, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { CountBinPage } from './CountBinPage';

const thing = {
  itemId: 7,
  sku: 'HT-J',
  name: 'Hive tool',
  unit: 'each',
  step: '1',
  tracking: 'none',
  lotId: null,
  lot: null,
  useBy: null,
  expected: '5',
  counted: null as string | null,
  recount: null as string | null,
  settled: false,
  listed: true,
  seq: 3,
  codes: [{ code: 'ht-j', factor: '1' }],
};

function open(part: object = {}, rows = [thing]) {
  const server = standInServer();
  signedIn(server, ['look', 'stock.count' as never]);
  const bin = { placeId: 4, bin: 'B-1', zone: '', retired: false, heldById: 1, heldBy: 'Ines', doneBy: null, done: false, counted: 0, recount: 0 };
  server.on(countBin, () => ({ ...bin, siteId: 1, number: 'CT-1', blind: false, closed: false, restricted: false, rows, next: null, ...part }));
  server.on(getCount, () => ({ id: 2, binRows: [bin, { ...bin, placeId: 5, bin: 'B-2' }] }));
  server.on(listBins, () => ({ rows: [4, 5, 6].map((id) => ({ id, code: `BIN-${id - 3}`, siteId: 1, retired: false })) }));
  server.on(listItems, () => ({ rows: [], next: null }));
  server.on(readCode, () => ({ items: [], lot: null, useBy: null, serial: null, quantity: null }));
  server.on(takeBin, () => ({}));
  server.on(enterCount, () => ({}));
  server.on(finishBin, () => ({ recount: 0 }));
  const { Around, router } = around('/stock/counts/2/4');
  render(<CountBinPage />, { wrapper: Around });
  return { user: userEvent.setup(), server, router };
}
const field = () => screen.findByLabelText<HTMLInputElement>('Counted of HT-J');
let clock = 1000;
/** A scanner: its keys follow each other closely. */
const scan = (code: string) =>
  act(async () => {
    clock += 1000;
    for (const key of [...code, 'Enter']) {
      clock += 5;
      const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
      Object.defineProperty(event, 'timeStamp', { value: clock });
      (document.activeElement ?? document.body).dispatchEvent(event);
    }
    await Promise.resolve();
  });

test('each scan counts one more and sends all there is; a typed total is sent as one', async () => {
  const { user, server } = open();
  expect((await field()).value).toBe('');
  await scan('HT-J');
  await scan('ht-j');
  await waitFor(() => expect(server.sent(enterCount)).toEqual({ entries: [{ itemId: 7, lotId: null, quantity: '2', way: 'scanned' }] }));
  await user.clear(await field());
  await user.type(await field(), '4{Enter}');
  await waitFor(() => expect(server.sent(enterCount)).toEqual({ entries: [{ itemId: 7, lotId: null, quantity: '4', way: 'typed' }] }));
  await user.click(screen.getByRole('button', { name: /^B-1 is counted/ }));
  await waitFor(() => expect(server.sent(finishBin)).toEqual({}));
});

test('what is no number is said at its field, and is not sent', async () => {
  const { user, server } = open();
  await user.type(await field(), 'many{Enter}');
  await screen.findByText('Type how many there are.');
  expect(server.sent(enterCount)).toBeUndefined();
  await user.clear(await field());
  await user.tab();
  expect(screen.queryByText('Type how many there are.')).toBeNull();
});

test('and holds the bin open until it is mended or emptied', async () => {
  const { user, server } = open({}, [{ ...thing }, { ...thing, itemId: 8, sku: 'HT-K', counted: '2' as string | null }]);
  await user.type(await field(), 'many');
  await user.click(screen.getByRole('button', { name: /^B-1 is counted/ }));
  await screen.findByText('Say how many there are of HT-J, or leave its field empty.');
  expect(server.sent(finishBin)).toBeUndefined();
  await user.clear(await field());
  await user.click(screen.getByRole('button', { name: /^B-1 is counted/ }));
  await waitFor(() => expect(server.sent(finishBin)).toEqual({}));
  expect(screen.queryByText(/^Say how many/)).toBeNull();
});

test('a lot that no record knows is named by typing or scanning it, and counted', async () => {
  const { user, server } = open();
  const jar = { itemId: 9, lotId: null, sku: 'HON-1', name: 'Honey', unit: 'each', tracking: 'lot', factor: '1' };
  server.on(readCode, (_, path) => ({
    items: path.toLowerCase().includes('hon-1') ? [jar] : [],
    lot: null,
    useBy: null,
    serial: null,
    quantity: null,
  }));
  server.on(nameLot, () => refused(409, 'lot-known', 'Lot L-7 of HON-1 has no use-by day.', 'useBy'));
  await field();
  await scan('HON-1');
  await screen.findByText('HON-1 is kept by lots: scan or type which lot it is.');
  const which = screen.getByRole('group', { name: 'Which lot of HON-1' });
  await user.type(screen.getByLabelText('Lot of HON-1'), 'L-7{Enter}');
  await screen.findByText('Lot L-7 of HON-1 has no use-by day.');
  expect(which.isConnected).toBe(true);
  server.on(nameLot, () => ({ lotId: 3, lot: 'L-77', useBy: null }));
  await scan('L-77');
  await waitFor(() => expect(server.sent(nameLot)).toEqual({ itemId: 9, code: 'L-77', useBy: null }));
  await waitFor(() => expect(server.sent(enterCount)).toEqual({ entries: [{ itemId: 9, lotId: 3, quantity: '1', way: 'scanned' }] }));
  expect(screen.queryByRole('group', { name: 'Which lot of HON-1' })).toBeNull();
});

test('a bin with something in it is called empty only on purpose', async () => {
  const { user, server } = open();
  await field();
  expect(screen.getByRole('button', { name: /^B-1 is counted/ }).hasAttribute('disabled')).toBe(true);
  await user.click(screen.getByRole('button', { name: 'B-1 is empty' }));
  await waitFor(() => expect(server.sent(finishBin)).toEqual({}));
  expect(server.sent(enterCount)).toEqual({ entries: [{ itemId: 7, lotId: null, quantity: '0', way: 'typed' }] });
});

test('what means nothing here is said; a bin that is not on the count, too', async () => {
  open();
  await field();
  await scan('NOPE-1');
  await screen.findByText('NOPE-1 means no bin and no item here.');
  await scan('BIN-3');
  await screen.findByText('BIN-3 is not on CT-1.');
});

test('what the server refuses is said, and sent again with the next', async () => {
  const { user, server } = open();
  server.on(enterCount, () => refused(409, 'bin-held', 'Tom is counting B-1.'));
  await user.type(await field(), '3{Enter}');
  await screen.findByText('Tom is counting B-1.');
  server.on(enterCount, () => ({}));
  await user.click(screen.getByRole('button', { name: /^B-1 is counted/ }));
  await waitFor(() => expect(server.sent(finishBin)).toEqual({}));
  expect(server.asked.filter(({ endpoint }) => endpoint.endsWith('/entries'))).toHaveLength(2);
});

test('somebody else’s bin is asked for; what is to be counted again says why and begins empty', async () => {
  const { user, server } = open({ heldById: 9, heldBy: 'Tom' }, [{ ...thing, counted: '3', recount: 'moved' }]);
  await screen.findByText('Tom is counting B-1.');
  expect(screen.queryByLabelText('Counted of HT-J')).toBeNull();
  await screen.findByText(/Count it again: some of it moved while it was scanned\./);
  await user.click(screen.getByRole('button', { name: 'Count it instead' }));
  await waitFor(() => expect(server.sent(takeBin)).toEqual({ over: true }));
});
