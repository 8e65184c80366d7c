import { quantityFault, quantityFaultSentence } from '@larder/core/decimal';
import { lower, type Row } from '@larder/core/exchange/rows';
import { and, eq, exists, sql } from 'drizzle-orm';
import { openStock } from '../stock/service';
import type { Importer } from './importer';
import { binsMeant, itemsMeant, missing, missingBin, sitesMeant } from './references';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { balance, item, lot, movementLine, place, site, standingMovement, unit } from '../../db/schema/index';
import { placeInWords, plain } from '../../db/text';

/** Opening stock posts through the ledger; lots and serials come with it. Only what is new: the same file twice would bring it in twice. */
export const opening: Importer = {
  right: 'stock.correct',
  async prepare(act, rows) {
    const [items, sites, places] = [
      await itemsMeant(
        act,
        rows.map((row) => row.sku ?? ''),
      ),
      await sitesMeant(act),
      await binsMeant(act),
    ];
    const ids = [...items.values()];
    const facts = new Map((await itemFacts(act, ids)).map((row) => [row.id, row]));
    const known = new Map((await lotsThere(act, ids)).map((row) => [`${row.itemId}/${row.code}`, row]));
    const knownOf = (row: Row) => known.get(`${items.get(lower(row.sku)) ?? 0}/${lower(row.serial || row.lot)}`);
    const factsOf = (row: Row) => facts.get(items.get(lower(row.sku)) ?? 0);
    const serials = new Set<string>();
    return {
      onlyNew: true,
      current: (row) => (factsOf(row)?.opened ? {} : undefined),
      faults: (row) => {
        const found = factsOf(row);
        return [
          ...missing(items, row.sku, 'item'),
          ...missing(sites, row.site, 'site'),
          ...missingBin(places, sites.get(lower(row.site)), row.bin, row.site),
          ...(found?.stocked === false ? [`${row.sku ?? ''} is not kept in stock.`] : []),
          ...(found?.tracking === 'lot' && !row.lot ? [`${row.sku ?? ''} needs its lot.`] : []),
          ...(found?.tracking === 'serial' && !row.serial ? [`${row.sku ?? ''} needs its serial, one row for each.`] : []),
          ...(found?.tracking === 'serial' && row.quantity !== '1' ? ['A serial is one unit.'] : []),
          ...(found?.tracking === 'none' && (row.lot || row.serial) ? [`${row.sku ?? ''} is kept without lots or serials.`] : []),
          ...(knownOf(row)?.where ? [`${row.sku ?? ''} ${row.serial ?? ''} is known already: ${knownOf(row)?.where ?? ''}.`] : []),
          ...(row.useBy && knownOf(row)?.useBy && knownOf(row)?.useBy !== row.useBy
            ? [`Lot ${row.lot ?? ''} of ${row.sku ?? ''} has the use-by day ${knownOf(row)?.useBy ?? ''}.`]
            : []),
          ...(found ? quantitySaid(row.quantity ?? '', found.step) : []),
          ...(found?.tracking === 'serial' && row.serial ? twice(serials, `${lower(row.sku)}/${lower(row.serial)}`, `${row.sku ?? ''} ${row.serial}`) : []),
        ];
      },
    };
  },
  async write(act, checked) {
    const [items, sites, places] = [
      await itemsMeant(
        act,
        checked.map(({ row }) => row.sku ?? ''),
      ),
      await sitesMeant(act),
      await binsMeant(act),
    ];
    const unplaced = new Map(
      (await act.tx.db.select({ siteId: place.siteId, id: place.id }).from(place).where(eq(place.unplaced, true))).map(({ siteId, id }) => [siteId, id]),
    );
    const lines = checked.map(({ row }) => {
      const siteId = sites.get(lower(row.site)) as number;
      const code = row.serial || row.lot;
      return {
        itemId: items.get(lower(row.sku)) as number,
        binId: (row.bin ? places.get(`${siteId}/${lower(row.bin)}`)?.id : unplaced.get(siteId)) as number,
        quantity: row.quantity ?? '',
        unitValue: row.unitValue ?? '',
        lots: code ? [{ code, useBy: row.useBy || null, quantity: row.quantity ?? '' }] : [],
      };
    });
    await openStock(act, { lines, note: 'imported from a file', countedSince: false });
  },
};

/** How items are kept, and whether opening stock of them was brought in before. */
const itemFacts = async ({ tx: { db } }: Act, itemIds: readonly number[]) => {
  const opened = db
    .select({ one: sql`1` })
    .from(movementLine)
    .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
    .where(and(eq(movementLine.itemId, item.id), eq(standingMovement.kind, 'opening')));
  return db
    .select({
      id: item.id,
      stocked: sql<boolean>`${item.kind} = 'stocked'`,
      tracking: item.tracking,
      step: plain(unit.step),
      opened: sql<boolean>`${exists(opened)}`,
    })
    .from(item)
    .innerJoin(unit, eq(unit.id, item.unitId))
    .where(among(item.id, itemIds));
};

/** The lots and serials of items, and where a serial lies. */
const lotsThere = async ({ tx: { db } }: Act, itemIds: readonly number[]) =>
  db
    .select({
      itemId: lot.itemId,
      code: sql<string>`lower(${lot.code})`,
      useBy: lot.useBy,
      where: sql<string | null>`case when ${lot.kind} = 'serial' and ${balance.quantity} > 0 then ${placeInWords(place, site)} end`,
    })
    .from(lot)
    .leftJoin(place, eq(place.id, lot.placeId))
    .leftJoin(balance, and(eq(balance.itemId, lot.itemId), eq(balance.lotId, lot.id), eq(balance.placeId, place.id)))
    .leftJoin(site, eq(site.id, place.siteId))
    .where(among(lot.itemId, itemIds));

const quantitySaid = (quantity: string, step: string): string[] => {
  const fault = quantityFault(quantity, step);
  return fault ? [quantityFaultSentence(fault, step)] : [];
};

const twice = (seen: Set<string>, key: string, said: string): string[] => {
  if (seen.has(key)) return [`${said} stands on another line already.`];
  seen.add(key);
  return [];
};
