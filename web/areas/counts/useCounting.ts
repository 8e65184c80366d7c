import type { countBin, CountEntry, ToCount } from '@larder/contract/counts';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { Problem } from '@larder/contract/values';
import { decimal } from '@larder/core/decimal';
import { isNumber } from '@larder/core/number';
import { useRef, useState } from 'react';
import { useInTurn } from '../../kit/inTurn';
import { quantity } from '../../kit/format';
import { problemOf } from '../../kit/problem';
import type { Heard } from '../../kit/scan';
import { useLazyReadCodeQuery } from '../../shared/items';
import { useEnterCountMutation, useNameLotMutation } from './api';

type Bin = ResponseOf<typeof countBin>;
type Thing = Pick<ToCount, 'itemId' | 'lotId'>;
export const keyOf = ({ itemId, lotId }: Thing): string => `${itemId}/${lotId ?? ''}`;

/** What of an item is counted in a bin, beside what the server knows of it already. */
interface Typed {
  text: string;
  way: CountEntry['way'];
  /** It has not been sent yet. */
  isNew: boolean;
}

/** A bin that a scan may name, and whether it is on the sheet. */
export interface NamedBin {
  id: number;
  code: string;
  isCounted: boolean;
}

/** An item that is kept by lots or serials, found where it was not expected. */
export type Asked = Pick<ToCount, 'itemId' | 'sku' | 'name' | 'unit' | 'tracking'>;

export interface Counting {
  /** What was counted of it; null while nobody has. */
  of: (row: ToCount) => string | null;
  /** What is wrong with what was typed, if anything. */
  wrong: (row: ToCount) => string | undefined;
  type: (row: ToCount, text: string) => void;
  /** Sends what was typed. */
  enter: (row: ToCount) => void;
  scan: (code: string, goTo: (placeId: number) => void) => Promise<Heard>;
  /** Puts a line of an item that was not expected. */
  add: (item: { id: number; sku: string; name: string; tracking: ToCount['tracking']; unit: string }) => void;
  /** An item of which must be said which lot or serial it is; null when nothing is asked. */
  asks: Asked | null;
  /** Names it, known or not, and counts one of it; tells what is wrong with it, if anything. */
  name: (code: string, useBy: string | null) => Promise<Problem | null>;
  ask: (item: Asked | null) => void;
  /** Such lines, until they are counted. */
  found: readonly ToCount[];
  said: string | null;
  fault: Problem | null;
  isBusy: boolean;
  /** What was typed and is no number: the first such line, as it is called. */
  firstWrong: () => string | null;
  /** Asks anew for what is to be counted again. */
  askAnew: () => void;
  /** Says that none of these is there. */
  none: (rows: readonly ToCount[]) => void;
  /** Waits until all that was counted is sent. */
  settled: () => Promise<void>;
}

