import { CellChoice, CellField } from '../../kit/CellField';
import type { ReactNode } from 'react';
import { inUse, useReferenceQuery } from '../../shared/reference';

/** A number on a line of a bill. */
export function LineNumber({ label, value, onChange, width = 84 }: { label: string; value: string; onChange: (value: string) => void; width?: number }) {
  return <CellField number width={width} label={label} value={value} onChange={onChange} />;
}

/** The tax on a line of a bill. */
export function LineTax({ label, value, onChange }: { label: string; value: number | null; onChange: (value: number | null) => void }) {
  const { data: reference } = useReferenceQuery({});
  return (
    <CellChoice label={label} value={value ?? ''} onChange={(typed) => onChange(Number(typed) || null)}>
      <option value="">No tax</option>
      {inUse(reference?.taxes, value).map(({ id, name, rate }) => (
        <option key={id} value={id}>
          {name}, {rate} %
        </option>
      ))}
    </CellChoice>
  );
}

/** What is said under a line: what is wrong with it, else what differs from what was expected. */
export interface LineWords {
  fault: string | undefined;
  words: string | undefined;
}
export function LineSaid({ fault, words }: LineWords): ReactNode {
  if (fault)
    return (
      <small className="late name" role="alert">
        {fault}
      </small>
    );
  return words ? <small className="quiet name">{words}</small> : null;
}

/** The list with one of its rows changed in part. */
export const changed = <T,>(list: readonly T[], index: number, part: Partial<T>): T[] => list.map((one, at) => (at === index ? { ...one, ...part } : one));
