import { createContext, use, useCallback, useEffect, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';

/** What is asked in the address as it is at this moment, also while the page that asks it is still being drawn. */
export const AskedNow = createContext<() => string>(() => {
  throw new Error('There is no address here.');
});

/** Changes what is asked in the address. Changes made one right after the other add up, however long the page takes to be drawn for each. */
export function useChangeAsked(): (change: (asked: URLSearchParams) => void, how?: { replace: boolean }) => void {
  const navigate = useNavigate();
  const now = use(AskedNow);
  return useCallback(
    (change, how = { replace: true }) => {
      const asked = new URLSearchParams(now());
      change(asked);
      void navigate({ search: asked.toString() }, how);
    },
    [navigate, now],
  );
}

/** What a list is asked for lives in the address, so that it can be gone back to, kept and sent to somebody. */
export interface Address {
  /** What is asked, empty when nothing. */
  get: (name: string) => string;
  put: (name: string, value: string) => void;
  /** Whether something is asked that keeps rows out: words, a filter; how rows are sorted and which columns are shown does not. */
  isNarrowed: boolean;
  /** Asks for everything again. */
  widen: () => void;
  /** The key of the option that is asked for, else the first. */
  choice: <K extends string>(name: string, options: readonly (readonly [K, ...unknown[]])[]) => K;
}

/** Under which name the address has the filters and columns kept by name that are looked at. */
export const viewName = 'view';
/** Under which name it has the figure that is explained over the page. */
export const explainName = 'explain';
const ordering: readonly string[] = ['sort', 'direction', 'columns', viewName, explainName];

export function useAddress(): Address {
  const [search] = useSearchParams();
  const change = useChangeAsked();
  const narrowing = [...search.keys()].filter((name) => !ordering.includes(name));
  const get = (name: string) => search.get(name) ?? '';
  return {
    get,
    put: (name, value) =>
      change((asked) => {
        if (value) asked.set(name, value);
        else asked.delete(name);
      }),
    isNarrowed: narrowing.length > 0,
    widen: () => change((asked) => narrowing.forEach((name) => asked.delete(name)), { replace: false }),
    choice: (name, options) => (options.find(([key]) => key === get(name)) ?? (options[0] as (typeof options)[number]))[0],
  };
}

/** How long typing rests before the address follows, in milliseconds. */
const rest = 120;

/**
 * What is typed into a field whose words live in the address. The address, and the list with it, follows when typing
 * rests or the field is left, so the field holds its own words meanwhile, no key is lost and none draws the list anew;
 * it takes over words that come from elsewhere (going back, a kept view).
 */
export function useTyped(address: Address, name: string): { value: string; onChange: (value: string) => void; onBlur: () => void } {
  const asked = address.get(name);
  const [value, setValue] = useState(asked);
  const sent = useRef<string[]>([]);
  const typing = useRef<string>(undefined);
  useEffect(() => {
    const at = sent.current.indexOf(asked);
    sent.current = at < 0 ? [] : sent.current.slice(at + 1);
    if (at < 0 && typing.current === undefined) setValue(asked);
  }, [asked]);
  const follow = () => {
    if (typing.current === undefined) return;
    if (typing.current !== asked) {
      sent.current.push(typing.current);
      address.put(name, typing.current);
    }
    typing.current = undefined;
  };
  const latest = useRef(follow);
  latest.current = follow;
  useEffect(() => {
    if (typing.current === undefined) return;
    const timer = setTimeout(() => latest.current(), rest);
    return () => clearTimeout(timer);
  }, [value]);
  return {
    value,
    onChange: (typed) => {
      typing.current = typed;
      setValue(typed);
    },
    onBlur: follow,
  };
}

/** Sorting by the columns of a list, kept in the address: the same column again turns it round. */
export function useSort<K extends string>(address: Address, keys: readonly K[], first: K, begins: 'up' | 'down' = 'up') {
  const key = keys.find((one) => one === address.get('sort')) ?? first;
  const direction = (['up', 'down'] as const).find((one) => one === address.get('direction')) ?? begins;
  const change = (next: string) => (next === key ? address.put('direction', direction === 'up' ? 'down' : 'up') : address.put('sort', next));
  return { key, direction, change };
}
