import { zodResolver } from '@hookform/resolvers/zod';
import { sentenceOf } from '@larder/contract/sentences';
import { merged, type Clash, type RowKeys } from '@larder/core/merge';
import type { Problem } from '@larder/contract/values';
import equal from 'fast-deep-equal';
import { createContext, useCallback, useEffect, useRef, useState } from 'react';
import { get, set, useForm as useHookForm, type FieldErrors, type FieldPath, type FieldValues, type Resolver, type UseFormReturn } from 'react-hook-form';
import type { z } from 'zod';
import { useInTurn } from './inTurn';
import { problemOf } from './problem';

interface Asked<F extends FieldValues, S extends z.ZodType> {
  /** What stands in the fields at first; and again when another version of it comes in, as far as nothing else was typed. */
  came: F;
  /** The version that came in; null for what is not saved yet. */
  version?: number | null;
  rowKeys?: RowKeys<F>;
  /** What is sent of what was typed. */
  body: (typed: F) => z.input<S>;
  /** The contract's form of what is sent, fetched when it is first needed. */
  checkedBy: () => Promise<S>;
  /** Fields that are sent under another name, or how the field is found that something sent stands in: what is said of that is said there. */
  sentAs?: Readonly<Record<string, FieldPath<F>>> | ((path: string, typed: F) => string);
  /** Shows the field of this name, where it may be out of sight when something is wrong with it. */
  reveal?: (field: string) => void;
}

type Ask<F, B, T> = (body: B, typed: F, version: number) => PromiseLike<{ data?: T | undefined; error?: unknown }>;

export interface Form<F extends FieldValues, B = unknown> extends UseFormReturn<F> {
  /** Whether something was typed that is not saved. */
  isTyped: boolean;
  /** Whether what stands in the fields was just saved. */
  isSaved: boolean;
  /** Whether something is under way. */
  isBusy: boolean;
  /** What was refused and belongs to no field here, or what is asked before it is done. */
  refused: Problem | null;
  /** What others changed while it was changed here too. Until somebody says otherwise, what was typed here stands. */
  clashes: readonly Clash<F>[];
  /** Ends a clash: keeps what was typed here, or takes theirs. */
  decide: (clash: Clash<F>, takeTheirs: boolean) => void;
  /**
   * Checks what was typed against the contract and sends it, with the version that it goes on from: 0 for what is not saved yet. What does not fit, here or there, is said at its field, and the first
   * such field has the focus. While something is under way it waits for its end; what comes in meanwhile waits too.
   * Returns the answer; undefined when there was none.
   */
  send: <T>(ask: Ask<F, B, T>) => Promise<T | undefined>;
  /** Says what was refused, each sentence at its field, of which the first has the focus. */
  refuse: (problem: Problem) => void;
  /** Told what was sent and the version that it is now saved as. */
  kept: (sent: F, version: number) => void;
  /** The field that something sent stands in, by its path in what is sent. */
  fieldOf: (path: string) => string;
  /** Whether leaving would lose what was typed. */
  wouldLose: () => boolean;
  /** What had come in when what stands in the fields was begun. */
  stood: () => F;
  /** Types again what was typed over another version that had come in: what others changed since stays. */
  takeUp: (was: F, typed: F) => void;
}

