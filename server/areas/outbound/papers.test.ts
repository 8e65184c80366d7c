import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as outbound from '@larder/contract/outbound';
import * as papers from '@larder/contract/papers';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import { openBusiness, type Business } from '../../testing/business';
import { pickBody, sold, stocked } from '../../testing/trade';

/** Papers that go with the trolley and the parcel, read back as text. */
const able = existsSync('/usr/bin/pdftotext');
let business: Business;
let folder: string;
beforeAll(async () => {
  business = await openBusiness();
  folder = mkdtempSync(join(tmpdir(), 'papers-'));
  const { hasLogo: _hasLogo, words, ...head } = await business.owner.get(papers.getPapers);
  const own: Record<string, { opening: string; closing: string }> = {
    'pick list': { opening: 'Wash your hands first.', closing: 'Leave the trolley at bench two.' },
    'parcel label': { opening: 'Glass: this side up.', closing: 'If it cannot be delivered, back to us.' },
  };
  await business.owner.get(papers.keepPapers, { body: { ...head, words: words.map((one) => ({ ...one, ...own[one.kind] })) } });
});
afterAll(async () => {
  rmSync(folder, { recursive: true });
  await business.close();
});

async function textOf(path: string): Promise<string> {
  const answer = await fetch(`${business.base}${path}`, { headers: { Cookie: business.owner.cookie } });
  expect([answer.status, answer.headers.get('Content-Type')]).toEqual([200, 'application/pdf']);
  writeFileSync(join(folder, 'paper.pdf'), Buffer.from(await answer.arrayBuffer()));
  return able ? execFileSync('pdftotext', ['-layout', join(folder, 'paper.pdf'), '-'], { encoding: 'utf8' }) : '';
}
/** Lines of a text that hold something, with single blanks. */
const said = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.replaceAll(/\s+/g, ' ').trim())
    .filter(Boolean);

const whenAble = able ? test : test.skip;

whenAble('a pick list says bin by bin what to take, what is in no bin, and the business’s own words', async () => {
  const itemId = await business.item('PAPER-1', { name: 'Honey jar' });
  await stocked(business, itemId, '3');
  const order = await sold(business, itemId, '5');
  const lines = said(await textOf(`/api/outbound/orders/${order.id}/pick-list/paper`));
  expect(lines).toEqual(expect.arrayContaining([expect.stringMatching(/^Pick list SO-\d+/), 'Wash your hands first.', 'Leave the trolley at bench two.']));
  expect(lines.find((line) => line.startsWith('A-1'))).toBe('A-1 PAPER-1 Honey jar 1 3 ______');
  expect(lines).toContain('In no bin that may be picked from: 2 PAPER-1.');
  await business.owner.get(outbound.endSale, { params: { id: order.id }, body: { decision: 'cancel', version: order.version } });
});

whenAble('that of a round says into which slot; once it is ended nothing is left on it', async () => {
  const itemId = await business.item('PAPER-2', { name: 'Lid' });
  await stocked(business, itemId, '9');
  const [first, second] = [await sold(business, itemId, '4', '2026-03-11'), await sold(business, itemId, '5', '2026-03-12')];
  const { id } = await business.owner.get(picking.startRound, { body: { siteId: business.siteId, orderIds: [first.id, second.id] } });
  const lines = said(await textOf(`/api/outbound/rounds/${id}/paper`));
  expect(lines.filter((line) => line.startsWith('A-1'))).toEqual([`A-1 PAPER-2 Lid 1 ${first.number} 4 ______`, `A-1 PAPER-2 Lid 2 ${second.number} 5 ______`]);
  await business.owner.get(picking.endRound, { params: { id }, body: {} });
  expect(said(await textOf(`/api/outbound/rounds/${id}/paper`))).toContain('Nothing of it can be picked now.');
});

whenAble('a parcel’s label bears the business’s words above and below', async () => {
  const itemId = await business.item('PAPER-3', { name: 'Jar', weightKg: '0.5' });
  await stocked(business, itemId, '2');
  const order = await sold(business, itemId, '2');
  await business.owner.get(picking.pick, { body: pickBody(business, order, '2') });
  await business.owner.get(shipping.packOrder, {
    params: { id: order.id },
    body: { siteId: business.siteId, seen: [], parcels: [{ contents: [{ lineId: order.lineId, quantity: '2' }] }] },
  });
  const packing = await business.owner.get(shipping.getPacking, { params: { id: order.id } });
  const parcelIds = packing.parcels.map(({ id }) => id);
  const { id } = await business.owner.get(shipping.printParcels, { params: { id: order.id }, body: { parcelIds, paper: 'label' } });
  const lines = said(await textOf(`/api/printing/jobs/${id}/pdf`));
  expect(lines).toEqual(expect.arrayContaining(['Glass: this side up.', 'If it cannot be delivered, back to us.', 'Parcel 1 of 1 1 kg']));
});
