import { combinations, manyMembers, mostMembers, parseValues, proposedPattern, shortCode, skuFrom, type Axis } from '@larder/core/catalog/family';
import type { FamilyForm, NewMember } from '@larder/contract/families';
import type { SharedForm } from './SharedFacts';

/** An axis as it is typed. */
export interface AxisDraft {
  name: string;
  values: string;
}

/** A row of the sheet of combinations. A SKU that was typed stays; others follow the pattern. */
export interface MemberRow extends Record<string, string> {
  values: string;
  sku: string;
  typedSku: string;
  off: string;
  salesPrice: string;
  purchasePrice: string;
  barcode: string;
  weightKg: string;
  supplierCode: string;
}

/** A family while it is set up. Its code and its pattern are empty until somebody types one: then they are as proposed. */
export interface FamilyDraft extends SharedForm {
  code: string;
  pattern: string;
  supplier: { id: number; name: string } | null;
  axes: AxisDraft[];
  /** What was typed in the sheet of combinations. */
  rows: MemberRow[];
}

/** The axes that have a name and values. */
export const axesOf = (drafts: readonly AxisDraft[]): Axis[] =>
  drafts
    .filter(({ name, values }) => name.trim() !== '' && parseValues(values).length > 0)
    .map(({ name, values }) => ({ name: name.trim(), values: codesApart(parseValues(values)) }));

/** Codes of values, made different where their short forms are the same. */
function codesApart(names: readonly string[]): { name: string; code: string }[] {
  const used = new Set<string>();
  return names.map((name, index) => {
    const short = shortCode(name) || String(index + 1);
    const longer = name
      .toUpperCase()
      .replace(/[^A-Z0-9]/g, '')
      .slice(0, 8);
    const code = [short, longer, `${short}${index + 1}`].find((one) => one !== '' && !used.has(one)) ?? `${short}${index + 1}`;
    used.add(code);
    return { name, code };
  });
}

const valuesKey = (values: readonly string[]): string => values.join(' / ');

/** The rows for all combinations; what was typed in a row that stays is kept. */
export function memberRows(axes: readonly Axis[], code: string, pattern: string, before: readonly MemberRow[]): MemberRow[] {
  const known = new Map(before.map((row) => [row.values, row]));
  return combinations(axes).map((one) => {
    const values = valuesKey(one.map(({ name }) => name));
    const was = known.get(values) ?? { values, sku: '', typedSku: '', off: '', salesPrice: '', purchasePrice: '', barcode: '', weightKg: '', supplierCode: '' };
    return { ...was, sku: was.typedSku || skuFrom(pattern, code, axes, one) };
  });
}

/** SKUs that are changed in the sheet are the person's own from then on. */
export const withTypedSkus = (rows: readonly MemberRow[], before: readonly MemberRow[]): MemberRow[] =>
  rows.map((row, index) => (row.sku === before[index]?.sku ? row : { ...row, typedSku: row.sku }));

/** What is sent for the rows that are not switched off. `opening` columns are `stock <siteId>`. */
export const membersOf = (rows: readonly MemberRow[], axes: readonly Axis[]): NewMember[] => {
  const all = combinations(axes);
  return rows.flatMap((row, index) => {
    if (row.off === 'yes') return [];
    const number = (text: string | undefined) => (text?.trim() ? text.trim() : null);
    return [
      {
        values: (all[index] ?? []).map(({ name }) => name),
        sku: row.sku.trim(),
        salesPrice: number(row.salesPrice),
        purchasePrice: number(row.purchasePrice),
        barcode: row.barcode.trim(),
        weightKg: number(row.weightKg),
        supplierCode: row.supplierCode.trim(),
        opening: Object.entries(row).flatMap(([key, text]) =>
          key.startsWith('stock ') && text.trim() !== ''
            ? [{ siteId: Number(key.slice(6)), quantity: text.trim(), unitValue: number(row.unitValue) ?? number(row.purchasePrice) ?? '0' }]
            : [],
        ),
      },
    ];
  });
};

/** What a family comes to as it is typed: its code and pattern, how many combinations there are, and a row for each that is to be looked at. */
export function workedOut(draft: FamilyDraft, meant: number) {
  const axes = axesOf(draft.axes);
  const code = draft.code || shortCode(draft.name);
  const pattern = draft.pattern || proposedPattern(axes);
  const combined = axes.reduce((product, axis) => product * axis.values.length, axes.length > 0 ? 1 : 0);
  const isAsking = combined > manyMembers && combined <= mostMembers && meant !== combined;
  const rows = isAsking || combined > mostMembers ? [] : memberRows(axes, code, pattern, draft.rows);
  return { axes, code, pattern, combined, isAsking, rows, chosen: rows.flatMap((row, index) => (row.off === 'yes' ? [] : [index])) };
}

/** What is sent to make a family; `meant` is how many combinations somebody said are meant. */
export function familyBody(draft: FamilyDraft, meant: number): FamilyForm {
  const { axes, code, pattern, combined, rows } = workedOut(draft, meant);
  const { supplier, axes: _axes, rows: _rows, pattern: _pattern, ...shared } = draft;
  return {
    ...shared,
    code,
    skuPattern: pattern,
    axes: axes.map(({ name, values }) => ({ name, values: [...values] })),
    supplierId: supplier?.id ?? null,
    members: membersOf(rows, axes),
    many: meant === combined,
  };
}
