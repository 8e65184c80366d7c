/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { BillableLine, BillPosted, OpenCharge } from '@larder/contract/bills';
import { reference } from '@larder/contract/setup';
import type { Problem } from '@larder/contract/values';
import Button from '@mui/material/Button';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { FormFrame } from '../../kit/FormFrame';
import { useForm } from '../../kit/form';
import { around, standInServer } from '../../testing/server';
import { billField, sentLines, untyped, type ChargeRow, type GoodsDraft, type GoodsRow, type OtherDraft, type ParcelRow, type Typed } from './billDraft';
import { BillLines } from './BillLines';

const line = (purchaseLineId: number, sku: string, received: string, billed = '0') =>
  ({
    purchaseLineId,
    orderId: 1,
    orderNumber: 'PO-1',
    sku,
    name: `Goods ${sku}`,
    ordered: '10',
    received,
    returned: '0',
    billed,
    price: '2.5',
    pricePer: '1',
    factor: '1',
    unit: 'each',
    currency: 'GBP',
  }) as BillableLine;
const charge = (id: number, name: string, partyId: number | null) =>
  ({ id, name, sheet: 'LC-1', deliveries: 'PO-1', partyId, party: partyId === null ? null : 'Carrier', estimate: '40.00', open: '40.00' }) as OpenCharge;
let now: Typed;

/** The lines of a bill within a form, as they are typed over what is proposed. */
function open(
  kind: 'bill' | 'credit',
  goods: Omit<GoodsDraft, 'at'>[],
  charges: OpenCharge[],
  worked: BillPosted['lines'] = [],
  refusal: Problem['errors'] = [],
) {
  const server = standInServer();
  server.on(reference, () => ({ taxes: [{ id: 4, name: 'Standard', rate: '20', retired: false }] }));
  function Page() {
    const form = useForm({
      came: {
        goods: goods.map(({ line: { purchaseLineId } }) => untyped({ purchaseLineId })),
        charges: charges.map(({ id }): ChargeRow => ({ chargeId: id, amount: null, final: false, taxCodeId: null })),
        parcels: [] as ParcelRow[],
        others: [] as OtherDraft[],
      },
      body: () => ({}),
      checkedBy: () => Promise.resolve(z.object({})),
      sentAs: (path) => billField(path, sentLines(now)),
    });
    const typed = useWatch({ control: form.control }) as { goods: GoodsRow[]; charges: ChargeRow[]; others: OtherDraft[] };
    now = {
      kind,
      withTax: false,
      parcels: [],
      others: typed.others,
      goods: goods.map((one, at) => ({ at, line: one.line, quantity: typed.goods[at]?.quantity ?? one.quantity, price: typed.goods[at]?.price ?? one.price })),
      charges: charges.map((one, at) => ({ at, charge: one, ...(typed.charges[at] as ChargeRow), amount: typed.charges[at]?.amount ?? '' })),
    };
    const refuse = () =>
      form.send(() => Promise.resolve({ data: undefined, error: { type: 'not-valid', status: 422, title: 'No.', errors: refusal, asks: [] } }));
    return (
      <FormFrame form={form} save={() => undefined} fleeting>
        <BillLines
          {...now}
          partyId={3}
          sent={sentLines(now)}
          accounts={
            [
              { id: 1, code: '1200', name: 'Inventory', type: 'inventory', purpose: 'inventory' },
              { id: 2, code: '6900', name: 'Other costs', type: 'expense', purpose: 'other-costs' },
            ] as never
          }
          worked={worked}
        />
        <Button onClick={() => void refuse()}>Post it</Button>
      </FormFrame>
    );
  }
  const { Around } = around();
  render(<Page />, { wrapper: Around });
  return userEvent.setup();
}
const goodsOf = (sku: string, quantity: string, received = '10') => ({
  line: line(sku === 'VASE' ? 1 : 2, sku, received),
  quantity,
  price: '2.50',
});

