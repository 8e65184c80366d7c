/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import type { BillableLine, BillPosted, OpenCharge } from '@larder/contract/bills';
import { reference } from '@larder/contract/setup';
import { render, screen, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { FormProvider, useForm, useWatch } from 'react-hook-form';
import { around, standInServer } from '../../testing/server';
import type { ChargeDraft, GoodsDraft, OtherDraft } from './billDraft';
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
let now: { goods: GoodsDraft[]; charges: ChargeDraft[]; others: OtherDraft[] };

function open(kind: 'bill' | 'credit', goods: GoodsDraft[], charges: ChargeDraft[], worked: BillPosted['lines'] = [], fault: Record<string, string> = {}) {
  const server = standInServer();
  server.on(reference, () => ({ taxes: [{ id: 4, name: 'Standard', rate: '20' }] }));
  function Page() {
    const [lines, setLines] = useState({ goods, charges });
    const form = useForm<{ others: OtherDraft[] }>({ defaultValues: { others: [] } });
    const others = useWatch({ control: form.control, name: 'others' });
    now = { ...lines, others };
    return (
      <FormProvider {...form}>
        <BillLines
          kind={kind}
          partyId={3}
          {...lines}
          others={others}
          setGoods={(next) => setLines({ ...lines, goods: next })}
          setCharges={(next) => setLines({ ...lines, charges: next })}
          accounts={
            [
              { id: 1, code: '1200', name: 'Inventory', type: 'inventory', purpose: 'inventory' },
              { id: 2, code: '6900', name: 'Other costs', type: 'expense', purpose: 'other-costs' },
            ] as never
          }
          worked={worked}
          faultAt={(field) => fault[field]}
        />
      </FormProvider>
    );
  }
  const { Around } = around();
  render(<Page />, { wrapper: Around });
  return userEvent.setup();
}
const goodsOf = (sku: string, quantity: string, received = '10'): GoodsDraft => ({
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

test('what the server refuses of a line stands under that line and no other', () => {
  open('bill', [goodsOf('VASE', '4'), goodsOf('BOWL', '12')], [], [], { 'lines.1.quantity': 'Only 10 have come.' });
  const [, first, second] = within(screen.getByRole('table', { name: 'Goods billed' })).getAllByRole('row');
  expect(second?.textContent).toContain('Only 10 have come.');
  expect(first?.textContent).not.toContain('Only 10');
});

test('charges of this party stand there, those expected from others a click away; each with its tax and whether it is the last', async () => {
  const draft = (one: OpenCharge): ChargeDraft => ({ charge: one, amount: '', final: false, taxCodeId: null });
  const user = open('bill', [], [draft(charge(1, 'Freight', 3)), draft(charge(2, 'Duty', 8))]);
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
