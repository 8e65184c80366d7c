/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { DayField } from './DayField';

const today = '2026-11-24';
const days: (string | null)[] = [];

function Page() {
  const [day, setDay] = useState<string | null>('2026-12-01');
  return (
    <>
      <DayField
        label="Ship by"
        value={day}
        today={today}
        onChange={(chosen) => {
          days.push(chosen);
          setDay(chosen);
        }}
      />
      <button type="button">On</button>
    </>
  );
}
const field = () => screen.getByLabelText<HTMLInputElement>('Ship by');

test('a day typed the short way is understood on leaving the field, and shown in full', async () => {
  const user = userEvent.setup();
  render(<Page />);
  await user.clear(field());
  await user.type(field(), '+7');
  expect(days).toEqual([]);
  await user.tab();
  expect(days).toEqual(['2026-12-01']);
  await user.clear(field());
  await user.type(field(), '4/12');
  await user.tab();
  expect(days.at(-1)).toBe('2026-12-04');
  expect(field().value).toContain('4 Dec');
});

test('what is no day is said by the field, kept as typed, and not taken', async () => {
  const user = userEvent.setup();
  render(<Page />);
  days.length = 0;
  await user.clear(field());
  await user.type(field(), '31/2');
  await user.tab();
  expect(days).toEqual([]);
  expect(field().value).toBe('31/2');
  expect(field().getAttribute('aria-invalid')).toBe('true');
  expect(document.getElementById(field().getAttribute('aria-describedby') ?? '')?.textContent).toContain('Type a day such as 24/11');
  await user.clear(field());
  await user.tab();
  expect(days).toEqual([null]);
  expect(screen.queryByRole('alert')).toBeNull();
});

test('a day is chosen from a calendar that opens with Alt and arrow down; the focus comes back to the field', async () => {
  const user = userEvent.setup();
  render(<Page />);
  field().focus();
  await user.keyboard('{Alt>}{ArrowDown}{/Alt}');
  const chosen = await screen.findByRole('gridcell', { selected: true }, { timeout: 5000 });
  expect(chosen.textContent).toBe('1');
  await user.click(screen.getByRole('gridcell', { name: '18' }));
  expect(days.at(-1)).toBe('2026-12-18');
  await waitFor(() => expect(screen.queryByRole('gridcell')).toBeNull());
  expect(document.activeElement).toBe(field());
  expect(field().value).toBe('Fri 18 Dec');
});

test('the calendar opens at what is typed, and Esc leaves the day as it was', async () => {
  const user = userEvent.setup();
  render(<Page />);
  const before = days.length;
  await user.clear(field());
  await user.type(field(), '20/1');
  await user.click(screen.getByRole('button', { name: 'Calendar' }));
  expect((await screen.findByRole('gridcell', { selected: true }, { timeout: 5000 })).textContent).toBe('20');
  expect(screen.getByText('January 2027')).toBeTruthy();
  await user.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByRole('gridcell')).toBeNull());
  expect(days.length - before).toBeLessThan(2);
});
