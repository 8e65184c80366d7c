/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { act, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { ScanProvider, useScan } from './scan';

const taken: string[] = [];

function Page() {
  const [text, setText] = useState('');
  useScan((code) => taken.push(code) > 0);
  return <input aria-label="Quantity" value={text} onChange={({ target }) => setText(target.value)} />;
}

/** Keys pressed so many milliseconds apart; each that is not taken away is typed into the field. */
function press(keys: string, gap: number): void {
  const field = screen.getByLabelText<HTMLInputElement>('Quantity');
  clock += 1000;
  for (const key of [...keys, 'Enter']) {
    clock += gap;
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
    Object.defineProperty(event, 'timeStamp', { value: clock });
    let goesOn = true;
    act(() => void (goesOn = field.dispatchEvent(event)));
    if (goesOn && key !== 'Enter') fireEvent.change(field, { target: { value: field.value + key } });
  }
}
let clock = 1000;

test('a burst of keys ending in Enter is a scan wherever the focus is, and leaves the field as it was', () => {
  render(
    <ScanProvider>
      <Page />
    </ScanProvider>,
  );
  const field = screen.getByLabelText<HTMLInputElement>('Quantity');
  press('12', 200);
  expect(field.value).toBe('12');
  expect(taken).toEqual([]);
  press('4006381333931', 8);
  expect(taken).toEqual(['4006381333931']);
  expect(field.value).toBe('12');
});

test('typing is no scan, however long; nor is a burst of a few keys', () => {
  taken.length = 0;
  render(
    <ScanProvider>
      <Page />
    </ScanProvider>,
  );
  press('a long note', 90);
  press('abc', 8);
  expect(taken).toEqual([]);
  expect(screen.getByLabelText<HTMLInputElement>('Quantity').value).toBe('a long noteabc');
});

test('a scan that follows at once on an Enter leaves the field as it was, too', () => {
  render(
    <ScanProvider>
      <Page />
    </ScanProvider>,
  );
  taken.length = 0;
  const field = screen.getByLabelText<HTMLInputElement>('Quantity');
  press('8', 200);
  // Not a second between: the clock of the next begins where the last key was.
  clock -= 1000;
  press('CODE-1', 5);
  expect([taken, field.value]).toEqual([['CODE-1'], '8']);
});
