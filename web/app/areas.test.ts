import { describe, expect, test } from '@jest/globals';
import { firstRoles, type Grant } from '@larder/contract/rights';
import { areas, isIn, parted } from './areas';

const named = (list: readonly { name: string }[]) => list.map(({ name }) => name);
const grantsOf = (role: string, siteId: number | null = null): Grant[] => [{ siteId, rights: firstRoles[role] ?? [] }];
const entry = (key: string) => areas.find((area) => area.key === key) as (typeof areas)[number];

describe('the bar of a phone', () => {
  test('has the five areas that somebody on the floor works in, in the order goods travel', () => {
    const { bar, more } = parted(areas, grantsOf('Floor', 1));
    expect(named(bar)).toEqual(['Today', 'Inbound', 'Stock', 'Outbound', 'Making']);
    expect(named(more)).toEqual(['Items', 'Planning', 'Books', 'Setup']);
  });
  test('puts where one works before where one only looks', () => {
    const { bar } = parted(areas, [{ siteId: null, rights: ['look', 'books.pay', 'setup.edit'] }]);
    expect(named(bar)).toEqual(['Today', 'Inbound', 'Stock', 'Books', 'Setup']);
  });
  test('loses no area, and shows none twice', () => {
    for (const role of Object.keys(firstRoles)) {
      const { bar, more } = parted(areas, grantsOf(role));
      expect(bar).toHaveLength(5);
      expect([...named(bar), ...named(more)].sort()).toEqual(named(areas).sort());
    }
  });
  test('of what a person does not see there is nothing, behind More neither', () => {
    const { bar, more } = parted(
      areas.filter(({ key }) => key !== 'books'),
      grantsOf('Sales desk'),
    );
    expect([...named(bar), ...named(more)]).not.toContain('Books');
    expect(named(bar)).toContain('Outbound');
  });
  test('a few areas are all in the bar', () => {
    expect(named(parted(areas.slice(0, 3), []).bar)).toEqual(['Today', 'Items', 'Inbound']);
    expect(parted(areas.slice(0, 3), []).more).toEqual([]);
  });
});

describe('an address is in an area', () => {
  test('at its beginning, below it, and where else it reaches', () => {
    expect(isIn(entry('items'), '/items')).toBe(true);
    expect(isIn(entry('items'), '/items/3')).toBe(true);
    expect(isIn(entry('items'), '/labels')).toBe(true);
    expect(isIn(entry('items'), '/itemsets')).toBe(false);
  });
  test('Today is its own page alone, though every address begins like it', () => {
    expect(areas.filter((area) => isIn(area, '/stock/trail')).map(({ key }) => key)).toEqual(['stock']);
    expect(areas.filter((area) => isIn(area, '/')).map(({ key }) => key)).toEqual(['today']);
  });
});
