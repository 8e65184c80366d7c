import { ItemForm } from '@larder/contract/catalog';
import { BomForm } from '@larder/contract/making';
import { addDays } from '@larder/core/day';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import { eq } from 'drizzle-orm';
import type { Act } from '../act';
import { createAccount } from '../areas/books/service';
import { createItem } from '../areas/catalog/service';
import { createBom } from '../areas/making/boms';
import { category, item, site, taxCode, unit } from '../db/schema/index';
import { idOf } from './idOf';
import { sell } from './sell';

/** What Larkmoor makes in its workshop. */
const things = [
  { sku: 'FR-DN-WX', name: 'Deep frame, wired and waxed', category: 'Wax and frames', price: '4.20' },
  { sku: 'WX-MINI', name: 'Beeswax sheet, mating size', category: 'Wax and frames', price: '0.80' },
  { sku: 'WX-STRIP', name: 'Beeswax starter strip', category: 'Wax and frames', price: '0.35' },
  { sku: 'BROOD-NAT', name: 'National brood box with ten waxed frames', category: 'Hive parts', price: '69.00' },
  { sku: 'HIVE-NAT', name: 'National hive, ready for bees', category: 'Hive parts', price: '199.00' },
  { sku: 'KIT-FIRST', name: 'Beginner’s kit: hive, suit, smoker, book', category: 'Hive parts', price: '329.00' },
  // Put together when it is ordered.
  { sku: 'KIT-LOOK', name: 'Inspection kit: smoker, fuel, tool, gloves', category: 'Tools', price: '58.00', facts: { madeToOrder: true } },
  { sku: 'CND-SKEP', name: 'Beeswax candle, skep', category: 'Candles', price: '5.90' },
  // Bees eat it: it is made by lots, does not keep for ever, and is looked over before it is sold.
  { sku: 'PAT-WIN', name: 'Winter patty with pollen, 500 g', category: 'Feed', price: '3.90', facts: { tracking: 'lot', shelfLifeDays: 180, inspected: true } },
] as const;

interface Recipe {
  makes?: string;
  parts: readonly (readonly [
    sku: string,
    quantity: string,
    more?: { waste?: string; note?: string; instead?: readonly (readonly [sku: string, quantity: string])[] },
  ])[];
  hours?: readonly [name: string, hours: string, rate: string];
  others?: readonly (readonly [sku: string, quantity: string, share: string])[];
  share?: string;
  steps?: string;
}

const recipes: Readonly<Record<string, Recipe>> = {
  'FR-DN-WX': {
    makes: '10',
    parts: [
      ['FR-DN1', '1'],
      ['WX-DN', '10', { waste: '3', note: 'warm it first' }],
      ['FN-20', '0.2'],
      ['FW-250', '0.1'],
    ],
    hours: ['Workshop', '0.75', '14.50'],
    steps: 'Nail the frames.\nWire them, and tighten.\nLay in the wax while it is warm.',
  },
  'WX-MINI': { makes: '2', parts: [['WX-DN', '1']], others: [['WX-STRIP', '3', '40']], share: '60', steps: 'Cut across, then the rest into three strips.' },
  'BROOD-NAT': {
    parts: [
      ['HB-NAT-10', '1'],
      ['FR-DN-WX', '10'],
      ['SCR-40', '0.08'],
    ],
    hours: ['Workshop', '0.25', '14.50'],
  },
  'HIVE-NAT': {
    parts: [
      ['FL-NAT-10', '1'],
      ['BROOD-NAT', '1'],
      ['QX-NAT-10', '1'],
      ['SB-NAT-10', '1'],
      ['FR-SN4', '1', { note: 'flat, in the shallow box' }],
      ['CB-NAT-10', '1'],
      ['RF-NAT-10', '1'],
      ['ENT-RED', '1', { instead: [['MG-WIRE', '1']] }],
      ['STRAP-R', '1'],
      ['SCR-40', '0.24', { waste: '5' }],
    ],
    hours: ['Joiner', '0.5', '18.00'],
    steps: 'Screw the boxes and the floor.\nSet the brood box on the floor, then excluder, shallow box, crown board and roof.\nStrap it up.',
  },
  'KIT-FIRST': {
    parts: [
      ['HIVE-NAT', '1'],
      ['SU-M', '1', { instead: [['SU-L', '1']] }],
      ['GL-M', '1'],
      ['SM-STD', '1'],
      ['SM-FUEL', '1'],
      ['HT-J', '1', { instead: [['HT-STD', '1']] }],
      ['FEED-RND', '1'],
      ['BOOK-1ST', '1'],
    ],
  },
  'KIT-LOOK': {
    parts: [
      ['SM-STD', '1'],
      ['SM-FUEL', '2'],
      ['HT-J', '1'],
      ['GL-M', '1'],
    ],
    steps: 'Check the bellows, and pack all of it into the bag.',
  },
  'CND-SKEP': {
    makes: '12',
    parts: [
      ['WX-BLK', '1', { waste: '4' }],
      ['CND-WCK', '0.4'],
    ],
    hours: ['Candle bench', '0.6', '14.50'],
    steps: 'Melt slowly, never above 75 degrees.\nSet the wicks, pour, and leave it overnight.',
  },
  'PAT-WIN': {
    makes: '10',
    parts: [
      ['FD-25', '2'],
      ['POL-1', '1'],
    ],
    hours: ['Workshop', '0.4', '14.50'],
    steps: 'Warm the fondant, and knead the pollen in.\nPress it flat, and pack each in its film.',
  },
};

