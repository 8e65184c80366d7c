import { decimal, sum, zero, type Decimal } from '../decimal';

/** A document as one side keeps it: known by its reference, its amounts by the accounting service's accounts, debits above zero. */
export interface HandedDocument {
  reference: string;
  lines: readonly { code: string; amount: string }[];
}

export interface Comparison {
  /** Every account either side has something on, by code. */
  accounts: { code: string; ours: Decimal; theirs: Decimal }[];
  /** References that went out and are not there, are there and did not go out, and are there with other amounts. */
  missing: string[];
  unknown: string[];
  different: string[];
}

/** The lines of an entry by the accounts of the accounting service, one line for each; null when an account is not mapped yet. */
export function mappedLines(
  lines: readonly { accountId: number; amount: string }[],
  codes: ReadonlyMap<number, string | null>,
): { code: string; amount: string }[] | null {
  const totals = new Map<string, Decimal>();
  for (const { accountId, amount } of lines) {
    const code = codes.get(accountId);
    if (!code) return null;
    totals.set(code, (totals.get(code) ?? zero).plus(amount));
  }
  return [...totals].sort(([a], [b]) => a.localeCompare(b)).map(([code, amount]) => ({ code, amount: amount.toFixed(2) }));
}

/** Holds what was handed over against what the accounting service has. */
export function compareBooks(ours: readonly HandedDocument[], theirs: readonly HandedDocument[]): Comparison {
  const there = new Map(theirs.map((document) => [document.reference, document]));
  const here = new Map(ours.map((document) => [document.reference, document]));
  const codes = [...new Set([...ours, ...theirs].flatMap(({ lines }) => lines.map(({ code }) => code)))].sort((a, b) => a.localeCompare(b));
  const total = (documents: readonly HandedDocument[], code: string) =>
    sum(documents.flatMap(({ lines }) => lines.filter((line) => line.code === code).map(({ amount }) => decimal(amount))));
  return {
    accounts: codes.map((code) => ({ code, ours: total(ours, code), theirs: total(theirs, code) })),
    missing: ours.filter(({ reference }) => !there.has(reference)).map(({ reference }) => reference),
    unknown: theirs.filter(({ reference }) => !here.has(reference)).map(({ reference }) => reference),
    different: ours
      .filter((document) => {
        const other = there.get(document.reference);
        return other !== undefined && !sameLines(document, other);
      })
      .map(({ reference }) => reference),
  };
}

function sameLines(a: HandedDocument, b: HandedDocument): boolean {
  const written = ({ lines }: HandedDocument) =>
    lines
      .filter(({ amount }) => !decimal(amount).isZero())
      .map(({ code, amount }) => `${code} ${decimal(amount).toFixed(2)}`)
      .sort()
      .join();
  return written(a) === written(b);
}

/** One line for each account, as amounts of several of ours may stand on one of theirs. */
export function merged({ reference, lines }: HandedDocument): HandedDocument {
  const totals = new Map<string, Decimal>();
  for (const { code, amount } of lines) totals.set(code, (totals.get(code) ?? zero).plus(amount));
  return { reference, lines: [...totals].map(([code, amount]) => ({ code, amount: amount.toFixed(2) })) };
}
