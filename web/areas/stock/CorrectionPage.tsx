import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { CorrectionForm } from '@larder/contract/stock';
import { problemOf } from '../../kit/problem';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { Choice, Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { LineEntry } from '../../shared/LineEntry';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../../shared/reference';
import { useCorrectMutation, useForeseeCorrectionQuery } from './api';
import { isQuantity, EntryRow, type Entry } from './CorrectionRow';

/** Puts stock right, for one item or many: "there are now" or "plus or minus", with a reason, effect first. */
export function CorrectionPage() {
  useTitle('Correction');
  const [search] = useSearchParams();
  const first = Number(search.get('item')) || null;
  const [way, setWay] = useState<CorrectionForm['way']>('there-are-now');
  const [reasonId, setReasonId] = useState('');
  const [note, setNote] = useState('');
  const [entries, setEntries] = useState<Entry[]>(first ? [{ itemId: first, binId: null, lotId: null, quantity: '', then: null }] : []);
  const [done, setDone] = useState('');
  const [countedSince, setCounted] = useState(false);
  const { data: reference } = useReferenceQuery({});
  const [correct, { isLoading, error: refused }] = useCorrectMutation();
  const ready = entries.filter((entry) => entry.binId !== null && isQuantity(entry.quantity));
  const body: CorrectionForm = {
    way,
    reasonId: Number(reasonId),
    note,
    countedSince,
    lines: ready.map((entry) => ({
      itemId: entry.itemId,
      binId: entry.binId as number,
      lotId: entry.lotId,
      quantity: entry.quantity.trim(),
      seq: entry.then?.seq ?? null,
    })),
  };
  const asked = useDelayed(body, 250);
  const canForesee = asked.lines.length > 0 && asked.reasonId > 0;
  const { currentData, error } = useForeseeCorrectionQuery({ body: asked }, { skip: !canForesee });
  const problem = problemOf(refused);
  const counted = [problem, problemOf(error)].find((one) => one?.asks.includes('counted-since'));
  const put = (index: number, part: Partial<Entry>) => setEntries(entries.map((entry, at) => (at === index ? { ...entry, ...part } : entry)));
  const post = async () => {
    const result = await correct({ body });
    if (result.error) return;
    setDone(
      result.data.movementId === null
        ? `${count(ready.length, 'line')} agreed: nothing is posted, and the bins count as looked at.`
        : `Corrected ${count(ready.length, 'line')}. Undo it from the trail if it was wrong.`,
    );
    setEntries([]);
    setCounted(false);
  };
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Correction</h1>
          <span className="tabs" role="group" aria-label="How the quantity is given">
            <button type="button" aria-pressed={way === 'there-are-now'} onClick={() => setWay('there-are-now')}>
              There are now
            </button>
            <button type="button" aria-pressed={way === 'plus-or-minus'} onClick={() => setWay('plus-or-minus')}>
              Plus or minus
            </button>
          </span>
        </div>
        {done ? (
          <p className="notice done" role="status">
            {done}
          </p>
        ) : null}
        <div className="card pad fields">
          <Choice
            label="Reason"
            value={reasonId}
            onChange={setReasonId}
            none="Choose a reason"
            options={(reference?.reasons ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            error={problem?.errors.find(({ field }) => field === 'reasonId')?.sentence}
          />
          <Field label="Note" value={note} onChange={setNote} />
        </div>
        <div className="card">
          <table aria-label="Lines" className="floor">
            <thead>
              <tr>
                <th>Item</th>
                <th>Bin</th>
                <th className="number">Held</th>
                <th className="number">{way === 'there-are-now' ? 'There are now' : 'Plus or minus'}</th>
                <th className="number">Difference</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {entries.map((entry, index) => (
                <EntryRow
                  key={`${entry.itemId} ${index}`}
                  entry={entry}
                  way={way}
                  change={(part) => put(index, part)}
                  remove={() => setEntries(entries.filter((_, at) => at !== index))}
                  error={problem?.errors.find(({ field }) => field.startsWith(`lines.${ready.indexOf(entry)}.`))?.sentence}
                />
              ))}
              <tr>
                <td colSpan={6}>
                  <LineEntry
                    add={(item) => {
                      setDone('');
                      setEntries([...entries, { itemId: item.id, binId: null, lotId: null, quantity: '', then: null }]);
                    }}
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        {counted && !countedSince ? (
          <Asking question={counted.title} answers={[{ label: 'Enter it all the same', run: () => setCounted(true) }]} />
        ) : (
          <Refused error={refused} />
        )}
      </div>
      <EffectPanel
        title="What this will change"
        effects={canForesee ? currentData?.effects : undefined}
        error={canForesee ? error : undefined}
        idle="Choose a reason, then say for each line what there is."
      />
      <BottomBar
        hint="The difference is measured at the moment a line is entered"
        next={{
          label: `Correct ${count(ready.length, 'line')}`,
          run: () => void post(),
          disabled: isLoading || !currentData || asked.lines.length !== ready.length || Boolean(error),
        }}
      />
    </div>
  );
}
