import type { DocumentKind } from '@larder/core/ledger/counters';
import { and, eq } from 'drizzle-orm';
import type { Act } from '../act';
import { documentLine } from '../db/schema/index';

/** What all lines of a document have in common for stock. */
export interface LineHead {
  kind: DocumentKind;
  /** Of the document. */
  number: string;
  siteId: number;
  /** The site its goods will come to; null when they come to none. */
  bringsToId: number | null;
  /** Whether it draws on the stock of its site. */
  draws: boolean;
  active: boolean;
}

interface NewLine {
  position: number;
  itemId: number;
  baseQuantity: string;
  /** Of it: called off from the beginning. */
  cancelled?: string;
  stocked: boolean;
  neededOn?: string | null;
  /** The day that was promised for it. */
  promisedOn?: string | null;
  /** Of the base quantity: comes straight from a supplier. */
  direct?: string;
  /** Where it draws on, when that is another site than its document's. */
  siteId?: number | null;
}

/** Adds lines to a document, as stock sees them; gives their ids in order. What else is written on them goes into their kind's own table, under the same ids. */
export async function addLines({ tx }: Act, head: LineHead, lines: readonly NewLine[]): Promise<number[]> {
  if (lines.length === 0) return [];
  const rows = lines.map(({ position, itemId, baseQuantity, cancelled, stocked, neededOn, promisedOn, direct, siteId }) => ({
    ...head,
    siteId: siteId ?? head.siteId,
    position,
    itemId,
    baseQuantity,
    cancelled: cancelled ?? '0',
    stocked,
    neededOn: neededOn ?? null,
    promisedOn: promisedOn ?? null,
    direct: direct ?? '0',
  }));
  const added = await tx.db.insert(documentLine).values(rows).returning({ id: documentLine.id, position: documentLine.position });
  const ids = new Map(added.map(({ id, position }) => [position, id]));
  return lines.map(({ position }) => ids.get(position) as number);
}

/** Takes all lines off a document that was not decided on yet, with what was written on them. */
export const removeLines = ({ tx }: Act, kind: DocumentKind, number: string): Promise<unknown> =>
  tx.db.delete(documentLine).where(and(eq(documentLine.kind, kind), eq(documentLine.number, number)));