/** Sets up what is made, and says what each is made of; of the hive there is a version that begins in a month. */
export async function setUpMaking(act: Act): Promise<void> {
  const labour = await createAccount(act, { code: '5400', name: 'Labour put into goods', type: 'expense' });
  const unitId = await idOf(act, unit, eq(unit.code, 'each'));
  const taxCodeId = await idOf(act, taxCode, eq(taxCode.code, 'S'));
  const siteId = await idOf(act, site, eq(site.code, 'BARN'));
  // So many waxed frames should always be there.
  const levels: Record<string, object> = { 'FR-DN-WX': { policies: [{ siteId, reorderPoint: '60', orderUpTo: '100' }] } };
  for (const { sku, name, category: of, price, ...more } of things) {
    const categoryId = await idOf(act, category, eq(category.name, of));
    await createItem(
      act,
      ItemForm.parse({ sku, name, unitId, taxCodeId, categoryId, salesPrice: price, ...('facts' in more ? more.facts : {}), ...levels[sku] }),
    );
  }
  const form = async (sku: string, recipe: Recipe, rest: object = {}) => {
    const named = async ([other, quantity]: readonly [string, string, ...unknown[]]) => ({ itemId: await idOf(act, item, eq(item.sku, other)), quantity });
    const parts = [];
    for (const [part, quantity, { waste = '0', note = '', instead = [] } = {}] of recipe.parts)
      parts.push({ ...(await named([part, quantity])), waste, note, alternatives: await Promise.all(instead.map(named)) });
    const byProducts = [];
    for (const [other, quantity, share] of recipe.others ?? []) byProducts.push({ ...(await named([other, quantity])), share });
    const [hoursOf, hours, rate] = recipe.hours ?? [];
    return BomForm.parse({
      itemId: await idOf(act, item, eq(item.sku, sku)),
      startsOn: act.today,
      makes: recipe.makes ?? '1',
      share: recipe.share ?? null,
      parts,
      costs: hoursOf === undefined ? [] : [{ name: hoursOf, per: 'hour', quantity: hours, rate, accountId: labour.id }],
      byProducts,
      steps: recipe.steps ?? '',
      ...rest,
    });
  };
  for (const [sku, recipe] of Object.entries(recipes)) await createBom(act, await form(sku, recipe));
}

/** This morning: from next month on the hive has two straps, and somebody has ordered kits that are put together now. */
export async function makingThisMorning(act: Act, { sites, customers }: { sites: readonly { id: number }[]; customers: readonly number[] }): Promise<void> {
  const kit = await idOf(act, item, eq(item.sku, 'KIT-LOOK'));
  const [siteId, customerId] = [sites[0]?.id as number, customers[1] as number];
  await sell(act, { customerId, siteId, shipBy: proposedShipBy(act.today, 2), lines: [{ itemId: kit, quantity: '2', price: '58.00' }] }, true);
  const recipe = recipes['HIVE-NAT'] as Recipe;
  const parts = recipe.parts.map((part) => (part[0] === 'STRAP-R' ? (['STRAP-R', '2'] as const) : part));
  const of = async (sku: string) => idOf(act, item, eq(item.sku, sku));
  await createBom(
    act,
    BomForm.parse({
      itemId: await of('HIVE-NAT'),
      name: 'two straps',
      startsOn: addDays(act.today, 30),
      parts: await Promise.all(parts.map(async ([sku, quantity, { waste = '0', note = '' } = {}]) => ({ itemId: await of(sku), quantity, waste, note }))),
      steps: recipe.steps,
    }),
  );
}
