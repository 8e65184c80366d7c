import type { CostMethodName } from '@larder/core/costing/method';
import { decimal, type Decimal } from '@larder/core/decimal';
import {
  balanceKey,
  siteKey,
  type AccountPurpose,
  type Counted,
  type ItemState,
  type LedgerState,
  type LineCounters,
  type Movement,
  type Place,
  type SiteState,
} from '@larder/core/ledger/types';
import type { Tracking } from '@larder/core/stock/lots';
import type { Act } from '../act';
import { demandLine, demandObject, type DemandRow } from './demand';

interface StateRow {
  closed: string | null;
  accounts: Record<AccountPurpose, number>;
  reason: number | null;
  places: Place[] | null;
  items:
    | {
        id: number;
        sku: string;
        name: string;
        unit: string;
        kept: boolean;
        tracking: Tracking;
        method: CostMethodName;
        quantity: string;
        value: string;
        seq: number;
        lastQuantity: string | null;
        lastValue: string | null;
        price: string | null;
        inventory: number;
        cost: number;
      }[]
    | null;
  balances: { item: number; lot: number | null; place: number; quantity: string }[] | null;
  sites: { item: number; site: number; name: string; onHand: string; bench: string }[] | null;
  demand: DemandRow[] | null;
  layers: { item: number; seq: number; lot: number | null; quantity: string; value: string }[] | null;
  documents: { id: number; label: string; arrived: string; drawn: string; finished: string; open: string }[] | null;
  lots: { id: number; kind: Tracking; pastUse: boolean }[] | null;
}

const stateSql = `SELECT
  (SELECT closed_through::text FROM company) AS closed,
  (SELECT json_object_agg(purpose, id) FROM account WHERE purpose IS NOT NULL) AS accounts,
  (SELECT account_id FROM reason WHERE id = $3) AS reason,
  (SELECT json_agg(json_build_object('id', id, 'kind', kind, 'siteId', site_id, 'code', code, 'sellable', sellable, 'retired', retired_at IS NOT NULL)) FROM place WHERE id = ANY($2)) AS places,
  (SELECT json_agg(json_build_object('id', i.id, 'sku', i.sku, 'name', i.name, 'unit', u.code, 'kept', i.kind = 'stocked', 'tracking', i.tracking, 'method', i.cost_method, 'quantity', p.quantity::text, 'value', p.value::text, 'seq', p.last_seq,
      'lastQuantity', p.last_quantity::text, 'lastValue', p.last_value::text, 'price', i.purchase_price::text,
      'inventory', coalesce(i.inventory_account_id, c.inventory_account_id, (SELECT id FROM account WHERE purpose = 'inventory')), 'cost', coalesce(i.cost_account_id, c.cost_account_id, (SELECT id FROM account WHERE purpose = 'cost-of-sales'))))
    FROM item i JOIN pool p ON p.item_id = i.id JOIN unit u ON u.id = i.unit_id LEFT JOIN category c ON c.id = i.category_id WHERE i.id = ANY($1)) AS items,
  (SELECT json_agg(json_build_object('item', item_id, 'lot', lot_id, 'place', place_id, 'quantity', quantity::text)) FROM balance WHERE item_id = ANY($1) AND place_id = ANY($2)) AS balances,
  (SELECT json_agg(json_build_object('item', x.item, 'site', s.id, 'name', s.name, 'onHand', coalesce(f.on_hand, 0)::text, 'bench', coalesce(f.bench, 0)::text))
    FROM unnest($1::int[]) x(item) CROSS JOIN site s LEFT JOIN item_site f ON f.item_id = x.item AND f.site_id = s.id
    WHERE s.id IN (SELECT site_id FROM place WHERE id = ANY($2) UNION SELECT site_id FROM document_line WHERE id = ANY($4))) AS sites,
  (SELECT json_agg(${demandObject}) FROM document_line l
    WHERE l.id IN (SELECT id FROM document_line WHERE item_id = ANY($1) AND wanted > 0 UNION SELECT id FROM document_line WHERE id = ANY($4) AND active AND kept AND draws)
      AND l.site_id IN (SELECT site_id FROM place WHERE id = ANY($2) UNION SELECT site_id FROM document_line WHERE id = ANY($4))) AS demand,
  (SELECT json_agg(json_build_object('item', y.item_id, 'seq', y.seq, 'lot', l.lot_id, 'quantity', y.quantity::text, 'value', y.value::text) ORDER BY y.seq)
    FROM cost_layer y JOIN movement_line l ON l.item_id = y.item_id AND l.seq = y.seq WHERE y.item_id = ANY($1) AND y.quantity > 0) AS layers,
  (SELECT json_agg(json_build_object('id', id, 'label', number || ' line ' || position, 'arrived', arrived::text, 'drawn', drawn::text, 'finished', finished::text, 'open', (arrived_value - billed_value)::text)) FROM document_line
    WHERE id = ANY($4) OR ($6 AND item_id = ANY($1) AND wanted > 0)) AS documents,
  (SELECT json_agg(json_build_object('id', id, 'kind', kind, 'pastUse', past_use)) FROM lot WHERE id = ANY($5)) AS lots`;

