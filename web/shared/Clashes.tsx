import type { Asked } from '@larder/contract/endpoint';
import * as contract from '@larder/contract/setup';
import { Asking } from '../kit/Asking';
import { shortDay } from '../kit/format';
import type { Form } from '../kit/form';
import type { FieldValues } from 'react-hook-form';
import { api, read } from './api';

const changes = api.injectEndpoints({ endpoints: (build) => ({ lastChange: read(build, contract.lastChange) }) });

interface ClashesProps<F extends FieldValues> {
  /** What is written. */
  of: Asked<typeof contract.lastChange>['query'];
  writing: Pick<Form<F>, 'clashes' | 'decide'>;
  /** What each field is called in a sentence, such as "the day". */
  names: Partial<Record<keyof F, string>>;
}

/** What somebody else changed while the same was typed here: each to be kept as it was typed, or taken over. */
export function Clashes<F extends FieldValues>({ of, writing, names }: ClashesProps<F>) {
  const { clashes, decide } = writing;
  const { currentData } = changes.useLastChangeQuery({ query: of }, { skip: clashes.length === 0, refetchOnMountOrArgChange: true });
  return clashes.map((clash) => (
    <Asking
      key={String(clash.field)}
      question={`${currentData?.last?.person ?? 'Somebody'} changed ${names[clash.field] ?? 'this'}${toWhat(clash.theirs)} while you typed.`}
      answers={[
        { label: 'Keep mine', run: () => decide(clash, false) },
        { label: 'Take theirs', run: () => decide(clash, true) },
      ]}
    />
  ));
}

/** To what, where that can be said in a few words. */
function toWhat(value: unknown): string {
  if (value === null || value === '') return ' to nothing';
  if (typeof value === 'string')
    return ` to ${/^\d{4}-\d\d-\d\d$/.test(value) ? shortDay(value) : value.length > 40 ? `“${value.slice(0, 40)}…”` : `“${value}”`}`;
  if (typeof value === 'boolean') return value ? ' to yes' : ' to no';
  return typeof value === 'object' && 'name' in value ? ` to ${String(value.name)}` : '';
}
