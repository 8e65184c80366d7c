import { useEffect, useRef, useState } from 'react';
import type { FieldValues } from 'react-hook-form';
import type { Problem } from '@larder/contract/values';
import { useLocation, useNavigate } from 'react-router';
import type { Form } from '../kit/form';
import { problemOf } from '../kit/problem';
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
  /** What is refused of one that is new is said at its own address. */
  const go = (saved: Written | undefined, refused: Problem | null = null) =>
    void (saved && !order && navigate(`${at}/${saved.id}`, { replace: true, state: { refused } }));
  useRefusedBefore(form);
  const ask = async (saved: O, said: S | undefined) => {
    // What is refused of one that is new has no field to stand at before the page is at its own address: who types at once would type into what goes away.
    if (!order) {
      const { data, error } = await decide(saved.id, saved.version, said);
      return { answer: data, refused: error ? problemOf(error) : null };
    }
    let refused: Problem | null = null;
    const answer = await form.send(async () => {
      const result = await decide(saved.id, saved.version, said);
      if (result.error) refused = problemOf(result.error);
      return result;
    });
    return { answer, refused };
  };
  const settle = async (said?: S) => {
    setSettling(true);
    try {
      const saved = await save();
      if (!saved) return;
      const { answer, refused } = await ask(saved, said);
      if (answer !== undefined) say({ text: `${saved.number} is ${decided}.` });
      go(saved, refused);
    } finally {
      setSettling(false);
    }
  };
  return { keep: async () => go(await save()), settle, isSettling };
}

/** Says what was refused right before this page was come to, once its fields are drawn; and only once. */
function useRefusedBefore<F extends FieldValues, B>({ refuse }: Form<F, B>): void {
  const navigate = useNavigate();
  const { pathname, search, state } = useLocation();
  const refused = (state as { refused?: Problem | null } | null)?.refused ?? null;
  const latest = useRef(refuse);
  useEffect(() => {
    latest.current = refuse;
  });
  useEffect(() => {
    if (refused === null) return;
    let frame = requestAnimationFrame(() => {
      frame = requestAnimationFrame(() => {
        latest.current(refused);
        void navigate(pathname + search, { replace: true, state: null });
      });
    });
    return () => cancelAnimationFrame(frame);
  }, [refused, pathname, search, navigate]);
}
