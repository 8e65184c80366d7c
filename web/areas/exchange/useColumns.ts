import { useEffect, useState } from 'react';
import { matchColumns, type ExchangeKind } from '@larder/core/exchange/exchange';
import type { DayForm, DecimalMark } from '@larder/core/exchange/cells';
import type { ImportForm } from '@larder/contract/exchange';
import { newRequestKey } from '@larder/contract/requestKey';
import { refusalOf } from '../../kit/draft';
import { useAttributesQuery } from '../../shared/items';
import { useCheckImportMutation, useKeptColumnsMutation } from './api';
import type { OpenFile } from './file';
import type { FileFound } from './readTable';

export interface ColumnsProps {
  kind: ExchangeKind;
  file: OpenFile;
  found: FileFound;
  done: (id: number) => void;
}

/** Which field each column of a file is meant to be, how its numbers and days are written, and the dry run of it. */
export function useColumns({ kind, file, found, done }: ColumnsProps) {
  const { data: attributes } = useAttributesQuery({});
  const own = (attributes?.rows ?? []).filter(({ subject }) => subject === kind.own);
  const [fields, setFields] = useState<(string | null)[] | null>(null);
  const [mark, setMark] = useState<DecimalMark | null>(found.mark);
  const [days, setDays] = useState<DayForm | null>(found.days);
  const [kept] = useKeptColumnsMutation();
  const [check, checking] = useCheckImportMutation();
  const { refused, busy } = refusalOf(checking);
  const [key, setKey] = useState<string | null>(null);
  const [working, setWorking] = useState(false);
  const { headings } = found;
  useEffect(() => {
    const remember = async () => {
      const { data } = await kept({ body: { kind: kind.key as ImportForm['kind'], headings } });
      setFields((now) => now ?? data?.fields ?? null);
    };
    void remember();
  }, [kept, kind.key, headings]);
  // A column without anything in it says nothing: left in, it would empty what is there.
  const chosen = fields ?? matchColumns(kind, headings, own).map((key, index) => (found.empty[index] ? null : key));
  const all = [
    ...kind.fields.map(({ key, name, kind: form }) => ({ key, name, form })),
    ...own.map(({ id, name, kind: form }) => ({
      key: `attribute ${id}`,
      name,
      form: form === 'number' ? ('number' as const) : form === 'date' ? ('day' as const) : ('text' as const),
    })),
  ];
  const kinds = chosen.map((key) => all.find((field) => field.key === key)?.form ?? null);
  const needsMark = kinds.includes('number') && mark === null;
  const needsDays = kinds.includes('day') && days === null;
  const missing = kind.fields.filter(({ key, needed }) => needed && !chosen.includes(key));
  const put = (index: number, key: string) => setFields(chosen.map((one, at) => (at === index ? key || null : one === key ? null : one)));
  const run = async () => {
    setWorking(true);
    const rows = await file.rows({ fields: chosen, kinds, mark: mark ?? 'point', days: days ?? 'ymd' });
    const mine = newRequestKey();
    setKey(mine);
    const { data } = await check({ key: mine, body: { kind: kind.key as ImportForm['kind'], fileName: file.file.name, headings, fields: chosen, rows } });
    setKey(null);
    setWorking(false);
    if (data) done(data.id);
  };
  return { all, chosen, kinds, put, mark, setMark, days, setDays, needsMark, needsDays, missing, run, key, refused, isWorking: working || busy };
}
