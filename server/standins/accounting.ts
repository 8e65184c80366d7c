import type { HandedDocument } from '@larder/core/books/handover';
import type { Act } from '../act';

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
  ['0400', 'Goods on hand'],
  ['0810', 'Trade creditors'],
  ['0820', 'Goods in, bill outstanding'],
  ['0830', 'Carriage and duty outstanding'],
  ['0840', 'Cash purchases'],
  ['0900', 'Balances brought forward'],
  ['4000', 'Cost of goods sold'],
  ['4100', 'Stock losses and gains'],
  ['4200', 'Purchase differences'],
  ['4300', 'Carriage out'],
  ['4400', 'Gains and losses on exchange'],
  ['5100', 'Materials used in the business'],
  ['5900', 'Sundry costs'],
];

const numberOf = (id: number): string => `T-${String(id).padStart(6, '0')}`;

/** A small accounting service that ships with the product: it has accounts of its own, takes documents, and keeps them. */
export const accounting: Accounting = {
  async accounts({ tx }) {
    if (!tx.readOnly)
      await tx.rows('INSERT INTO standin_account (code, name) SELECT * FROM unnest($1::text[], $2::text[]) ON CONFLICT (code) DO NOTHING', [
        chart.map(([code]) => code),
        chart.map(([, name]) => name),
      ]);
    return tx.rows('SELECT code, name FROM standin_account ORDER BY code');
  },
  async take({ tx, now }, documents) {
    await tx.rows(
      `WITH d AS (
        INSERT INTO standin_document (reference, kind, day, party, text, at) SELECT x.*, $6::timestamptz FROM unnest($1::text[], $2::text[], $3::date[], $4::text[], $5::text[]) x
        ON CONFLICT (reference) DO NOTHING RETURNING id, reference)
       INSERT INTO standin_document_line (document_id, account_code, amount) SELECT d.id, l.code, l.amount FROM unnest($7::text[], $8::text[], $9::numeric[]) l(reference, code, amount) JOIN d ON d.reference = l.reference`,
      [
        documents.map(({ reference }) => reference),
        documents.map(({ kind }) => kind),
        documents.map(({ day }) => day),
        documents.map(({ party }) => party),
        documents.map(({ text }) => text),
        now.toISOString(),
        documents.flatMap(({ reference, lines }) => lines.map(() => reference)),
        documents.flatMap(({ lines }) => lines.map(({ code }) => code)),
        documents.flatMap(({ lines }) => lines.map(({ amount }) => amount)),
      ],
    );
    const rows = await tx.rows<{ id: number; reference: string }>('SELECT id, reference FROM standin_document WHERE reference = ANY($1)', [
      documents.map(({ reference }) => reference),
    ]);
    const ids = new Map(rows.map(({ id, reference }) => [reference, id]));
    return documents.map(({ reference }) => numberOf(ids.get(reference) ?? 0));
  },
  async reverse({ tx }, reference) {
    await tx.rows('UPDATE standin_document SET reversed = true WHERE reference = $1', [reference]);
  },
  standing: ({ tx }) =>
    tx.rows(
      `SELECT d.reference, json_agg(json_build_object('code', l.account_code, 'amount', l.amount::text)) AS lines FROM standin_document d JOIN standin_document_line l ON l.document_id = d.id WHERE NOT d.reversed GROUP BY d.id, d.reference`,
    ),
};
