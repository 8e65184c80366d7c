import type * as contract from '@larder/contract/moves';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import type { FieldError } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { balance, item, lot, place, site, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { codesHere, codesOf } from '../../documents/codes';
import { lineFacts, quantityError, refuseErrors, refuseNotKept, type BinFacts, type ItemFacts } from '../../documents/lines';
import { ownBin, usualBin } from '../../documents/properBin';
import { post, type Posting } from '../../ledger/door';

/** Moves goods from bin to bin within a site, at once. What they cost stays; what leaves the bins that are sold from is no longer on hand. */
export async function moveGoods(act: Act, form: contract.MoveForm): Promise<Posting> {
  const { items, bins } = await lineFacts(
    act,
    form.lines.map(({ itemId }) => itemId),
    form.lines.flatMap(({ fromBinId, toBinId }) => [fromBinId, toBinId]),
  );
  refuseNotKept(form.lines, items);
  refuseErrors(form.lines.flatMap((line, index) => lineErrors(act, line, items.get(line.itemId), bins, index)));
  const lines = form.lines.map(({ itemId, lotId, quantity, fromBinId, toBinId }, index): MovementLine => ({
    itemId,
    lotId,
    quantity: decimal(quantity),
    fromPlaceId: fromBinId,
    toPlaceId: toBinId,
    valuation: { by: 'current' },
    serves: [],
    field: `lines.${index}.quantity`,
  }));
  return post(act, { kind: 'shelf-move', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: form.note });
}

function lineErrors(
  act: Act,
  line: contract.MoveForm['lines'][number],
  item: ItemFacts | undefined,
  bins: ReadonlyMap<number, BinFacts>,
  index: number,
): FieldError[] {
  const at = (field: string, sentence: string): FieldError[] => [{ field: `lines.${index}.${field}`, sentence }];
  const [from, to] = [bins.get(line.fromBinId), bins.get(line.toBinId)];
  if (!item) return at('itemId', 'There is no such item.');
  if (!from) return at('fromBinId', 'There is no such bin.');
  if (!to) return at('toBinId', 'There is no such bin.');
  act.allow('stock.move', from.siteId);
  if (from.siteId !== to.siteId) return at('toBinId', 'That bin is at another site: goods go there by a transfer.');
  if (line.fromBinId === line.toBinId) return at('toBinId', `${item.sku} lies in this bin already.`);
  if ((item.tracking !== 'none') !== (line.lotId !== null))
    return at('lotId', item.tracking === 'none' ? `${item.sku} is kept without lots or serials.` : `Say which ${item.tracking} of ${item.sku}.`);
  const fault = quantityError(item, line.quantity, `lines.${index}.quantity`);
  return fault ? [fault] : [];
}

const own = ownBin(item.id, site.id);
const usual = usualBin(item.id, site.id, place.id);

/** Goods that have no proper bin yet, site by site, and where each should go. */
export async function toPutAway(act: Act, siteId?: number): Promise<ResponseOf<typeof contract.toPutAway>> {
  const rows = await act.tx.db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      siteId: site.id,
      site: site.name,
      fromBinId: place.id,
      lotId: sql<number | null>`${lot.id}`,
      lot: sql<string | null>`${lot.code}`,
      lotKind: lot.kind,
      tag: lot.tag,
      useBy: lot.useBy,
      quantity: plain(balance.quantity),
      toBinId: sql<number | null>`coalesce(${own.id}, ${usual.id})`,
      to: sql<string | null>`coalesce(${own.code}, ${usual.code})`,
      itemCodes: codesOf(balance.itemId, { suppliers: false }),
    })
    .from(place)
    .innerJoin(site, eq(site.id, place.siteId))
    .innerJoin(balance, and(eq(balance.placeId, place.id), positive(balance.quantity)))
    .innerJoin(item, eq(item.id, balance.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(lot, eq(lot.id, balance.lotId))
    .leftJoinLateral(own, sql`true`)
    .leftJoinLateral(usual, sql`true`)
    .where(and(place.unplaced, atSites(place.siteId, act.sites('look', siteId))))
    .orderBy(sql`coalesce(${own.code}, ${usual.code}) nulls last, ${item.sku}, ${lot.code}`)
    .limit(500);
  return { rows: rows.map(({ lotKind, tag, itemCodes, ...row }) => ({ ...row, codes: codesHere({ lotKind, lot: row.lot, tag, itemCodes }) })) };
}
