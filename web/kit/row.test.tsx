/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, jest, test } from '@jest/globals';
import { act, render, renderHook, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { FormProvider, useForm } from 'react-hook-form';
import { putInRow, sentRow, useOfRow, usePut, useRow, useSettled, useVersionOf } from './row';

interface Line {
  sku: string;
  quantity: string;
}
interface Order {
  note: string;
  lines: Line[];
}

function Row({ index }: { index: number }) {
  const line = useRow<Line>(`lines.${index}`);
  const put = usePut<Line>(`lines.${index}`);
  return line ? (
    <button type="button" onClick={() => put({ quantity: String(Number(line.quantity) + 1) })}>
      {line.quantity} of {line.sku}
    </button>
  ) : (
    <span>no line</span>
  );
}

const Total = () => {
  const [lines] = useSettled<Order, ['lines']>(['lines'], 200);
  return <output>{lines.reduce((sum, { quantity }) => sum + Number(quantity), 0)}</output>;
};

function Page() {
  const form = useForm<Order>({
    defaultValues: {
      note: '',
      lines: [
        { sku: 'VASE', quantity: '2' },
        { sku: 'BOWL', quantity: '5' },
      ],
    },
  });
  return (
    <FormProvider {...form}>
      <Row index={0} />
      <Row index={1} />
      <Row index={2} />
      <Total />
      <button type="button" onClick={() => putInRow(form.setValue, 'lines.1', { sku: 'DISH', quantity: '1' })}>
        Another item
      </button>
      <output aria-label="typed">{String(form.formState.isDirty)}</output>
    </FormProvider>
  );
}

test('a row is drawn as it stands, and put part by part as if it had been typed; one that is not there is none', async () => {
  const user = userEvent.setup();
  render(<Page />);
  expect(screen.getByText('no line')).toBeTruthy();
  expect(screen.getByLabelText('typed').textContent).toBe('false');
  await user.click(screen.getByRole('button', { name: '2 of VASE' }));
  expect(screen.getByRole('button', { name: '3 of VASE' })).toBeTruthy();
  expect(screen.getByLabelText('typed').textContent).toBe('true');
  await user.click(screen.getByRole('button', { name: 'Another item' }));
  expect(screen.getByRole('button', { name: '1 of DISH' })).toBeTruthy();
});

test('what is made of a row is drawn anew when that is another, and not when something else of the row is typed', async () => {
  const user = userEvent.setup();
  let drawn = 0;
  const Sku = () => {
    drawn += 1;
    return <output aria-label="item">{useOfRow('lines.0', ({ sku }: Line) => sku) ?? 'none'}</output>;
  };
  const Sheet = () => {
    const form = useForm<Order>({ defaultValues: { note: '', lines: [{ sku: 'VASE', quantity: '2' }] } });
    const put = (part: Partial<Line>) => () => putInRow(form.setValue, 'lines.0', part);
    return (
      <FormProvider {...form}>
        <Sku />
        <input aria-label="Quantity" {...form.register('lines.0.quantity')} />
        <button type="button" onClick={put({ sku: 'BOWL' })}>
          Another item
        </button>
      </FormProvider>
    );
  };
  render(<Sheet />);
  const before = drawn;
  await user.type(screen.getByLabelText('Quantity'), '150');
  expect(drawn).toBe(before);
  await user.click(screen.getByRole('button', { name: 'Another item' }));
  expect(screen.getByLabelText('item').textContent).toBe('BOWL');
  expect(drawn).toBe(before + 1);
});

test('a total follows once nobody has typed for a moment, and not before', () => {
  jest.useFakeTimers();
  try {
    render(<Page />);
    act(() => jest.advanceTimersByTime(300));
    const total = () => screen.getAllByRole('status').find((one) => one.getAttribute('aria-label') === null)?.textContent;
    expect(total()).toBe('7');
    for (let n = 0; n < 3; n += 1) {
      act(() => screen.getByRole('button', { name: /of VASE/ }).click());
      act(() => jest.advanceTimersByTime(150));
    }
    expect(total()).toBe('7');
    act(() => jest.advanceTimersByTime(60));
    expect(total()).toBe('10');
  } finally {
    jest.useRealTimers();
  }
});

test('of rows of which only some are sent, what is said of the nth that was sent is found where it stands', () => {
  const rows = [{ quantity: '' }, { quantity: '3' }, { quantity: '0' }, { quantity: '8' }];
  const isSent = ({ quantity }: { quantity: string }) => Number(quantity) > 0;
  expect(sentRow('lines.0.quantity', 'lines', rows, isSent)).toEqual({ at: 1, part: 'quantity' });
  expect(sentRow('lines.1.lots.0.code', 'lines', rows, isSent)).toEqual({ at: 3, part: 'lots.0.code' });
  expect(sentRow('lines.1', 'lines', rows, isSent)).toEqual({ at: 3, part: '' });
  expect(sentRow('lines.2.quantity', 'lines', rows, isSent)).toBeNull();
  expect(sentRow('lines', 'lines', rows, isSent)).toBeNull();
  expect(sentRow('note', 'lines', rows, isSent)).toBeNull();
});

test('what comes in has another version only when it is another', () => {
  const { result, rerender } = renderHook(({ came }) => useVersionOf(came), { initialProps: { came: [{ bin: 'A-1', take: '2' }] } });
  expect(result.current).toBe(1);
  rerender({ came: [{ bin: 'A-1', take: '2' }] });
  expect(result.current).toBe(1);
  rerender({ came: [{ bin: 'A-1', take: '3' }] });
  expect(result.current).toBe(2);
  rerender({ came: [{ bin: 'A-1', take: '2' }] });
  expect(result.current).toBe(3);
});
