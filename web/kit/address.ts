import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';

/** What a list is asked for lives in the address, so that it can be gone back to, kept and sent to somebody. */
export interface Address {
  /** What is asked, empty when nothing. */
  get: (name: string) => string;
  put: (name: string, value: string) => void;
  /** The key of the option that is asked for, else the first. */
  choice: <K extends string>(name: string, options: readonly (readonly [K, ...unknown[]])[]) => K;
}

export function useAddress(): Address {
  const [search, setSearch] = useSearchParams();
  const get = (name: string) => search.get(name) ?? '';
  return {
    get,
    put: (name, value) =>
      setSearch(
        (now) => {
          if (value) now.set(name, value);
          else now.delete(name);
          return now;
        },
        { replace: true },
      ),
    choice: (name, options) => (options.find(([key]) => key === get(name)) ?? (options[0] as (typeof options)[number]))[0],
  };
}

/**
 * What is typed into a field whose words live in the address. The address follows a moment later, so the field holds
 * its own words meanwhile and no key is lost; it takes over words that come from elsewhere (going back, a kept view).
 */
export function useTyped(address: Address, name: string): { value: string; onChange: (value: string) => void } {
  const asked = address.get(name);
  const [value, setValue] = useState(asked);
  const underWay = useRef<string[]>([]);
  useEffect(() => {
    const at = underWay.current.indexOf(asked);
    underWay.current = at < 0 ? [] : underWay.current.slice(at + 1);
    if (at < 0) setValue(asked);
  }, [asked]);
  return {
    value,
    onChange: (typed) => {
      underWay.current.push(typed);
      setValue(typed);
      address.put(name, typed);
    },
  };
}

/** Sorting by the columns of a list, kept in the address: the same column again turns it round. */
export function useSort<K extends string>(address: Address, keys: readonly K[], first: K) {
  const key = keys.find((one) => one === address.get('sort')) ?? first;
  const direction: 'up' | 'down' = address.get('direction') === 'down' ? 'down' : 'up';
  const change = (next: string) => (next === key ? address.put('direction', direction === 'up' ? 'down' : 'up') : address.put('sort', next));
  return { key, direction, change };
}
