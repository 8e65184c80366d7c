import { quantityFault, quantityFaultSentence } from '@larder/core/decimal';
import { lower, type Row } from '@larder/core/formats/rows';
import { openStock } from '../stock/service';
import type { Importer } from './importer';
import { binsMeant, itemsMeant, missing, missingBin, sitesMeant } from './references';

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
    const facts = new Map(
      (
        await act.tx.rows<{ id: number; kept: boolean; tracking: string; step: string; opened: boolean }>(
          `SELECT i.id, i.kind = 'stocked' AS kept, i.tracking, trim_scale(u.step)::text AS step, EXISTS (SELECT 1 FROM movement_line l JOIN movement m ON m.id = l.movement_id WHERE l.item_id = i.id AND m.kind = 'opening' AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id)) AS opened FROM item i JOIN unit u ON u.id = i.unit_id WHERE i.id = ANY($1)`,
          [[...items.values()]],
        )
      ).map((row) => [row.id, row]),
    );
    const known = new Map(
      (
        await act.tx.rows<{ itemId: number; code: string; useBy: string | null; where: string | null }>(
          `SELECT l.item_id AS "itemId", lower(l.code) AS code, l.use_by::text AS "useBy", CASE WHEN l.kind = 'serial' AND b.quantity > 0 THEN concat_ws(' ', s.name, p.code) END AS where
           FROM lot l LEFT JOIN place p ON p.id = l.place_id LEFT JOIN balance b ON b.item_id = l.item_id AND b.lot_id = l.id AND b.place_id = p.id LEFT JOIN site s ON s.id = p.site_id WHERE l.item_id = ANY($1)`,
          [[...items.values()]],
        )
      ).map((row) => [`${row.itemId}/${row.code}`, row]),
    );
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
          ...(found?.kept === false ? [`${row.sku ?? ''} is not kept in stock.`] : []),
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
      (await act.tx.rows<{ siteId: number; id: number }>('SELECT site_id AS "siteId", id FROM place WHERE unplaced')).map(({ siteId, id }) => [siteId, id]),
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
    await openStock(act, { lines, note: 'brought in from a file', countedSince: false });
  },
};

const quantitySaid = (quantity: string, step: string): string[] => {
  const fault = quantityFault(quantity, step);
  return fault ? [quantityFaultSentence(fault, step)] : [];
};

const twice = (seen: Set<string>, key: string, said: string): string[] => {
  if (seen.has(key)) return [`${said} stands on another line already.`];
  seen.add(key);
  return [];
};
