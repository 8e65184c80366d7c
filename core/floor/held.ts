import { comparedBy, readScan, scannedQuantity } from '../codes/meaning';
import { decimal, quantityText } from '../decimal';

/** What a phone holds of a site, so that a scan is known without a connection. */
export interface HeldSite {
  siteId: number;
  site: string;
  /** When it was so, as ISO 8601. */
  at: string;
  items: HeldItem[];
  lots: HeldLot[];
  bins: HeldBin[];
  lying: Lying[];
}
export interface HeldItem {
  id: number;
  sku: string;
  name: string;
  unit: string;
  step: string;
  tracking: 'none' | 'lot' | 'serial';
  /** The number of its last movement. */
  seq: number;
  /** SKU and barcodes, each for so many base units. */
  codes: { code: string; factor: string }[];
  supplierCodes: string[];
}
export interface HeldLot {
  id: number;
  itemId: number;
  code: string;
  tag: string | null;
  useBy: string | null;
  pastUse: boolean;
}
export interface HeldBin {
  id: number;
  code: string;
  sellable: boolean;
}
/** So many base units of an item, and of a lot or serial where it is kept by those, in a bin. */
export interface Lying {
  itemId: number;
  lotId: number | null;
  binId: number;
  quantity: string;
}

/** Goods that were taken out of a bin, put into one, or both; null: not from a bin, or not to one. */
export interface MovedHere {
  itemId: number;
  lotId: number | null;
  quantity: string;
  fromBinId: number | null;
  toBinId: number | null;
}

const isSame = (one: Pick<Lying, 'itemId' | 'lotId'>, other: Pick<Lying, 'itemId' | 'lotId'>): boolean =>
  one.itemId === other.itemId && one.lotId === other.lotId;

/** What lies where after goods moved. Where nothing is left there is no row; less than nothing is never left. */
export function lyingAfter(lying: readonly Lying[], moves: readonly MovedHere[]): Lying[] {
  let now = [...lying];
  const add = (of: MovedHere, binId: number | null, sign: 1 | -1) => {
    if (binId === null) return;
    const was = now.find((row) => row.binId === binId && isSame(row, of));
    const quantity = decimal(was?.quantity ?? 0).plus(decimal(of.quantity).times(sign));
    now = now.filter((row) => row !== was);
    if (quantity.gt(0)) now.push({ itemId: of.itemId, lotId: of.lotId, binId, quantity: quantityText(quantity) });
  };
  for (const move of moves) {
    add(move, move.fromBinId, -1);
    add(move, move.toBinId, 1);
  }
  return now;
}

/** The first of some moves that takes more than lies there, with how many do; null where all can be. What one takes is not there for the next. */
export function beyondLying(lying: readonly Lying[], moves: readonly MovedHere[]): { index: number; left: string } | null {
  let now = [...lying];
  for (const [index, move] of moves.entries()) {
    const there = now.find((row) => row.binId === move.fromBinId && isSame(row, move))?.quantity ?? '0';
    if (move.fromBinId !== null && decimal(move.quantity).gt(there)) return { index, left: there };
    now = lyingAfter(now, [move]);
  }
  return null;
}

/** What lies in a bin, by the item's SKU; null where it is no bin of the site. */
export function contentsOf({ items, lots, bins, lying }: HeldSite, binId: number) {
  const bin = bins.find(({ id }) => id === binId);
  if (!bin) return null;
  const known = byId(items);
  const rows = lying.flatMap((row) => {
    const item = row.binId === binId ? known.get(row.itemId) : undefined;
    return item ? [{ ...rowOf(item, lots.find(({ id }) => id === row.lotId) ?? null), quantity: row.quantity }] : [];
  });
  return { bin, rows: rows.sort((a, b) => compare(a.sku, b.sku) || compare(a.useBy ?? '~', b.useBy ?? '~') || compare(a.lot ?? '', b.lot ?? '')) };
}

const compare = (one: string, other: string): number => (one < other ? -1 : one > other ? 1 : 0);
const byId = <T extends { id: number }>(rows: readonly T[]): Map<number, T> => new Map(rows.map((row) => [row.id, row]));

/** An item, or one lot of it; a serial unit goes by codes of its own. */
function rowOf({ id, sku, name, unit, step, tracking, seq, codes }: HeldItem, lot: HeldLot | null) {
  const own = [lot?.code, lot?.tag].flatMap((code) => (code ? [{ code, factor: '1' }] : []));
  return {
    itemId: id,
    sku,
    name,
    unit,
    step,
    tracking,
    seq,
    lotId: lot?.id ?? null,
    lot: lot?.code ?? null,
    useBy: lot?.useBy ?? null,
    pastUse: lot?.pastUse ?? false,
    codes: tracking === 'serial' ? own : codes,
  };
}

