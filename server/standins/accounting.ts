import type { HandedDocument } from '@larder/core/books/handover';
import { eq, not } from 'drizzle-orm';
import type { Act } from '../act';
import { among, insertRows } from '../db/given';
import { jsonList } from '../db/json';
import { standinAccount, standinDocument, standinDocumentLine } from '../db/schema/index';

/** A document as it is handed over: a bill, credit, payment or another entry, with its amounts by their accounts. */
export interface OutgoingDocument extends HandedDocument {
  kind: string;
  day: string;
  party: string;
  text: string;
}

/**
 * The service that keeps the company's accounts. A real one speaks to it over its own interface; each document carries a
 * reference of ours, and the same reference given again is the same document there.
 */
export interface Accounting {
  accounts(act: Act): Promise<{ code: string; name: string }[]>;
  /** Takes documents in; gives the number each has there, in their order. */
  take(act: Act, documents: readonly OutgoingDocument[]): Promise<string[]>;
  /** Reverses a document: it counts for nothing there any more. */
  reverse(act: Act, reference: string): Promise<void>;
  /** Every document that stands there. */
  standing(act: Act): Promise<HandedDocument[]>;
}

const chart: readonly [string, string][] = [
  ['0110', 'Current account'],
  ['0240', 'Input tax'],
  ['0245', 'Output tax'],
  ['0300', 'Trade debtors'],
  ['0400', 'Goods on hand'],
  ['0410', 'Work in hand'],
  ['0810', 'Trade creditors'],
  ['0820', 'Goods in, bill outstanding'],
  ['0830', 'Carriage and duty outstanding'],
  ['0835', 'Parcels out, bill outstanding'],
  ['0840', 'Cash purchases'],
  ['0900', 'Balances brought forward'],
  ['3000', 'Sales of goods'],
  ['3010', 'Carriage charged'],
  ['4000', 'Cost of goods sold'],
  ['4100', 'Stock losses and gains'],
  ['4150', 'Workshop hours taken up'],
  ['4200', 'Purchase differences'],
  ['4300', 'Carriage out'],
  ['4310', 'Carriage out, differences'],
  ['4400', 'Gains and losses on exchange'],
  ['5100', 'Materials used in the business'],
  ['5900', 'Sundry costs'],
];

const numberOf = (id: number): string => `T-${String(id).padStart(6, '0')}`;

/** A small accounting service that ships with the product: it has accounts of its own, takes documents, and keeps them. */
export const accounting: Accounting = {
  async accounts({ tx }) {
    const { code, name } = standinAccount;
    if (!tx.readOnly)
      await tx.db
        .insert(standinAccount)
        .values(chart.map(([accountCode, called]) => ({ code: accountCode, name: called })))
        .onConflictDoNothing();
    return tx.db.select({ code, name }).from(standinAccount).orderBy(code);
  },
  async take({ tx, now }, documents) {
    const { id, reference } = standinDocument;
    if (documents.length > 0) {
      const taken = await tx.db
        .insert(standinDocument)
        .values(
          documents.map((each) => ({ reference: each.reference, kind: each.kind, day: each.day, party: each.party, text: each.text, at: now.toISOString() })),
        )
        .onConflictDoNothing({ target: reference })
        .returning({ id, reference });
      const linesOf = new Map(documents.map((each) => [each.reference, each.lines]));
      await insertRows(
        tx,
        standinDocumentLine,
        taken.flatMap((each) => (linesOf.get(each.reference) ?? []).map(({ code, amount }) => ({ documentId: each.id, accountCode: code, amount }))),
      );
    }
    const references = documents.map((each) => each.reference);
    const rows = await tx.db.select({ id, reference }).from(standinDocument).where(among(reference, references));
    const ids = new Map(rows.map((each) => [each.reference, each.id]));
    return documents.map((each) => numberOf(ids.get(each.reference) ?? 0));
  },
  async reverse({ tx }, reference) {
    await tx.db.update(standinDocument).set({ reversed: true }).where(eq(standinDocument.reference, reference));
  },
  standing: async ({ tx }) =>
    tx.db
      .select({
        reference: standinDocument.reference,
        lines: jsonList({ code: standinDocumentLine.accountCode, amount: standinDocumentLine.amount }),
      })
      .from(standinDocument)
      .innerJoin(standinDocumentLine, eq(standinDocumentLine.documentId, standinDocument.id))
      .where(not(standinDocument.reversed))
      .groupBy(standinDocument.id, standinDocument.reference),
};
