import type { Held } from '@larder/contract/returns';
import { useState } from 'react';
import type { UseFieldArrayReturn, UseFormReturn } from 'react-hook-form';
import { useScan, type Heard } from '../../kit/scan';
import { useLazyHeldQuery } from './api';
import { isSame, lineOf, oneMore, type ReturnDraft } from './returnForm';

/** Takes goods that customers have into a return: from the list, by a scan, or by a code and Enter. */
export function useTaking(
  form: Pick<UseFormReturn<ReturnDraft>, 'getValues' | 'setValue'>,
  { append }: Pick<UseFieldArrayReturn<ReturnDraft, 'lines'>, 'append'>,
) {
  const [q, setQ] = useState('');
  const [said, setSaid] = useState('');
  const [find] = useLazyHeldQuery();
  const take = (held: Held) => {
    const { customer, lines } = form.getValues();
    setSaid('');
    if (customer === null) form.setValue('customer', { id: held.customerId, name: held.customer }, { shouldDirty: true });
    const at = lines.findIndex((line) => isSame(line, held));
    const there = lines[at];
    if (there) form.setValue(`lines.${at}.quantity`, oneMore({ ...there, held: held.held }), { shouldDirty: true });
    else append(lineOf(held, lines.at(-1)), { focusName: `lines.${lines.length}.quantity` });
  };
  const read = async (code: string): Promise<Heard> => {
    const { customer } = form.getValues();
    const mine = (await find({ query: { q: code, customerId: customer?.id } })).data?.rows ?? [];
    const [only, ...others] = mine;
    if (only && others.length === 0) {
      setQ('');
      take(only);
      return true;
    }
    if (only) {
      setQ(code);
      setSaid(`${code} means more than one of what ${customer ? 'they have' : 'customers have'}: choose which.`);
      return 'refused';
    }
    const [theirs] = customer ? ((await find({ query: { q: code } })).data?.rows ?? []) : [];
    setQ(code);
    setSaid(
      theirs
        ? `${code} is with ${theirs.customer}, not with ${customer?.name ?? ''}.`
        : `Nothing that ${code} means is with a customer, or it came back already.`,
    );
    return 'refused';
  };
  useScan(read);
  return { q, setQ, said, take, read: (code: string) => void read(code) };
}
