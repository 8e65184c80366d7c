import type { FieldValues } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { Form } from '../kit/form';
import { useSay } from './say';

interface Written {
  id: number;
  number: string;
  version: number;
}
type Answer<T> = PromiseLike<{ data?: T | undefined; error?: unknown }>;

interface Writing<B, O extends Written> {
  /** The order that is written on; null for a new one. */
  order: O | null;
  create: (body: B) => Answer<O>;
  edit: (id: number, body: B & { version: number }) => Answer<O>;
  /** Places or confirms it. */
  decide: (id: number, version: number) => Answer<unknown>;
  /** What it is then: "placed". */
  decided: string;
  /** Where orders of this kind stand, each by its id. */
  at: string;
}

/** How an order that is being written is saved, and placed or confirmed as it was saved. One that is new gets its own address as soon as it is there. */
export function useWriting<F extends FieldValues, B extends object, O extends Written>(form: Form<F, B>, writing: Writing<B, O>) {
  const { order, create, edit, decide, decided, at } = writing;
  const navigate = useNavigate();
  const say = useSay();
  const save = () =>
    form.send<O>(async (body, typed) => {
      if (!order) return create(body);
      const saved = await edit(order.id, { ...body, version: order.version });
      if (saved.data) form.kept(typed, saved.data.version);
      return saved;
    });
  const go = (saved: Written | undefined) => void (saved && !order && navigate(`${at}/${saved.id}`, { replace: true }));
  return {
    keep: async () => go(await save()),
    settle: async () => {
      const saved = await save();
      const settled = saved && (await form.send(() => decide(saved.id, saved.version)));
      if (settled) say({ text: `${saved.number} is ${decided}.` });
      go(saved);
    },
  };
}
