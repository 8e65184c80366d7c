/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { listPrints, previewLabels, printLabels } from '@larder/contract/printing';
import { reference } from '@larder/contract/setup';
import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { around, refused, standInServer } from '../../testing/server';
import { LabelsPage } from './LabelsPage';
import { paperForm, sentAs, sentLabels } from './labelForm';

function open(address: string, preview: unknown = { svg: '<svg></svg>', labels: 2, pages: 1 }) {
  const server = standInServer();
  server.on(reference, () => ({ sites: [{ id: 3, name: 'Barn store' }], categories: [{ id: 5, name: 'Candles' }] }));
  server.on(listPrints, () => ({ rows: [] }));
  server.on(previewLabels, () => preview);
  server.on(printLabels, () => ({ id: 9, labels: 4, pages: 1 }));
  const { Around } = around(address);
  render(<LabelsPage />, { wrapper: Around });
  return { user: userEvent.setup(), server, field: (name: string) => screen.getByLabelText<HTMLInputElement>(name) };
}

test('labels that were chosen are seen, counted and printed as they were asked for', async () => {
  const { user, server, field } = open('/labels?items=7,8');
  expect(await screen.findByText('2 labels on 1 page; the first page is shown')).toBeTruthy();
  await user.clear(field('Copies of each'));
  await user.type(field('Copies of each'), '2');
  await user.selectOptions(field('Code'), 'QR');
  await user.click(screen.getByRole('button', { name: /^Print/ }));
  expect((await screen.findByText(/Printed 4 labels on 1 page/)).textContent).toContain('Open the PDF');
  expect(server.sent(printLabels)).toMatchObject({ items: [7, 8], bins: [], copies: 2, startAt: 1, symbology: 'qr', own: null });
});

test('what is no number is said at its field, and nothing is printed', async () => {
  const { user, server, field } = open('/labels?items=7');
  await screen.findByText(/2 labels on/);
  await user.clear(field('Start at label'));
  await user.type(field('Start at label'), 'third');
  await user.selectOptions(field('Sheet or roll'), 'Own size');
  // another sheet begins at its first label again
  expect(field('Start at label').value).toBe('1');
  await user.clear(field('Label width, mm'));
  await user.type(field('Label width, mm'), 'broad');
  await user.clear(field('Copies of each'));
  await user.click(screen.getByRole('button', { name: /^Print/ }));
  await waitFor(() => expect(field('Label width, mm').getAttribute('aria-invalid')).toBe('true'));
  expect(screen.getByText('Give millimetres, such as 63.5.')).toBeTruthy();
  expect(screen.getByText('Give a whole number.')).toBeTruthy();
  expect(server.sent(printLabels)).toBeUndefined();
});

test('what a preview refuses stands at its field before anything is sent', async () => {
  const { field } = open('/labels?items=7', refused(422, 'too-far', 'This sheet has 21 labels.', 'startAt'));
  await waitFor(() => expect(field('Start at label').getAttribute('aria-invalid')).toBe('true'));
  expect(screen.getByText('This sheet has 21 labels.')).toBeTruthy();
});

test('a code sheet takes the place of what was chosen, each code once', () => {
  const typed = { ...paperForm('site-3'), copies: '9' };
  expect(sentLabels(typed, { items: [1], bins: [2], lots: [] })).toMatchObject({ binsOfSite: 3, itemsOfCategory: null, items: [], bins: [], copies: 1 });
  expect(sentLabels({ ...typed, codeSheet: 'category-5' }, { items: [1], bins: [], lots: [] })).toMatchObject({
    binsOfSite: null,
    itemsOfCategory: 5,
    items: [],
  });
  const own = sentLabels({ ...typed, sheet: 'own', own: { ...typed.own, width: '63,5' } }, { items: [], bins: [], lots: [] }).own;
  expect(own?.label).toEqual({ width: 63.5, height: 30 });
  expect(['own.page.width', 'own.label.height', 'own.gapX', 'itemsOfCategory', 'startAt'].map(sentAs)).toEqual([
    'own.pageWidth',
    'own.height',
    'own.gapX',
    'codeSheet',
    'startAt',
  ]);
});