/** Counts what lies in a bin: totals are kept here and sent one after the other, each as all there is. */
export function useCounting(at: { id: number; placeId: number }, bin: Bin, bins: readonly NamedBin[], may: boolean): Counting {
  const [typed, setTyped] = useState<Readonly<Record<string, Typed>>>({});
  const now = useRef(typed);
  const [found, setFound] = useState<readonly ToCount[]>([]);
  const [said, setSaid] = useState<string | null>(null);
  const [fault, setFault] = useState<Problem | null>(null);
  const { isBusy, inTurn } = useInTurn();
  const [send] = useEnterCountMutation();
  const [nameLot] = useNameLotMutation();
  const [asks, ask] = useState<Asked | null>(null);
  const [readCode] = useLazyReadCodeQuery();
  const rows = [...bin.rows, ...found.filter((one) => !bin.rows.some((row) => keyOf(row) === keyOf(one)))];

  const put = (key: string, one: Typed) => {
    now.current = { ...now.current, [key]: one };
    setTyped(now.current);
  };
  /** Nothing typed is nothing said: what the server knows stands. */
  const drop = (key: string) => {
    const { [key]: _emptied, ...others } = now.current;
    now.current = others;
    setTyped(others);
  };
  const isWrong = ({ text }: Typed): boolean => text.trim() !== '' && !isNumber(text.trim(), 'quantityOrNone');
  const of = (row: ToCount): string | null => {
    const own = typed[keyOf(row)];
    if (own) return own.text.trim() === '' ? null : own.text;
    // What is to be counted again is asked for anew.
    return row.recount === null ? row.counted : null;
  };
  const submit = async (row: Pick<ToCount, 'itemId' | 'lotId' | 'seq'>): Promise<void> => {
    const key = keyOf(row);
    const one = now.current[key];
    if (!one?.isNew || isWrong(one)) return;
    if (one.text.trim() === '') return drop(key);
    put(key, { ...one, isNew: false });
    const entry = { itemId: row.itemId, lotId: row.lotId, quantity: one.text.trim(), way: one.way };
    const known = rows.find((other) => keyOf(other) === key);
    const kept = {
      words: `${quantity(entry.quantity)} of ${known?.lot ?? known?.sku ?? 'it'} in ${bin.bin}`,
      to: `/stock/counts/${at.id}/${at.placeId}`,
      // What is sent later says what this device knew of when it was counted.
      body: { entries: [{ ...entry, seq: row.seq }] },
    };
    const { error } = await send({ params: at, body: { entries: [entry] }, kept });
    setFault(error ? (problemOf(error) ?? null) : null);
    if (error && now.current[key] && !now.current[key].isNew) put(key, { ...now.current[key], isNew: true });
  };
  const enter = (row: Parameters<typeof submit>[0]) => void inTurn(() => submit(row));
  const refuse = (words: string): Heard => {
    setSaid(words);
    return 'refused';
  };
  const more = (row: ToCount, by: string): Heard => {
    const had = now.current[keyOf(row)]?.text ?? (row.recount === null ? row.counted : null) ?? '0';
    if (row.tracking === 'serial' && had !== '0') return refuse(`${row.lot ?? row.sku} is one unit, and it is counted.`);
    const total = decimal(isNumber(had, 'quantityOrNone') ? had : '0')
      .plus(by)
      .toFixed();
    put(keyOf(row), { text: total, way: 'scanned', isNew: true });
    enter(row);
    setSaid(`${quantity(total)} of ${row.lot ?? row.sku}.`);
    return true;
  };
  const unexpected = (part: Pick<ToCount, 'itemId' | 'sku' | 'name' | 'unit' | 'tracking' | 'lotId' | 'lot'>): ToCount => ({
    ...part,
    step: '1',
    useBy: null,
    expected: bin.blind ? null : '0',
    counted: null,
    recount: null,
    settled: false,
    listed: false,
    seq: 0,
    codes: [],
  });
  /** So many more of it, whether it was expected here or not. */
  const oneMore = (item: Parameters<typeof unexpected>[0], by: string): Heard => {
    const known = rows.find((row) => row.itemId === item.itemId && row.lotId === item.lotId);
    const row = known ?? unexpected(item);
    if (!known) setFound([...found, row]);
    return more(row, by);
  };
  const askFor = (item: Asked) => {
    ask(item);
    setSaid(`${item.sku} is kept by ${item.tracking}s: scan or type which ${item.tracking} it is.`);
  };
  const name: Counting['name'] = async (code, useBy) => {
    if (!asks) return null;
    const { data, error } = await nameLot({ params: at, body: { itemId: asks.itemId, code, useBy } });
    if (!data) return problemOf(error) ?? null;
    ask(null);
    oneMore({ ...asks, lotId: data.lotId, lot: data.lot }, '1');
    return null;
  };
  const scan: Counting['scan'] = async (code, goTo) => {
    const same = (one: string) => one.toLowerCase() === code.trim().toLowerCase();
    const named = bins.find((one) => same(one.code));
    if (named && named.id !== at.placeId && !named.isCounted) return refuse(`${named.code} is not on ${bin.number}.`);
    if (named) {
      if (named.id === at.placeId) setSaid(`${named.code}: count what lies in it.`);
      else goTo(named.id);
      return true;
    }
    if (!may) return refuse('Begin the bin first.');
    const meant = rows.flatMap((row) => row.codes.filter((one) => same(one.code)).map(({ factor }) => ({ row, factor })));
    const [one] = meant;
    if (one && new Set(meant.map(({ row }) => row.itemId)).size === 1 && meant.length === 1) return more(one.row, one.factor);
    const { data: read, error: unread } = await readCode({ query: { code } }, true);
    if (unread) return refuse(`What ${code} means is not known without a connection.`);
    // What means nothing else is the number of the lot or serial that is asked for.
    if (asks && !read?.items.length) {
      const fault = await name(code, null);
      setSaid(fault?.title ?? `1 of ${code}.`);
      return fault === null ? true : 'refused';
    }
    const [item, other] = read?.items ?? [];
    if (!read || !item) return refuse(`${code} means no bin and no item here.`);
    if (other) return refuse(`${code} is on ${read.items.map(({ sku }) => sku).join(' and ')}: type which one.`);
    if (item.tracking !== 'none' && item.lotId === null) {
      askFor(item);
      return 'refused';
    }
    return oneMore({ ...item, lot: read.serial ?? read.lot }, read.quantity ?? item.factor);
  };
  return {
    of,
    wrong: (row) => {
      const own = typed[keyOf(row)];
      return own && isWrong(own) ? 'Type how many there are.' : undefined;
    },
    type: (row, text) => put(keyOf(row), { text, way: 'typed', isNew: true }),
    enter,
    scan,
    add: ({ id, ...item }) => {
      const known = rows.find((row) => row.itemId === id && row.lotId === null);
      if (item.tracking !== 'none') askFor({ ...item, itemId: id });
      else if (!known) setFound([...found, unexpected({ ...item, itemId: id, lotId: null, lot: null })]);
    },
    found: found.filter((one) => !bin.rows.some((row) => keyOf(row) === keyOf(one))),
    said,
    fault,
    isBusy,
    firstWrong: () => {
      const row = rows.find((one) => {
        const own = now.current[keyOf(one)];
        return own !== undefined && isWrong(own);
      });
      return row ? (row.lot ?? row.sku) : null;
    },
    asks,
    ask,
    name,
    askAnew: () => {
      now.current = {};
      setTyped(now.current);
      setSaid(null);
    },
    none: (gone) => {
      for (const row of gone) {
        put(keyOf(row), { text: '0', way: 'typed', isNew: true });
        enter(row);
      }
    },
    settled: async () => {
      for (const row of rows) if (now.current[keyOf(row)]?.isNew) enter(row);
      await inTurn(() => Promise.resolve());
    },
  };
}
