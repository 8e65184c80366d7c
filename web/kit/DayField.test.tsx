/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { render, screen } from '@testing-library/react';
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
