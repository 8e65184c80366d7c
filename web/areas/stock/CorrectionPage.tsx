import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useSay } from '../../shared/Messages';
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
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../../shared/reference';
import { useCorrectMutation, useForeseeCorrectionQuery } from './api';
import { isQuantity, type Entry } from './CorrectionRow';
import { CorrectionLines } from './CorrectionLines';
import { CorrectionWay } from './CorrectionWay';

/** Puts stock right, for one item or many: "there are now" or "plus or minus", with a reason, effect first. */
export function CorrectionPage() {
  useTitle('Correction');
  const [search] = useSearchParams();
  const first = Number(search.get('item')) || null;
  const [way, setWay] = useState<CorrectionForm['way']>('there-are-now');
  const [reasonId, setReasonId] = useState('');
  const [note, setNote] = useState('');
  const [entries, setEntries] = useState<Entry[]>(first ? [{ itemId: first, binId: null, lotId: null, quantity: '', then: null }] : []);
  const say = useSay();
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
  const post = async () => {
    const result = await correct({ body });
    if (result.error) return;
    const { movementId } = result.data;
    const lines = count(ready.length, 'line');
    say({
      text: movementId === null ? `${lines} agreed: nothing is posted, and the bins count as looked at.` : `Corrected ${lines}.`,
      undo: { movementId, what: `the correction of ${lines}` },
    });
    setEntries([]);
    setCounted(false);
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Correction</h1>
          <CorrectionWay way={way} setWay={setWay} />
        </PageHead>
        <Card pad fields component="div">
          <Choice
            label="Reason"
            value={reasonId}
            onChange={setReasonId}
            none="Choose a reason"
            options={(reference?.reasons ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            error={problem?.errors.find(({ field }) => field === 'reasonId')?.sentence}
          />
          <Field label="Note" value={note} onChange={setNote} />
        </Card>
        <CorrectionLines
          way={way}
          entries={entries}
          change={setEntries}
          errorOf={(entry) => problem?.errors.find(({ field }) => field.startsWith(`lines.${ready.indexOf(entry)}.`))?.sentence}
        />
        {counted && !countedSince ? (
          <Asking question={counted.title} answers={[{ label: 'Enter it all the same', run: () => setCounted(true) }]} />
        ) : (
          <Refused error={refused} />
        )}
      </Stack>
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
    </Split>
  );
}