/** Written on from what came in, and checked as the contract says: see `Form`. */
export function useForm<F extends FieldValues, S extends z.ZodType>({
  came,
  version = null,
  rowKeys = {},
  body,
  checkedBy,
  sentAs = {},
  reveal,
}: Asked<F, S>): Form<F, z.input<S>> {
  const fieldOf = (path: string): string => {
    if (typeof sentAs === 'function') return sentAs(path, form.getValues());
    const name = Object.keys(sentAs).find((one) => path === one || path.startsWith(`${one}.`));
    return name === undefined ? path : (sentAs[name] as string) + path.slice(name.length);
  };
  const resolver: Resolver<F> = async (typed, context, options) => {
    const check = zodResolver((await checkedBy()) as unknown as z.ZodType<unknown, FieldValues>, { error: sentenceOf }) as unknown as Resolver;
    const { errors } = await check(body(typed) as FieldValues, context, options as never);
    const named: FieldErrors<F> = {};
    for (const { path, sentence } of sentencesIn(errors)) set(named, fieldOf(path), { type: 'contract', message: sentence });
    return Object.keys(named).length > 0 ? { values: {}, errors: named } : { values: typed, errors: {} };
  };
  const form = useHookForm<F>({ defaultValues: came as never, resolver });
  const { isDirty } = form.formState;
  const standing = useRef({ version, came });
  const goesOnFrom = useRef(version);
  const { isBusy, isBusyNow, inTurn } = useInTurn();
  const safe = useRef<F | null>(null);
  const [clashes, setClashes] = useState<readonly Clash<F>[]>([]);
  const [saved, setSaved] = useState<number | null>(null);
  const [refused, setRefused] = useState<Problem | null>(null);

  useEffect(() => {
    // What is under way is of what stands in the fields now.
    if (isBusyNow() || standing.current.version === version) return;
    const result = merged(standing.current.came, form.getValues(), came, rowKeys);
    standing.current = { version, came };
    goesOnFrom.current = version;
    form.reset(came, { keepErrors: true });
    for (const field of Object.keys(came) as FieldPath<F>[])
      if (!equal(result.form[field], came[field])) form.setValue(field, result.form[field], { shouldDirty: true });
    setClashes((were) => [
      ...were.filter(({ field }) => !result.clashes.some((one) => one.field === field) && !equal(result.form[field], came[field])),
      ...result.clashes,
    ]);
  }, [version, form, came, rowKeys, isBusy, isBusyNow]);

  const hasClashes = clashes.length > 0;
  useEffect(() => {
    if (!hasClashes) return;
    // Who types on has decided.
    const { unsubscribe } = form.watch((_, { name, type }) => {
      if (type === 'change') setClashes((were) => were.filter(({ field }) => name?.split('.')[0] !== field));
    });
    return unsubscribe;
  }, [form, hasClashes]);

  const stood = useCallback(() => standing.current.came, []);

  /** Of a list rows alike are known even while they are not drawn. */
  const isInList = (path: string): boolean =>
    [...form.control._names.array].some((list) => {
      if (!path.startsWith(`${list}.`)) return false;
      const [nth = '', ...part] = path.slice(list.length + 1).split('.');
      const drawn = Object.values((get(form.control._fields, list) as object | undefined) ?? {});
      return get(form.getValues(), `${list}.${nth}`) !== undefined && (part.length === 0 || drawn.some((row) => Boolean(get(row, part.join('.')))));
    });
  const knows = (path: string): boolean => Boolean(get(form.control._fields, path)) || form.control._names.array.has(path) || isInList(path);
  /** The field a path belongs to: itself, or what it is a part of. */
  const fieldAt = (path: string): string | undefined => {
    const parts = fieldOf(path).split('.');
    return parts.map((_, index) => parts.slice(0, parts.length - index).join('.')).find(knows);
  };
  const refuse = (problem: Problem | null): void => {
    const first = problem?.errors[0]?.field;
    if (first !== undefined) reveal?.(fieldOf(first));
    const placed = (problem?.errors ?? []).map(({ field, sentence }) => ({ field: fieldAt(field), sentence }));
    for (const { field, sentence } of placed) if (field !== undefined) form.setError(field as FieldPath<F>, { type: 'server', message: sentence });
    setRefused(problem);
    const wrong = placed.find(({ field }) => field !== undefined)?.field;
    // What stands there is typed over.
    if (wrong !== undefined) form.setFocus(wrong as FieldPath<F>, { shouldSelect: true });
  };
  const send = async <T>(ask: Ask<F, z.input<S>, T>): Promise<T | undefined> => {
    let answer: T | undefined;
    let isHeard = false;
    setRefused(null);
    const submit = form.handleSubmit(
      async () => {
        isHeard = true;
        const typed = structuredClone(form.getValues());
        const { data, error } = await ask(body(typed), typed, goesOnFrom.current ?? 0);
        answer = data;
        if (error) return refuse(problemOf(error));
        safe.current = typed;
      },
      (errors) => {
        isHeard = true;
        const first = sentencesIn(errors)[0]?.path;
        if (first !== undefined) reveal?.(first);
        const lost = sentencesIn(errors).find(({ path }) => fieldAt(path) === undefined);
        if (lost) setRefused({ type: 'not-valid', status: 422, title: lost.sentence, errors: [], asks: [] });
      },
    );
    // A form that is put back while it is checked ends that without a word.
    while (!isHeard) await submit();
    return answer;
  };
  return {
    ...form,
    isTyped: isDirty,
    isSaved: saved !== null && saved === version && !isDirty,
    isBusy,
    refused,
    clashes,
    decide: (clash, takeTheirs) => {
      if (takeTheirs) form.setValue(clash.field as FieldPath<F>, clash.theirs as never, { shouldDirty: true });
      setClashes((were) => were.filter(({ field }) => field !== clash.field));
    },
    send: (ask) => inTurn(() => send(ask)),
    refuse,
    kept: (sent, savedAs) => {
      standing.current = { ...standing.current, came: sent };
      goesOnFrom.current = savedAs;
      form.reset(sent, { keepValues: true });
      setClashes([]);
      setSaved(savedAs);
    },
    fieldOf,
    wouldLose: () => isDirty && !equal(safe.current, form.getValues()),
    stood,
    takeUp: (was, typed) => {
      const { form: taken } = merged(was, typed, standing.current.came, rowKeys);
      for (const field of Object.keys(taken) as FieldPath<F>[])
        if (!equal(taken[field], form.getValues(field))) form.setValue(field, taken[field], { shouldDirty: true });
    },
  };
}

/** Every sentence in a tree of errors, and where it belongs. */
function sentencesIn(errors: unknown, path = ''): { path: string; sentence: string }[] {
  if (errors === null || typeof errors !== 'object') return [];
  if ('message' in errors && typeof errors.message === 'string') return [{ path, sentence: errors.message }];
  return Object.entries(errors).flatMap(([name, part]) => (name === 'ref' ? [] : sentencesIn(part, path === '' ? name : `${path}.${name}`)));
}

/** What a preview says of a field, which stands at it as long as nothing else does. */
export const Foreseen = createContext<(name: string) => string | undefined>(() => undefined);

/** The first sentence about a field or any part of it. */
export const sentenceIn = (error: unknown): string | undefined => sentencesIn(error)[0]?.sentence;
