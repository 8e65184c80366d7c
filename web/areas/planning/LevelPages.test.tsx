/** @jest-environment <rootDir>/web/testing/browser.mjs */
import { expect, test } from '@jest/globals';
import { decideLevels, getLevel, lastLook, levelsInAll, listLevels, setLevels, startLook, stopLook, type LevelRow } from '@larder/contract/levels';
import { keptLayouts, keptViews } from '@larder/contract/lists';
import { rights, type Right } from '@larder/contract/rights';
import { listParties, reference } from '@larder/contract/setup';
import { render, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { around, refused, signedIn, standInServer } from '../../testing/server';
import { LevelPage } from './LevelPage';
import { LevelsPage } from './LevelsPage';

const suggested = (part: Partial<NonNullable<LevelRow['suggested']>> = {}): NonNullable<LevelRow['suggested']> => ({
  ...{ madeOn: '2026-11-30', pattern: 'steady', perDay: '4', wantedYear: '1460', point: '30', upTo: '90', daysOut: 2, averageStock: 50 },
  ...{ daysOutNow: 11, averageStockNow: 40, decision: null, reason: '', ...part },
});
const row = (itemId: number, sku: string, part: Partial<LevelRow> = {}): LevelRow => ({
  ...{
    itemId,
    siteId: 1,
    sku,
    name: `Goods ${sku}`,
    site: 'Barn store',
    unit: 'each',
    class: 'A',
    reorderPoint: '20',
    orderUpTo: '60',
    point: '20',
    upTo: '60',
  },
  ...{ coverDays: null, packSize: null, way: 'best', wayName: '', free: '12', unitCost: '2.5', suggested: suggested(), ...part },
});

function open(address = '/planning/levels', given: readonly Right[] = rights) {
  const server = standInServer();
  signedIn(server, given);
  server.on(reference, () => ({ sites: [{ id: 1, name: 'Barn store' }], categories: [] }));
  server.on(listParties, () => ({ rows: [{ id: 7, name: 'Hexley' }] }));
  server.on(keptViews, () => ({ rows: [] }));
  server.on(keptLayouts, () => ({ rows: [] }));
  server.on(lastLook, () => ({
    look: { id: 3, state: 'done', askedAt: '', askedBy: 'Wim', endedAt: '2026-12-01T05:00:00Z', done: 100, total: 100, fault: '' },
  }));
  server.on(listLevels, () => ({
    rows: [row(1, 'VASE'), row(2, 'BOWL', { reorderPoint: null, orderUpTo: null, point: null, upTo: null }), row(3, 'DISH', { suggested: null })],
    next: null,
  }));
  server.on(levelsInAll, () => ({ count: 3 }));
  server.on(decideLevels, () => ({ count: 2 }));
  server.on(setLevels, () => ({ count: 2 }));
  server.on(startLook, () => ({ look: { id: 4, state: 'waiting', askedAt: '', askedBy: 'Ines', endedAt: null, done: 0, total: null, fault: '' } }));
  server.on(stopLook, () => ({}));
  server.on(getLevel, () => ({ row: row(1, 'VASE'), events: [{ id: 1, name: 'Fair', startsOn: '2026-06-01', endsOn: '2026-06-02', counts: false }], past }));
  const { Around } = around(address);
  render(
    <Routes>
      <Route path="/planning/levels" element={<LevelsPage />} />
      <Route path="/planning/levels/:itemId/:siteId" element={<LevelPage />} />
    </Routes>,
    { wrapper: Around },
  );
  return { server, user: userEvent.setup() };
}

const replay = (daysOut: number, averageStock: number) => ({ daysOut, late: 0, averageStock, orders: 4, stock: [9, 7, 5, 9] });
const past = {
  ...{
    from: '2026-09-01',
    pattern: 'steady',
    withoutStock: 3,
    apart: 2,
    perDay: 4,
    spread: 2,
    service: 98,
    quantile: 2.05,
    safety: 10.1,
    economic: 60,
    pack: 6,
  },
  weeks: Array.from({ length: 12 }, (_, nth) => ({ from: `2026-09-${String(1 + nth).padStart(2, '0')}`, wanted: 28 })),
  ahead: [{ from: '2026-12-01', expected: 28, low: 20, high: 36 }],
  tried: [
    { method: 'average', weeks: 4, meanError: 7, rootSquared: 8, bias: 0, said: [28, 28, 28, 28] },
    { method: 'smoothed', weeks: 4, meanError: 14, rootSquared: 15, bias: -7, said: [35, 35, 35, 35] },
  ],
  lead: { days: 5, spread: 1.5, from: 'own', seen: 6, source: 'Hexley' },
  ...{ point: '30', upTo: '90', replayFrom: '2026-11-27', suggested: replay(2, 50), now: replay(11, 40) },
};

test('the list shows what is and what is suggested, and when the past was looked at', async () => {
  const { server, user } = open();
  expect(await screen.findByText('30, up to 90', { selector: 'tr:nth-of-type(1) *' })).toBeTruthy();
  expect(screen.getByText(/Looked at 100 items .* asked by Wim/)).toBeTruthy();
  expect(screen.getAllByText('none').length).toBeGreaterThan(0);
  await user.click(screen.getByRole('button', { name: 'Look at the past anew' }));
  await waitFor(() => expect(server.sent(startLook)).toEqual({}));
});

test('several are taken as suggested, refused with why, or set alike; what is left empty is not sent', async () => {
  const { server, user } = open();
  for (const sku of ['VASE', 'BOWL', 'DISH']) await user.click(await screen.findByLabelText(`Choose ${sku} at Barn store`));
  const chosen = within(screen.getByRole('complementary', { name: 'Chosen levels' }));
  // Nothing is suggested for the third.
  await user.click(chosen.getByRole('button', { name: 'Accept 2 suggestions' }));
  await waitFor(() =>
    expect(server.sent(decideLevels)).toEqual({
      decision: 'accept',
      rows: [
        { itemId: 1, siteId: 1 },
        { itemId: 2, siteId: 1 },
      ],
    }),
  );
  await user.click(await screen.findByLabelText('Choose VASE at Barn store'));
  const again = within(await screen.findByRole('complementary', { name: 'Chosen levels' }));
  await user.type(again.getByLabelText('Days of cover'), '14');
  await user.selectOptions(again.getByLabelText('More comes'), 'buy 7');
  await user.click(again.getByRole('button', { name: 'Set on 1 level' }));
  await waitFor(() => expect(server.sent(setLevels)).toEqual({ rows: [{ itemId: 1, siteId: 1 }], set: { coverDays: 14, way: 'buy 7' } }));
  await user.click(await screen.findByLabelText('Choose BOWL at Barn store'));
  await user.click(screen.getByRole('button', { name: 'Refuse…' }));
  await user.click(screen.getByRole('button', { name: 'Refuse' }));
  expect((await screen.findAllByText('This must be filled.')).length).toBeGreaterThan(0);
  await user.type(screen.getByLabelText('Why'), 'only a trial');
  await user.click(screen.getByRole('button', { name: 'Refuse' }));
  await waitFor(() => expect(server.sent(decideLevels)).toEqual({ decision: 'refuse', rows: [{ itemId: 2, siteId: 1 }], reason: 'only a trial' }));
});

test('all that are shown are taken at once, by the filter and not by what was read of it', async () => {
  const { server, user } = open('/planning/levels?category=4');
  await user.click(await screen.findByRole('button', { name: 'Accept all shown…' }));
  await user.click(await screen.findByRole('button', { name: 'Accept 3 suggestions' }));
  await waitFor(() => expect(server.sent(decideLevels)).toMatchObject({ decision: 'accept', rows: null, filter: { state: 'differs', categoryId: 4 } }));
});

test('whoever may only look chooses none and begins no look', async () => {
  open('/planning/levels', ['look']);
  await screen.findAllByText('VASE');
  expect(screen.queryByLabelText('Choose VASE at Barn store')).toBeNull();
  expect(screen.queryByRole('button', { name: 'Look at the past anew' })).toBeNull();
});

test('one tells how it was reckoned, how each way did, and what each level would have meant', async () => {
  open('/planning/levels/1/1');
  expect(await screen.findByText(/4 a day × 5 days until more is there \(20\) \+ 10 for safety, so that 98 of 100 orders are served/)).toBeTruthy();
  expect(screen.getByText(/took 5 days on average, give or take 1.5, 6 times within two years \(Hexley\)/)).toBeTruthy();
  expect(screen.getByText('3 days without stock and without an order were filled from the days around them.')).toBeTruthy();
  expect(screen.getByText('2 days of Fair do not count.')).toBeTruthy();
  const tried = screen.getByRole('table', { name: 'Ways of forecasting, tried on the past' });
  expect(
    within(tried)
      .getAllByRole('row')
      .map(({ textContent }) => textContent),
  ).toEqual(['WayError, last 4 weeksOn average', 'Moving average25 %', 'Smoothed50 %25 % too much']);
  const figures = screen.getByRole('table', { name: 'As it is, and as suggested' });
  expect(
    within(figures)
      .getAllByRole('row')
      .map(({ textContent }) => textContent),
  ).toContain('Money it binds100.00125.00');
  expect(screen.getByRole('img', { name: /28 are expected next week, between 20 and 36/ })).toBeTruthy();
});

test('it is taken as it is or changed; what is refused is said by its field', async () => {
  const { server, user } = open('/planning/levels/1/1');
  await user.click(await screen.findByRole('button', { name: /^Accept 30 and 90/ }));
  await waitFor(() => expect(server.sent(decideLevels)).toEqual({ decision: 'accept', rows: [{ itemId: 1, siteId: 1, point: '30', upTo: '90' }] }));
});

test('changed levels are sent as they are typed', async () => {
  const { server, user } = open('/planning/levels/1/1');
  server.on(decideLevels, () => refused(422, 'not-valid', 'Order up to more than the reorder point.', 'rows.0.upTo'));
  const upTo = await screen.findByLabelText('Order up to');
  await user.clear(upTo);
  await user.type(upTo, '25');
  await user.click(screen.getByRole('button', { name: /^Set 30 and 25/ }));
  expect((await screen.findAllByText('Order up to more than the reorder point.')).length).toBeGreaterThan(0);
  expect(upTo.getAttribute('aria-invalid')).toBe('true');
});
