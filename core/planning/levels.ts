import { decimal } from '../decimal';
import type { FieldError } from '../refusal';

/** How more of an item comes to a site: whatever is best, from a supplier, from another site, or made there. */
export type Way = { by: 'best' } | { by: 'buy'; supplierId: number | null } | { by: 'bring'; siteId: number } | { by: 'make' };

/** The same in one word, as it goes over the wire and stands in a form: `best`, `buy`, `buy 12`, `bring 3`, `make`. */
export type WayText = 'best' | 'buy' | 'make' | `buy ${number}` | `bring ${number}`;

export const wayText = (way: Way): WayText => {
  if (way.by === 'bring') return `bring ${way.siteId}`;
  return way.by === 'buy' && way.supplierId !== null ? `buy ${way.supplierId}` : way.by;
};

export function wayOf(text: WayText): Way {
  const [by, id] = text.split(' ');
  if (by === 'bring') return { by, siteId: Number(id) };
  if (by === 'buy') return { by, supplierId: id === undefined ? null : Number(id) };
  return { by: by === 'make' ? by : 'best' };
}

/** Levels of an item at a site as they are written, quantities in base units; null: nobody has said. */
export interface LevelsWritten {
  reorderPoint: string | null;
  orderUpTo: string | null;
  /** What is free should last so many days at least, at the rate it is wanted. */
  coverDays: number | null;
  /** It comes in whole packs of so many. */
  packSize: string | null;
}

/** What is wrong with levels, by field; empty when all goes together. */
export function levelFaults({ reorderPoint, orderUpTo, packSize }: LevelsWritten): FieldError[] {
  const faults: FieldError[] = [];
  if ((reorderPoint === null) !== (orderUpTo === null))
    faults.push({ field: reorderPoint === null ? 'reorderPoint' : 'orderUpTo', sentence: 'Give the reorder point and the order-up-to level together.' });
  else if (reorderPoint !== null && orderUpTo !== null && decimal(orderUpTo).lte(reorderPoint))
    faults.push({ field: 'orderUpTo', sentence: 'Order up to more than the reorder point.' });
  if (packSize !== null && decimal(packSize).lte(0)) faults.push({ field: 'packSize', sentence: 'A pack is more than zero.' });
  return faults;
}

/** What is wrong with a way of getting more of an item at a site, where its suppliers and the sites there are, are known; null when nothing is. */
export function wayFault(way: Way, siteId: number, { suppliers, sites }: { suppliers: readonly number[]; sites: readonly number[] }): string | null {
  if (way.by === 'buy' && way.supplierId !== null && !suppliers.includes(way.supplierId)) return 'It is not bought from this supplier; choose one of its own.';
  if (way.by !== 'bring') return null;
  if (way.siteId === siteId) return 'A site cannot bring from itself.';
  return sites.includes(way.siteId) ? null : 'There is no such site in use.';
}

const fromWords = /^(buy|bring) from (.+)$/i;

/** A way as a file writes it ("best", "buy", "buy from Hexley Joinery", "bring from Barn store", "make"), or a sentence of what is wrong with it. */
export function readWay(text: string, idOf: { supplier: (name: string) => number | undefined; site: (name: string) => number | undefined }): Way | string {
  const word = text.trim().toLowerCase();
  if (word === '' || word === 'best' || word === 'make') return { by: word === 'make' ? 'make' : 'best' };
  if (word === 'buy') return { by: 'buy', supplierId: null };
  const [, by = '', name = ''] = fromWords.exec(text.trim()) ?? [];
  if (by === '') return 'Write how it comes as best, buy, buy from a supplier, bring from a site, or make.';
  if (by.toLowerCase() === 'bring') {
    const siteId = idOf.site(name);
    return siteId === undefined ? `There is no site “${name}”.` : { by: 'bring', siteId };
  }
  const supplierId = idOf.supplier(name);
  return supplierId === undefined ? `There is no supplier “${name}”.` : { by: 'buy', supplierId };
}
