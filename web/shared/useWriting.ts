import { useRef, useState } from 'react';
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

interface Writing<B, O extends Written, S> {
  /** The order that is written on; null for a new one. */
  order: O | null;
  create: (body: B) => Answer<O>;
  edit: (id: number, body: B & { version: number }) => Answer<O>;
  /** Places or confirms it, with what the person has said to what was asked. */
  decide: (id: number, version: number, said?: S) => Answer<unknown>;
  /** What it is then: "placed". */
  decided: string;
  /** Where orders of this kind stand, each by its id. */
  at: string;
}

/**
 * How an order that is being written is saved, and placed or confirmed as it was saved. One that is new gets its own address as soon as it is there. What is asked for while it is being saved is done
 * once it is.
 */
export function useWriting<F extends FieldValues, B extends object, O extends Written, S = never>(form: Form<F, B>, writing: Writing<B, O, S>) {
  const { order, create, edit, decide, decided, at } = writing;
  const navigate = useNavigate();
  const say = useSay();
  const [isSettling, setSettling] = useState(false);
  const created = useRef<O | null>(null);
  const save = () =>
    form.send<O>(async (body, typed, version) => {
      const known = order ?? created.current;
      const saved = await (known ? edit(known.id, { ...body, version }) : create(body));
      if (saved.data) form.kept(typed, saved.data.version);
      if (!known) created.current = saved.data ?? null;
      return saved;
    });
  const go = (saved: Written | undefined) => void (saved && !order && navigate(`${at}/${saved.id}`, { replace: true }));
  const settle = async (said?: S) => {
    setSettling(true);
    try {
      const saved = await save();
      if (saved && (await form.send(() => decide(saved.id, saved.version, said)))) say({ text: `${saved.number} is ${decided}.` });
      go(saved);
    } finally {
      setSettling(false);
    }
  };
  return { keep: async () => go(await save()), settle, isSettling };
}