/** Where an item lies at the site, by bin and lot; null where there is no such item. */
export function whereItLies({ items, lots, bins, lying }: HeldSite, itemId: number) {
  const item = items.find(({ id }) => id === itemId);
  if (!item) return null;
  const rows = lying.flatMap((row) => {
    const bin = row.itemId === itemId ? bins.find(({ id }) => id === row.binId) : undefined;
    const lot = lots.find(({ id }) => id === row.lotId);
    return bin
      ? [{ binId: bin.id, bin: bin.code, sellable: bin.sellable, lotId: row.lotId, lot: lot?.code ?? null, useBy: lot?.useBy ?? null, quantity: row.quantity }]
      : [];
  });
  return { item, rows: rows.sort((a, b) => compare(a.bin, b.bin) || compare(a.lot ?? '', b.lot ?? '')) };
}

/** What a code means as goods: by barcode or SKU, else by serial or tag, else by a supplier's code; of a GS1 element string by its GTIN. */
export function meantBy({ items, lots }: Pick<HeldSite, 'items' | 'lots'>, code: string) {
  const scanned = readScan(code.trim());
  const { gs1, wanted } = scanned;
  const is = (other: string | null): boolean => other !== null && comparedBy(other) === wanted;
  const known = byId(items);
  const found = new Map<number, { item: HeldItem; factor: string; lotId: number | null }>();
  const add = (item: HeldItem | undefined, factor: string, lotId: number | null) => {
    if (item && !found.has(item.id)) found.set(item.id, { item, factor, lotId });
  };
  for (const item of items) {
    const own = item.codes.find((one) => is(one.code));
    if (own) add(item, own.factor, null);
  }
  for (const lot of lots) {
    const item = known.get(lot.itemId);
    if (item?.tracking === 'serial' && (is(lot.code) || is(lot.tag))) add(item, '1', lot.id);
  }
  for (const item of items) if (item.supplierCodes.some(is)) add(item, '1', null);
  const meant = [...found.values()].sort((a, b) => a.item.id - b.item.id);
  const [first] = meant;
  const many = first && gs1?.count !== undefined ? scannedQuantity([{ code: gs1.gtin ?? code, factor: first.factor }], scanned) : null;
  return {
    items: meant.map(({ item, factor, lotId }) => ({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      tracking: item.tracking,
      unit: item.unit,
      factor,
      lotId,
    })),
    lot: gs1?.lot ?? null,
    useBy: gs1?.useBy ?? gs1?.bestBefore ?? null,
    serial: gs1?.serial ?? null,
    quantity: many === null ? (gs1?.netKg ?? null) : many.toFixed(),
  };
}

export interface FoundHere {
  /** A lot or unit is found as its item, which tells where each lies. */
  kind: 'item' | 'bin';
  id: number;
  code: string;
  name: string;
  exact: boolean;
}
/** At most so many of a kind are found by words. */
const most = 8;

/** Whatever a code or words may mean at the site: items by any words in any order, lots, serials and tags by their codes, bins. What it is exactly comes first. */
export function foundHere(held: HeldSite, q: string): FoundHere[] {
  const words = q.toLowerCase().trim().split(/\s+/);
  const known = byId(held.items);
  const exact = new Set(meantBy(held, q).items.flatMap(({ itemId, lotId }) => (lotId === null ? [itemId] : [])));
  const hasWords = (text: string): boolean => words.every((word) => text.toLowerCase().includes(word));
  const items = held.items
    .filter((item) => exact.has(item.id) || hasWords(`${item.sku} ${item.name} ${item.codes.map(({ code }) => code).join(' ')}`))
    .map((item): FoundHere => ({ kind: 'item', id: item.id, code: item.sku, name: item.name, exact: exact.has(item.id) }));
  const wanted = comparedBy(q.trim());
  const lots = held.lots.flatMap((lot): FoundHere[] => {
    const item = known.get(lot.itemId);
    const isIt = comparedBy(lot.code) === wanted || (lot.tag !== null && comparedBy(lot.tag) === wanted);
    return item && isIt
      ? [{ kind: 'item', id: item.id, code: lot.tag ? `${lot.tag} ${lot.code}` : lot.code, name: `${item.sku} ${item.name}`, exact: true }]
      : [];
  });
  const bins = held.bins
    .filter(({ code }) => hasWords(code))
    .map(({ id, code }): FoundHere => ({ kind: 'bin', id, code, name: held.site, exact: code.toLowerCase() === q.trim().toLowerCase() }));
  const first = (rows: FoundHere[]) => rows.sort((a, b) => Number(b.exact) - Number(a.exact) || compare(a.code, b.code)).slice(0, most);
  return [...first(items), ...first(lots), ...first(bins)].sort((a, b) => Number(b.exact) - Number(a.exact));
}
