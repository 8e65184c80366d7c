/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { render } from '@testing-library/react';
import { Due } from './Due';

const said = (day: string | null, late: boolean, none?: string) => {
  const { container } = render(<Due day={day} today="2026-11-24" late={late} {...(none === undefined ? {} : { none })} />);
  const shown = container.firstChild as HTMLElement;
  return [shown.textContent, shown.classList.contains('late') ? 'late' : ''];
};

test('what is open says how near or how late it is', () => {
  expect(said('2026-11-21', true)).toEqual(['3 days late', 'late']);
  expect(said('2026-11-25', false)).toEqual(['tomorrow', '']);
});

test('what is done with is never late: only its day is told', () => {
  expect(said('2026-11-20', false)).toEqual(['Fri 20 Nov', '']);
  expect(said('2025-07-01', false)).toEqual(['Tue 1 Jul 2025', '']);
});

test('where there is no day nothing is said, or what was meant for that', () => {
  expect(said(null, false)).toEqual(['', '']);
  expect(said(null, false, 'no date')).toEqual(['no date', '']);
});