/** What is read beyond what the movement names: places of steps that follow, and lines of a document that is only imagined. */
interface More {
  placeIds: readonly number[];
  imagined: ReadonlyMap<number, LineCounters>;
}

/** Everything a decision about the movement rests on, read in one statement. */
export async function readState(act: Act, movement: Movement, more: More = { placeIds: [], imagined: new Map() }): Promise<LedgerState> {
  const itemIds = [...new Set(movement.lines.map(({ itemId }) => itemId))];
  const placeIds = [...new Set([...movement.lines.flatMap((line) => [line.fromPlaceId, line.toPlaceId]), ...more.placeIds])];
  const [row] = await act.tx.rows<StateRow>(stateSql, [
    itemIds,
    placeIds,
    movement.reasonId,
    movement.lines.flatMap(({ serves }) => serves.map(({ lineId }) => lineId)),
    lotIds(movement),
    more.placeIds.length > 0,
  ]);
  if (!row) throw new Error('the business has not been founded');
  const lots = row.lots ?? [];
  return {
    today: act.today,
    closedThrough: row.closed,
    places: new Map((row.places ?? []).map((place) => [place.id, place])),
    items: new Map((row.items ?? []).map((item) => [item.id, itemState(item, row.layers ?? [])])),
    balances: new Map((row.balances ?? []).map((b) => [balanceKey(b.item, b.lot, b.place), decimal(b.quantity)])),
    lowestSince: movement.effectiveOn < act.today ? await lowestSince(act, movement.effectiveOn, itemIds, placeIds) : new Map(),
    sites: new Map((row.sites ?? []).map((site) => [siteKey(site.item, site.site), siteState(site, row.demand ?? [])])),
    documents: new Map([...more.imagined, ...(row.documents ?? []).map((line) => [line.id, countersOf(line)] as const)]),
    pastUse: new Set([...lots.filter(({ pastUse }) => pastUse).map(({ id }) => id), ...lotIds({ lines: movement.lines.filter((line) => line.pastUse) })]),
    lotKinds: new Map(lots.map(({ id, kind }) => [id, kind])),
    counted: movement.kind === 'undo' || movement.effectiveOn < act.today ? await lastCounts(act, itemIds, placeIds) : new Map(),
    accounts: row.accounts,
    reasonAccount: row.reason,
  };
}

const lotIds = ({ lines }: Pick<Movement, 'lines'>): number[] => lines.flatMap(({ lotId }) => (lotId === null ? [] : [lotId]));

