import type { ItemStock } from '@larder/contract/stock';
import type { ApartForm, ApartProposal } from '@larder/contract/takingApart';
import type { LotEntry } from '@larder/contract/values';
import { isNumber } from '@larder/core/number';

/** A part of what is taken apart, while it is typed. */
export interface PartRow {
  itemId: number;
  sku: string;
  name: string;
  tracking: 'none' | 'lot' | 'serial';
  /** What the bill says; nothing of what was added. */
  gives: string;
  /** Null until somebody says: what the bill says. */
  planned: string | null;
  /** Null until somebody says: as many as it should give. */
  good: string | null;
  share: string;
  binId: number | null;
  lots: LotEntry[];
}
export interface ApartDraft {
  quantity: string;
  /** The bin and lot it is taken from, as `placeKey` has them; null: where most of it lies. */
  from: string | null;
  note: string;
  parts: PartRow[];
}

export const partRowKeys = {
  parts: { key: ({ itemId }: PartRow): string => String(itemId), typed: ['planned', 'good', 'share', 'binId', 'lots'] as const },
};

/** What the bill says it gives. */
export const partRows = (proposal: ApartProposal | undefined): PartRow[] =>
  (proposal?.parts ?? []).map(({ itemId, sku, name, tracking, planned, binId }) => ({
    ...{ itemId, sku, name, tracking, gives: planned, binId },
    ...{ planned: null, good: null, share: '', lots: [] },
  }));

/** Where it lies at a site, bin by bin and lot by lot: what lies there and how much. */
export interface LiesAt {
  key: string;
  binId: number;
  lotId: number | null;
  words: string;
  quantity: string;
}
export function placesAt(stock: ItemStock | undefined, siteId: number | null): LiesAt[] {
  const bins = stock?.sites.find((site) => site.siteId === siteId)?.bins ?? [];
  return bins
    .flatMap(({ binId, bin, quantity, lots }): LiesAt[] =>
      lots.length === 0
        ? [{ key: `${binId}/`, binId, lotId: null, words: bin, quantity }]
        : lots.map((one) => ({ key: `${binId}/${one.lotId}`, binId, lotId: one.lotId, words: `${bin}, ${one.code}`, quantity: one.quantity })),
    )
    .filter(({ quantity }) => Number(quantity) > 0)
    .sort((one, other) => Number(other.quantity) - Number(one.quantity));
}

export const fromOf = ({ from }: ApartDraft, places: readonly LiesAt[]): LiesAt | undefined =>
  places.find(({ key }) => key === from) ?? (from === null ? places[0] : undefined);

/** How many of a part it should give: what was typed, else what the bill says. */
export const plannedOf = ({ planned, gives }: PartRow): string => (planned ?? gives).trim();

/** How many of a part are good: what was typed, else all that it should give. */
export const goodOf = (row: PartRow): string => (row.good === null || row.good.trim() === '' ? plannedOf(row) : row.good.trim());

/** Whether anything is said of a part. */
const isSaid = (row: PartRow): boolean => ![plannedOf(row), goodOf(row)].every((text) => text === '' || (isNumber(text, 'quantity') && Number(text) === 0));

/** What is sent of it. */
export const apartBody = (draft: ApartDraft, itemId: number, places: readonly LiesAt[]): ApartForm => {
  const from = fromOf(draft, places);
  return {
    itemId,
    binId: from?.binId ?? null,
    lotId: from?.lotId ?? null,
    quantity: draft.quantity.trim(),
    note: draft.note,
    parts: draft.parts.filter(isSaid).map((row) => {
      const quantity = goodOf(row);
      const lots = row.tracking === 'lot' && row.lots.length === 1 ? row.lots.map((lot) => ({ ...lot, quantity })) : row.lots;
      return {
        ...{ itemId: row.itemId, planned: plannedOf(row) || '0', quantity, binId: row.binId },
        share: row.share.trim() === '' ? null : row.share.trim(),
        lots: Number(quantity) === 0 ? [] : lots,
      };
    }),
  };
};

/** In which field stands what was refused of something sent. */
export function apartField(path: string, draft: ApartDraft): string {
  const [list, nth, ...part] = path.split('.');
  if (list === 'binId' || list === 'lotId') return 'from';
  const row = list === 'parts' && nth !== undefined ? draft.parts.filter(isSaid)[Number(nth)] : undefined;
  if (!row) return path;
  return ['parts', draft.parts.indexOf(row), part[0] === 'quantity' || part[0] === 'itemId' ? 'good' : part.join('.')].join('.');
}
