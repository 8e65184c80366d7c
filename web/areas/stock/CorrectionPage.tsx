import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useSay } from '../../shared/say';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useWatch } from 'react-hook-form';
import { problemOf } from '../../kit/problem';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../../shared/reference';
import { useCorrectMutation, useForeseeCorrectionQuery } from './api';
import { focusNewLine } from '../../shared/LineEntry';
import { correctionBody, correctionField, isReady, newEntry, type CorrectionDraft } from './correctionForm';
import { CorrectionLines } from './CorrectionLines';
import { CorrectionWay } from './CorrectionWay';

const { Choice, Field } = fieldsOf<CorrectionDraft>();

/** Puts stock right, for one item or many: "there are now" or "plus or minus", with a reason, effect first. */
export function CorrectionPage() {
  useTitle('Correction');
  const [search] = useSearchParams();
  const first = Number(search.get('item')) || null;
  const [countedSince, setCounted] = useState(false);
  const say = useSay();
  const { data: reference } = useReferenceQuery({});
  const [correct] = useCorrectMutation();
  const form = useForm({
    came: { way: 'there-are-now', reasonId: null, note: '', entries: first ? [newEntry(first)] : [] },
    body: (typed: CorrectionDraft) => correctionBody(typed, countedSince),
    checkedBy: async () => (await import('@larder/contract/stock')).correct.body,
    sentAs: correctionField,
  });
  const typed = useWatch({ control: form.control }) as CorrectionDraft;
  const ready = typed.entries.filter(isReady);
  const asked = useDelayed(correctionBody(typed, countedSince), 250);
  const canForesee = asked.lines.length > 0 && asked.reasonId > 0;
  const { currentData, error } = useForeseeCorrectionQuery({ body: asked }, { skip: !canForesee });
  const counted = [form.refused, problemOf(error)].find((one) => one?.asks.includes('counted-since'));
  const post = async () => {
    const posted = await form.send((body) => correct({ body }));
    if (!posted) return;
    const { movementId } = posted;
    const lines = count(ready.length, 'line');
    say({
      text: movementId === null ? `${lines} agreed: nothing is posted, and the bins count as looked at.` : `Corrected ${lines}.`,
      undo: { movementId, what: `the correction of ${lines}` },
    });
    // The field that is left is told so while it is still there.
    focusNewLine();
    form.reset({ ...form.getValues(), entries: [] });
    setCounted(false);
  };
  // Without a reason it is refused at that field, which then has the focus.
  const isForeseen = Boolean(currentData) && asked.lines.length === ready.length && !error;
  const may = !form.isBusy && ready.length > 0 && (isForeseen || typed.reasonId === null);
  return (
    <FormFrame form={form} save={() => may && void post()}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Correction</h1>
            <CorrectionWay way={typed.way} setWay={(way) => form.setValue('way', way)} />
          </PageHead>
          <Card pad fields component="div">
            <Choice
              label="Reason"
              name="reasonId"
              ids
              none="Choose a reason"
              options={(reference?.reasons ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Field label="Note" name="note" />
          </Card>
          <CorrectionLines way={typed.way} autoFocus={first === null} />
          {counted && !countedSince ? (
            <Asking question={counted.title} answers={[{ label: 'Enter it all the same', run: () => setCounted(true) }]} />
          ) : (
            <Refused error={form.refused} />
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
            disabled: !may,
          }}
        />
      </Split>
    </FormFrame>
  );
}
