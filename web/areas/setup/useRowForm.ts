import type { retirable } from '@larder/contract/setupLists';
import type { FieldPath, FieldValues } from 'react-hook-form';
import type { z } from 'zod';
import { useForm, type Form } from '../../kit/form';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useRetireListedMutation } from './api';

interface RowOf<F extends FieldValues, S extends z.ZodType> {
  /** The list it is in, where rows of it can be retired like this. */
  list?: (typeof retirable)[number];
  row: { id: number; name: string; retired: boolean } | null;
  came: F;
  body: (typed: F) => z.input<S>;
  checkedBy: () => Promise<S>;
  sentAs?: Readonly<Record<string, FieldPath<F>>>;
  /** Sends a new row, or the one there is. */
  send: (body: z.input<S>) => PromiseLike<{ data?: unknown; error?: unknown }>;
  /** What is said once it was saved. */
  said: (typed: F) => string;
  added: () => void;
}

/** The form of a row of a list, how it is saved and how it is retired. */
export function useRowForm<F extends FieldValues, S extends z.ZodType>({ list, row, came, body, checkedBy, sentAs = {}, send, said, added }: RowOf<F, S>) {
  const say = useSay();
  const may = useMay('setup.edit', null);
  const form: Form<F, z.input<S>> = useForm({ came, body, checkedBy, sentAs });
  const [retireListed] = useRetireListedMutation();
  const save = () =>
    void form.send(async (sent, typed) => {
      const result = await send(sent);
      if (!result.error) {
        form.kept(typed, 0);
        say({ text: said(typed) });
        if (row === null) added();
      }
      return result;
    });
  const retire =
    row === null || list === undefined
      ? undefined
      : {
          retired: row.retired,
          run: () =>
            void form.send(async () => {
              const result = await retireListed({ params: { list, id: row.id }, body: { retired: !row.retired } });
              if (!result.error) say({ text: row.retired ? `${row.name} is in use again.` : `${row.name} is retired.` });
              return result;
            }),
        };
  return { form, save, retire, may };
}
