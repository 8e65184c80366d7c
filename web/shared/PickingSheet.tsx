import type { pick } from '@larder/contract/picking';
import { decimal } from '@larder/core/decimal';
import type { MovedHere } from '@larder/core/floor/held';
import { useState, type ReactNode } from 'react';
import type { z } from 'zod';
import { useWatch } from 'react-hook-form';
import { Asking } from '../kit/Asking';
import { BottomBar } from '../kit/BottomBar';
import { useDelayed } from '../kit/delayed';
import { EffectPanel } from '../kit/EffectPanel';
import { useForm } from '../kit/form';
import { fieldsOf } from '../kit/formFields';
import { FormFrame } from '../kit/FormFrame';
import { count, quantity } from '../kit/format';
import { Split, Stack } from '../kit/layout';
import { Notice } from '../kit/Notice';
import { problemOf } from '../kit/problem';
import { sentRow, useVersionOf } from '../kit/row';
import { useScan } from '../kit/scan';
import { Refused } from '../kit/states';
import { useLazyReadCodeQuery } from './items';
import { isPicked, pickedLines, rowKeys, shortRows, takenFrom, type PickForm } from './pickForm';
import { PickRows } from './PickRows';
import { pickScan, type PickRow } from './pickScan';

const { Field } = fieldsOf<PickForm>();

/** What is sent of a pick list, whosever it is. */
export type Picked = Pick<z.input<typeof pick.body>, 'lines' | 'short' | 'shortReason' | 'othersRound'>;

interface PickingSheetProps<A> {
  rows: readonly PickRow[];
  missing: readonly { lineId: number; sku: string; quantity: string; number?: string }[];
  /** What taking so much will change, asked beforehand; null: nothing is asked. */
  useForeseen: (body: Picked | null) => Pick<Parameters<typeof EffectPanel>[0], 'effects' | 'error'>;
  /** Sends it; `allTaken` says that nothing of the list was left, `moves` what is taken from where. */
  send: (body: Picked, allTaken: boolean, moves: MovedHere[]) => Promise<{ data?: A; error?: unknown }>;
  done: (answer: A, lines: number, allTaken: boolean) => void;
  /** What the next step is called, by how many lines it takes. */
  nextWords?: (lines: string) => string;
  /** Lesser actions. */
  children: ReactNode;
}

const toTheBench = (lines: string): string => `Put ${lines} on the bench`;

/** A pick list in walking order. Quantities are what is asked, but where less was found before; less is a short pick, with a reason, and its bin is to be counted. A scan counts one. */
export function PickingSheet<A>({ rows, missing, useForeseen, send, done, nextWords = toTheBench, children }: PickingSheetProps<A>) {
  const [scanned, setScanned] = useState<string | null>(null);
  const [readCode] = useLazyReadCodeQuery();
  const form = useForm({
    came: { rows: rows.map((row) => ({ ...row, picked: row.doubtful ? '0' : row.take })), shortReason: '' },
    version: useVersionOf(rows),
    rowKeys,
    body: (typed: PickForm): Picked => ({ lines: pickedLines(typed), short: shortRows(typed), shortReason: typed.shortReason }),
    checkedBy: async () => (await import('@larder/contract/picking')).pickRound.body,
    sentAs: (path, typed) => {
      const row = sentRow(path, 'lines', typed.rows, isPicked);
      return row ? `rows.${row.at}.picked` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as PickForm;
  const lines = pickedLines(typed);
  const asked = useDelayed({ lines, short: shortRows(typed), shortReason: typed.shortReason }, 250);
  const shown = asked.lines.length > 0;
  const { effects, error: foreseen } = useForeseen(shown ? asked : null);
  const allTaken = typed.rows.every(({ picked, take }) => Number(picked) >= Number(take));
  useScan((code) => {
    // From the first scan on only what is scanned counts.
    const before = form.getValues('rows').map((row) => (scanned === null && row.picked === row.take ? { ...row, picked: '0' } : row));
    const { said, ...found } = pickScan(before, ({ picked }) => picked, code);
    const counted = (one: PickForm['rows'][number]) =>
      found.row === one
        ? {
            ...one,
            picked: decimal(one.picked || 0)
              .plus(found.quantity)
              .toFixed(),
          }
        : one;
    form.setValue('rows', before.map(counted), { shouldDirty: true });
    setScanned(said);
    if (found.row !== null) return true;
    void whatItIs(code, said);
    return 'refused';
  });
  /** What was scanned and is not asked for is told by its name. */
  const whatItIs = async (code: string, said: string) => {
    const { data } = await readCode({ query: { code } });
    const item = data?.items[0];
    if (item) setScanned((now) => (now === said ? `${said} It is ${item.sku}, ${item.name}.` : now));
  };
  const asks = form.refused?.asks ?? [];
  const post = async (othersRound = false) => {
    let answer: A | undefined;
    const sent = await form.send(async (body) => {
      const result = await send(othersRound ? { ...body, othersRound } : body, allTaken, takenFrom(form.getValues()));
      answer = result.data;
      return result as Awaited<ReturnType<Parameters<typeof form.send>[0]>>;
    });
    if (!sent || answer === undefined) return;
    setScanned(null);
    done(answer, lines.length, allTaken);
  };
  return (
    <FormFrame form={form} save={() => void post()} foreseen={shown ? problemOf(foreseen) : null}>
      <Split>
        <Stack>
          {scanned === null ? null : <Notice role="status">{scanned}</Notice>}
          {form.refused && asks.includes('othersRound') ? (
            <Asking question={form.refused.title} answers={[{ label: 'Pick it all the same', run: () => void post(true) }]} busy={form.isBusy} />
          ) : (
            <Refused error={form.refused} />
          )}
          <PickRows rows={typed.rows} />
          {missing.map((line) => (
            <p key={line.lineId} className="late">
              {quantity(line.quantity)} of {line.sku}
              {line.number ? ` for ${line.number}` : ''} cannot be picked yet; they stay on the order.
            </p>
          ))}
          {allTaken ? null : (
            <Field
              label="Why fewer than asked"
              name="shortReason"
              placeholder="such as: two were cracked"
              hint={() => 'The bin is marked to be counted, and others are offered first.'}
            />
          )}
        </Stack>
        <EffectPanel
          title="What picking will change"
          effects={shown ? effects : undefined}
          error={shown ? foreseen : undefined}
          idle="Nothing is picked yet."
        />
        <BottomBar
          hint="Scan each piece, or type what you took"
          next={{ label: nextWords(count(lines.length, 'line')), run: () => void post(), disabled: lines.length === 0 || form.isBusy }}
        >
          {children}
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
