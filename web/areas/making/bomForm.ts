import type { Bom } from '@larder/contract/making';
import type { ItemRow } from '@larder/contract/catalog';

/** An item that a bill names. */
export interface NamedItem {
  itemId: number;
  sku: string;
  name: string;
  unit: string;
}
export interface AlternativeDraft extends NamedItem {
  quantity: string;
}
/** A part while it is written. */
export interface PartDraft extends NamedItem {
  units: { unitId: number; unit: string; factor: string }[];
  /** Null: its base unit. */
  unitId: number | null;
  quantity: string;
  /** Per cent; empty: none. */
  waste: string;
  note: string;
  alternatives: AlternativeDraft[];
}
export interface CostDraft {
  name: string;
  per: 'hour' | 'piece';
  quantity: string;
  rate: string;
  accountId: number | null;
}
export interface ByProductDraft extends NamedItem {
  quantity: string;
  /** Empty: by value. */
  share: string;
}
export interface BomDraft {
  item: NamedItem | null;
  name: string;
  startsOn: string;
  makes: string;
  share: string;
  parts: PartDraft[];
  costs: CostDraft[];
  byProducts: ByProductDraft[];
  steps: string;
  note: string;
}

const orEmpty = (text: string): string => (text === '0' ? '' : text);
export const namedItem = ({ id, sku, name, unit }: Pick<ItemRow, 'id' | 'sku' | 'name' | 'unit'>): NamedItem => ({ itemId: id, sku, name, unit });

/** What a bill begins with: as it was written, as a copy for another version from today, or empty. */
export function bomDraft(bom: Bom | null, today: string, item: NamedItem | null, isCopy = false): BomDraft {
  if (!bom) return { item, name: '', startsOn: today, makes: '1', share: '', parts: [], costs: [], byProducts: [], steps: '', note: '' };
  const { itemId, sku, name, unit, label, startsOn, makes, share, parts, costs, byProducts, steps, note } = bom;
  return {
    item: { itemId, sku, name, unit },
    name: isCopy ? '' : label,
    startsOn: isCopy ? today : startsOn,
    makes,
    share: share ?? '',
    parts: parts.map(({ writtenIn: _writtenIn, ...part }) => ({ ...part, waste: orEmpty(part.waste) })),
    costs,
    byProducts: byProducts.map((one) => ({ ...one, share: one.share ?? '' })),
    steps,
    note,
  };
}

/** A new part: so many for what the bill makes. */
export const newPart = (item: ItemRow, quantity: string, unitId: number | null): PartDraft => ({
  ...namedItem(item),
  units: item.units.map((one) => ({ unitId: one.unitId, unit: one.unit, factor: one.factor })),
  unitId,
  quantity,
  waste: '',
  note: '',
  alternatives: [],
});
export const newCost = (accountId: number | null): CostDraft => ({ name: '', per: 'hour', quantity: '', rate: '', accountId });

/** Tells the rows of a bill apart. */
export const bomRowKeys = {
  parts: ({ itemId }: PartDraft): string => String(itemId),
  costs: ({ name }: CostDraft): string => name.trim().toLowerCase(),
  byProducts: ({ itemId }: ByProductDraft): string => String(itemId),
};

/** What is sent of a bill. */
export const bomBody = ({ item, share, parts, costs, byProducts, ...head }: BomDraft) => ({
  ...head,
  itemId: item?.itemId ?? null,
  makes: head.makes.trim(),
  share: share.trim() || null,
  parts: parts.map(({ itemId, unitId, quantity, waste, note, alternatives }) => ({
    itemId,
    unitId,
    quantity: quantity.trim(),
    waste: waste.trim() || '0',
    note,
    alternatives: alternatives.map((one) => ({ itemId: one.itemId, quantity: one.quantity.trim() })),
  })),
  costs: costs.map(({ quantity, rate, ...cost }) => ({ ...cost, quantity: quantity.trim(), rate: rate.trim() })),
  byProducts: byProducts.map((one) => ({ itemId: one.itemId, quantity: one.quantity.trim(), share: one.share.trim() || null })),
});
export type BomBody = ReturnType<typeof bomBody>;

/** The field of the form that something sent stands in: what an item's id is about is where its quantity is typed, since nothing else of it is. */
export function bomField(path: string): string {
  if (path === 'itemId') return 'item';
  const alternative = /^(parts\.\d+\.alternatives\.\d+)\./.exec(path);
  if (alternative) return `${alternative[1] ?? ''}.quantity`;
  return path.replace(/^(parts|byProducts)\.(\d+)\.itemId$/, '$1.$2.quantity');
}

/** Whether what is typed can be reckoned: it names what is made and has parts, each with a number. */
export const isReckonable = ({ itemId, makes, parts, costs, byProducts }: BomBody): boolean =>
  itemId !== null &&
  parts.length > 0 &&
  [makes, ...parts.map((part) => part.quantity), ...costs.flatMap((cost) => [cost.quantity, cost.rate]), ...byProducts.map((one) => one.quantity)].every(
    (text) => Number(text) > 0 || text === '0',
  ) &&
  costs.every((cost) => cost.name.trim() !== '' && cost.accountId !== null);
