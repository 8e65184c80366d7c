import type { SalesRow } from '@larder/contract/outbound';
import { useState } from 'react';
import { count } from '../../kit/format';
import { problemOf } from '../../kit/problem';
import { useSay } from '../../shared/say';
import { useConfirmSaleMutation, useLazySaleLetterOfQuery, useLazySaleQuery, useSendSaleOfMutation } from './api';

/** An order with which something was not done, and why. */
interface Left {
  row: SalesRow;
  why: string;
}
/** Does something with one order; says why not, or null when it is done. */
type Step = (row: SalesRow) => Promise<string | null>;

export const isQuote = ({ state }: SalesRow): boolean => state === 'quote';

const whyNot = (error: unknown): string => problemOf(error)?.title ?? 'The server cannot be reached.';

/** Does the same with several orders, one after the other; each by itself, so that one that cannot be done holds up no other. */
export function useBulk(choose: (rows: readonly SalesRow[]) => void) {
  const say = useSay();
  const [going, setGoing] = useState('');
  const [left, setLeft] = useState<readonly Left[]>([]);
  const [find] = useLazySaleQuery();
  const [confirmOne] = useConfirmSaleMutation();
  const [letter] = useLazySaleLetterOfQuery();
  const [send] = useSendSaleOfMutation();
  const all = async (rows: readonly SalesRow[], doing: string, done: (many: number) => string, step: Step) => {
    const undone: Left[] = [];
    setLeft([]);
    for (const [at, row] of rows.entries()) {
      setGoing(`${doing} ${row.number}, ${at + 1} of ${rows.length}`);
      const why = await step(row);
      if (why !== null) undone.push({ row, why });
    }
    setGoing('');
    setLeft(undone);
    // What was not done stays chosen, to be looked at.
    choose(undone.map(({ row }) => row));
    const many = rows.length - undone.length;
    say({ text: undone.length === 0 ? done(many) : `${done(many)} ${count(undone.length, 'order')} could not be: the list says why.` });
  };
  return {
    isBusy: going !== '',
    going,
    left,
    confirm: (rows: readonly SalesRow[]) =>
      all(
        rows,
        'Confirming',
        (many) => `Confirmed ${count(many, 'quote')}.`,
        async ({ id }) => {
          const { data, error } = await find({ params: { id } });
          if (!data) return whyNot(error);
          const confirmed = await confirmOne({ params: { id }, body: { version: data.version } });
          return confirmed.error ? whyNot(confirmed.error) : null;
        },
      ),
    mail: (rows: readonly SalesRow[]) =>
      all(
        rows,
        'Writing about',
        (many) => `Sent ${count(many, 'letter')}.`,
        async ({ id, customer }) => {
          const { data, error } = await letter({ params: { id } });
          if (!data) return whyNot(error);
          if (data.to === '') return `No mail address of ${customer} is known.`;
          const sent = await send({ params: { id }, body: { to: data.to, subject: data.subject, text: data.text } });
          return sent.error ? whyNot(sent.error) : null;
        },
      ),
  };
}
