import { isStocked } from '@larder/core/catalog/kind';
import type { ItemForm } from '@larder/contract/catalog';

/** The parts of an item's page, and what each is called. */
const names = {
  there: 'What is there',
  trail: 'Trail',
  facts: 'Facts',
  codes: 'Codes and units',
  suppliers: 'Suppliers',
  making: 'Making',
  levels: 'Levels',
  attributes: 'Attributes',
} as const;
export type Section = keyof typeof names;

/** The sections of an item of a kind; the first is what it opens on. `isNew` has nothing there yet; `hasAttributes` when the business has some of its own. */
export const sectionsOf = (kind: ItemForm['kind'], isNew: boolean, hasAttributes: boolean): [Section, string][] =>
  (Object.keys(names) as Section[])
    .filter((key) => !(isNew && ['there', 'trail', 'making'].includes(key)))
    .filter((key) => isStocked(kind) || !['there', 'trail', 'making', 'levels'].includes(key))
    .filter((key) => key !== 'attributes' || hasAttributes)
    .map((key) => [key, names[key]]);

/** In which section a field stands. */
export function sectionOf(field: string): Section {
  const name = field.split('.')[0] ?? '';
  if (['barcodes', 'units'].includes(name)) return 'codes';
  if (name === 'suppliers') return 'suppliers';
  if (name === 'policies') return 'levels';
  return name === 'attributes' ? 'attributes' : 'facts';
}
