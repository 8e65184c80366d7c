import { decimal, quantityText, sum } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { refuseField, type FieldError } from '@larder/core/refusal';
import { beyondLots, type Lots } from '@larder/core/stock/transfers';
import type { LotEntry } from '@larder/contract/values';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { item, lot, movementLine, place, placeChange, transfer, transferLine } from '../../db/schema/index';
import { plain } from '../../db/text';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';

/** What comes in at the desk of a transfer, where it stands in the request. */
export interface Arriving {
  /** Counted from 0. */
  at: number;
  lineId: number;
  quantity: string;
  binId: number | null;
  lots: readonly LotEntry[];
}

/** Lines of transfers, with where they are in transit to. */
const readLines = ({ tx: { db } }: Act, lineIds: readonly number[]) =>
  db
    .select({
      id: transferLine.id,
      number: transfer.number,
      itemId: item.id,
      sku: item.sku,
      tracking: item.tracking,
      siteId: transferLine.toSiteId,
      transitId: place.id,
      inTransit: plain(transferLine.inTransit),
    })
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .innerJoin(item, eq(item.id, transferLine.itemId))
    .innerJoin(place, and(eq(place.kind, 'transit'), eq(place.siteId, transferLine.toSiteId)))
    .where(among(transferLine.id, lineIds));

type Line = Awaited<ReturnType<typeof readLines>>[number];

/** What of lines is in transit, lot by lot. */
const underWay = ({ tx: { db } }: Act, lineIds: readonly number[]) =>
  db
    .select({
      lineId: sql<number>`${movementLine.demandLineId}`,
      lotId: placeChange.lotId,
      code: lot.code,
      quantity: sql<string>`trim_scale(sum(${placeChange.quantity}))::text`,
    })
    .from(movementLine)
    .innerJoin(placeChange, eq(placeChange.lineId, movementLine.id))
    .innerJoin(place, and(eq(place.id, placeChange.placeId), eq(place.kind, 'transit')))
    .leftJoin(lot, eq(lot.id, placeChange.lotId))
    .where(among(movementLine.demandLineId, lineIds))
    .groupBy(movementLine.demandLineId, placeChange.lotId, lot.code)
    .having(sql`sum(${placeChange.quantity}) > 0`);

/** Movement lines of goods that arrive from another site, one for each lot or serial. Their transfers are locked; refuses, by the field, what is not in transit there. */
export async function arrivingLines(act: Act, arriving: readonly Arriving[]): Promise<MovementLine[]> {
  const lineIds = arriving.map(({ lineId }) => lineId);
  const known = new Map((await readLines(act, lineIds)).map((line) => [line.id, line]));
  const { items, bins } = await lineFacts(
    act,
    [...known.values()].map(({ itemId }) => itemId),
    arriving.flatMap(({ binId }) => binId ?? []),
  );
  refuseErrors(
    arriving.flatMap(({ at, lineId, quantity, binId }): FieldError[] => {
      const line = known.get(lineId) as Line;
      act.allow('inbound.receive', line.siteId);
      if (binId === null) return [{ field: `lines.${at}.binId`, sentence: 'Choose the bin it goes to.' }];
      if (bins.get(binId)?.siteId !== line.siteId) return [{ field: `lines.${at}.binId`, sentence: `That bin is not at the site ${line.number} goes to.` }];
      const facts = items.get(line.itemId);
      const fault = facts && quantityError(facts, quantity, `lines.${at}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  const lying = await underWay(act, lineIds);
  const parts = arriving.flatMap((one) => partsOf(one, known.get(one.lineId) as Line, lying));
  const beyond = beyondLots(
    lying.map(({ quantity, ...each }) => ({ ...each, quantity: decimal(quantity) })),
    parts,
  );
  if (beyond) {
    const part = parts[beyond.index] as Part;
    const { number, sku } = known.get(part.lineId) as Line;
    throw refuseField(409, 'not-in-transit', part.field, `Only ${quantityText(beyond.left)} of this ${sku} are in transit on ${number}.`);
  }
  return parts.map(({ lineId, lotId, quantity, binId, at, field }): MovementLine => {
    const line = known.get(lineId) as Line;
    return {
      itemId: line.itemId,
      lotId,
      quantity,
      fromPlaceId: line.transitId,
      toPlaceId: binId,
      valuation: { by: 'current' },
      serves: [{ kind: 'transfer', lineId }],
      of: at,
      field,
    };
  });
}

interface Part extends Lots {
  at: number;
  binId: number;
  field: string;
}

/** What arrives of a line, lot by lot: each lot must be one that is in transit for it. */
function partsOf(
  { at, lineId, quantity, binId, lots }: Arriving,
  { sku, number, tracking }: { sku: string; number: string; tracking: 'none' | 'lot' | 'serial' },
  lying: readonly { lineId: number; lotId: number | null; code: string | null }[],
): Part[] {
  const bin = binId as number;
  if (tracking === 'none') return [{ at, lineId, lotId: null, quantity: decimal(quantity), binId: bin, field: `lines.${at}.quantity` }];
  const parts = lots.map((entry, index): Part => {
    const field = `lines.${at}.lots.${index}.code`;
    const there = lying.find((one) => one.lineId === lineId && one.code?.toLowerCase() === entry.code.toLowerCase());
    if (!there) throw refuseField(409, 'not-in-transit', field, `${sku} ${entry.code} is not in transit on ${number}.`);
    return { at, lineId, lotId: there.lotId, quantity: decimal(entry.quantity), binId: bin, field };
  });
  const named = sum(parts.map((part) => part.quantity));
  if (!named.eq(quantity))
    throw refuseField(
      422,
      'lots-missing',
      `lines.${at}.lots`,
      `Say which ${tracking === 'serial' ? 'serials' : 'lots'} of ${sku} came: ${quantityText(named)} of ${quantity} are named.`,
    );
  return parts;
}