test('what differs stands under its line, counted over the lines that are sent; what has not come yet is hidden until it is asked for', async () => {
  const said = { kind: 'goods', text: '', quantity: '4', amount: '10.00', cleared: '10.00', difference: '0', toStock: '0', words: '' } as const;
  const user = open('bill', [goodsOf('BOWL', '', '0'), goodsOf('VASE', '4')], [], [{ ...said, words: '6 of them are not billed yet' }]);
  const rows = () => within(screen.getByRole('table', { name: 'Goods billed' })).getAllByRole('row', { hidden: true });
  expect(rows()[2]?.textContent).toContain('6 of them are not billed yet');
  expect(rows()[2]?.textContent).toContain('10.00');
  expect(rows()[1]?.hidden).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Show 1 line that has not come yet' }));
  expect(rows()[1]?.hidden).toBe(false);
  await user.type(screen.getByLabelText('Billed now, PO-1 BOWL'), '3');
  expect(now.goods.map(({ quantity }) => quantity)).toEqual(['3', '4']);
});

test('what the server refuses of a line stands at the field it was typed in, which has the focus', async () => {
  const lines = [goodsOf('BOWL', '', '0'), goodsOf('VASE', '4'), { ...goodsOf('BOWL', '12'), line: line(3, 'JUG', '10') }];
  const user = open('bill', lines, [], [], [{ field: 'lines.1.quantity', sentence: 'Only 10 have come.' }]);
  await user.click(screen.getByRole('button', { name: 'Post it' }));
  const jug = await screen.findByLabelText('Billed now, PO-1 JUG');
  await waitFor(() => expect(jug.getAttribute('aria-invalid')).toBe('true'));
  expect(document.activeElement).toBe(jug);
  expect(screen.getAllByText('Only 10 have come.')).toHaveLength(1);
  expect(screen.getByLabelText('Billed now, PO-1 VASE').getAttribute('aria-invalid')).toBe('false');
});

test('charges of this party stand there, those expected from others a click away; each with its tax and whether it is the last', async () => {
  const user = open('bill', [], [charge(1, 'Freight', 3), charge(2, 'Duty', 8)]);
  const rows = () => within(screen.getByRole('table', { name: 'Charges billed' })).getAllByRole('row', { hidden: true });
  expect(rows()[2]?.hidden).toBe(true);
  await user.type(screen.getByLabelText('Billed for Freight, LC-1'), '38.50');
  await user.selectOptions(await screen.findByLabelText('Tax on Freight, LC-1'), '4');
  await user.click(screen.getByLabelText('No more bills for Freight, LC-1'));
  expect(now.charges[0]).toMatchObject({ amount: '38.50', taxCodeId: 4, final: true });
  await user.click(screen.getByRole('button', { name: 'Show 1 charge expected from others' }));
  expect(rows()[2]?.hidden).toBe(false);
});

test('another line is for what nobody ordered, on an account that bills may use', async () => {
  const user = open('bill', [], []);
  await user.click(screen.getByRole('button', { name: 'Add another line' }));
  await user.type(screen.getByLabelText('What line 1 is for'), 'Pallet deposit');
  await user.type(screen.getByLabelText('Amount of line 1'), '12');
  expect(now.others).toEqual([{ text: 'Pallet deposit', accountId: '2', amount: '12', taxCodeId: null }]);
  expect(
    within(screen.getByLabelText('Account of line 1'))
      .getAllByRole('option')
      .map(({ textContent }) => textContent),
  ).toEqual(['6900 Other costs']);
  await user.click(screen.getByRole('button', { name: 'Add another line' }));
  expect(document.activeElement).toBe(screen.getByLabelText('What line 2 is for'));
  await user.keyboard('Stamps');
  await user.click(screen.getByRole('button', { name: 'Remove line 1' }));
  expect(now.others.map(({ text }) => text)).toEqual(['Stamps']);
  expect(screen.getByLabelText<HTMLInputElement>('What line 1 is for').value).toBe('Stamps');
});

test('a credit is for goods that went back by how many, else for an amount', () => {
  open('credit', [{ line: line(1, 'VASE', '6', '10'), quantity: '4', price: '2.50' }, goodsOf('BOWL', '15.00')], []);
  expect(screen.getByLabelText<HTMLInputElement>('Taken off, PO-1 VASE').value).toBe('4');
  expect(screen.getByLabelText('Price, PO-1 VASE')).toBeTruthy();
  expect(screen.queryByLabelText('Price, PO-1 BOWL')).toBeNull();
});
