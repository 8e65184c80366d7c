import { Notice } from '../kit/Notice';
import LinearProgress from '@mui/material/LinearProgress';
import { useCallback, useEffect, useState } from 'react';
import type { Problem } from '@larder/contract/values';
import { newRequestKey } from '@larder/contract/requestKey';
import * as contract from '@larder/contract/work';
import { api, read } from './api';

const work = api.injectEndpoints({ endpoints: (build) => ({ progress: read(build, contract.getProgress) }) });
const { useProgressQuery } = work;

/** What is quick is not announced: the wait is shown after so many milliseconds. */
const patience = 400;

/** A wait that shows how far the work is: `what` is counted, such as "labels". Nothing is shown while `of` is null, or for what is quick. */
export function WorkProgress({ of, what }: { of: string | null; what: string }) {
  return of === null ? null : <Shown key={of} of={of} what={what} />;
}

function Shown({ of, what }: { of: string; what: string }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const soon = setTimeout(() => setLate(true), patience);
    return () => clearTimeout(soon);
  }, []);
  const { data } = useProgressQuery({ params: { key: of } }, { skip: !late, pollingInterval: 500 });
  if (!late) return null;
  const { state, done, total } = data ?? { state: 'waiting', done: 0, total: null };
  const number = (count: number) => count.toLocaleString('en-GB');
  const said =
    state !== 'working' || done === 0
      ? state === 'waiting'
        ? 'Waiting for its turn'
        : 'Being made'
      : total === null
        ? `${number(done)} ${what} so far`
        : `${number(done)} of ${number(total)} ${what}`;
  return (
    <Notice role="status" aria-label="How far it is">
      {said}
      <LinearProgress
        aria-label={said}
        {...(total === null || state !== 'working' ? { variant: 'indeterminate' as const } : { variant: 'determinate' as const, value: (100 * done) / total })}
      />
    </Notice>
  );
}

const lost = 'The connection was lost, and the file with it. Ask for it again.';

/** Fetches a file and hands it to the browser: under which key it is on its way, what went wrong with the last, and the fetching, which gives whether it came. */
export function useFile() {
  const [key, setKey] = useState<string | null>(null);
  const [fault, setFault] = useState('');
  const take = useCallback(async (path: string, name: string, body?: unknown): Promise<boolean> => {
    const mine = newRequestKey();
    setKey(mine);
    setFault('');
    try {
      const answer = await fetch(path, {
        method: body === undefined ? 'GET' : 'POST',
        credentials: 'same-origin',
        headers: { 'Idempotency-Key': mine, ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      if (!answer.ok) {
        setFault(((await answer.json()) as Problem).title);
        return false;
      }
      const link = document.createElement('a');
      link.href = URL.createObjectURL(await answer.blob());
      link.download = name;
      link.click();
      URL.revokeObjectURL(link.href);
      return true;
    } catch {
      setFault(lost);
      return false;
    } finally {
      setKey(null);
    }
  }, []);
  return { key, fault, take };
}