const itemState = (row: NonNullable<StateRow['items']>[number], layers: NonNullable<StateRow['layers']>): ItemState => ({
  id: row.id,
  sku: row.sku,
  name: row.name,
  unit: row.unit,
  kept: row.kept,
  tracking: row.tracking,
  costMethod: row.method,
  pool: { quantity: decimal(row.quantity), value: decimal(row.value) },
  layers: layers
    .filter(({ item }) => item === row.id)
    .map(({ seq, lot, quantity, value }) => ({ seq, lotId: lot, quantity: decimal(quantity), value: decimal(value) })),
  lastSeq: row.seq,
  lastHeld: row.lastQuantity === null || row.lastValue === null ? null : { quantity: decimal(row.lastQuantity), value: decimal(row.lastValue) },
  purchasePrice: row.price === null ? null : decimal(row.price),
  inventoryAccount: row.inventory,
  costAccount: row.cost,
});

const siteState = (row: NonNullable<StateRow['sites']>[number], demand: NonNullable<StateRow['demand']>): SiteState => ({
  itemId: row.item,
  siteId: row.site,
  siteName: row.name,
  onHand: decimal(row.onHand),
  bench: decimal(row.bench),
  demand: demand.filter((line) => line.itemId === row.item && line.siteId === row.site).map(demandLine),
});

const countersOf = (row: NonNullable<StateRow['documents']>[number]): LineCounters => ({
  label: row.label,
  arrived: decimal(row.arrived),
  drawn: decimal(row.drawn),
  finished: decimal(row.finished),
  open: decimal(row.open),
});

const sinceSql = `SELECT item_id AS item, lot_id AS lot, place_id AS place, min(was)::text AS lowest FROM (
  SELECT b.item_id, b.lot_id, b.place_id, b.quantity - coalesce(sum(d.change) OVER (PARTITION BY b.item_id, b.lot_id, b.place_id ORDER BY d.day DESC), 0) AS was
  FROM balance b JOIN (
    SELECT item_id, lot_id, place_id, day, sum(quantity) AS change FROM (
      SELECT item_id, lot_id, to_place_id AS place_id, effective_on AS day, quantity FROM movement_line WHERE item_id = ANY($1) AND effective_on > $3
      UNION ALL SELECT item_id, lot_id, from_place_id, effective_on, -quantity FROM movement_line WHERE item_id = ANY($1) AND effective_on > $3) m
    GROUP BY 1, 2, 3, 4) d ON d.item_id = b.item_id AND d.place_id = b.place_id AND d.lot_id IS NOT DISTINCT FROM b.lot_id
  WHERE b.place_id = ANY($2)) past GROUP BY 1, 2, 3`;

/** The lowest each balance was at the end of any day from `day` up to yesterday: today's balance less what came after. */
async function lowestSince({ tx }: Act, day: string, itemIds: number[], placeIds: number[]): Promise<Map<string, Decimal>> {
  const rows = await tx.rows<{ item: number; lot: number | null; place: number; lowest: string }>(sinceSql, [itemIds, placeIds, day]);
  return new Map(rows.map((row) => [balanceKey(row.item, row.lot, row.place), decimal(row.lowest)]));
}

const countsSql = `SELECT DISTINCT ON (c.item_id, c.lot_id, c.place_id) c.item_id AS item, c.lot_id AS lot, c.place_id AS place, c.seq, c.counted_on AS day FROM bin_count c
  WHERE c.item_id = ANY($1) AND c.place_id = ANY($2) AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = c.movement_id) ORDER BY c.item_id, c.lot_id, c.place_id, c.seq DESC, c.id DESC`;

/** The last count of each bin that stands. */
async function lastCounts({ tx }: Act, itemIds: number[], placeIds: number[]): Promise<Map<string, Counted>> {
  const rows = await tx.rows<{ item: number; lot: number | null; place: number; seq: number; day: string }>(countsSql, [itemIds, placeIds]);
  return new Map(rows.map(({ item, lot, place, seq, day }) => [balanceKey(item, lot, place), { seq, day }]));
}
