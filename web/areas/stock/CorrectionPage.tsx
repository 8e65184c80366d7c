import { PageHead, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useScan } from '../../kit/scan';
import { useSay } from '../../shared/say';
import { useState } from 'react';
import Button from '@mui/material/Button';
import { Link, useSearchParams } from 'react-router';
import { useWatch } from 'react-hook-form';
import { problemOf } from '../../kit/problem';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useCorrectMutation, useForeseeCorrectionQuery } from './api';
import { focusNewLine } from '../../shared/LineEntry';
import { correctionBody, correctionField, isReady, labelsOf, newEntry, withFile, type CorrectionDraft } from './correctionForm';
import { CorrectionHead } from './CorrectionHead';
import { CorrectionLines } from './CorrectionLines';
import { CorrectionWay } from './CorrectionWay';
import { most, ScannerFile, type FileLine } from './ScannerFile';
import { useCountedScan } from './useCountedScan';

/** Puts stock right, for one item or many: "there are now" or "plus or minus", with a reason, effect first. */
export function CorrectionPage() {
  useTitle('Correction');
  const [search] = useSearchParams();
  const first = Number(search.get('item')) || null;
  const [countedSince, setCounted] = useState(false);
  const say = useSay();
  const [said, setSaid] = useState<string | null>(null);
  /** Of a scanner's file: what comes after the lines that fit on one sheet. */
  const [left, setLeft] = useState<readonly FileLine[]>([]);
  const [correct] = useCorrectMutation();
  const form = useForm({
    came: {
      way: 'there-are-now',
      reasonId: null,
      note: '',
      accountId: null,
      departmentId: null,
      tax: '',
      happenedOn: null,
      binId: Number(search.get('bin')) || null,
      entries: first ? [newEntry(first)] : [],
    },
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
  const takeScan = useCountedScan(form, setSaid);
  useScan(takeScan);
  const post = async () => {
    const posted = await form.send((body) => correct({ body }));
    if (!posted) return;
    const { movementId } = posted;
    const lines = count(ready.length, 'line');
    say({
      text: movementId === null ? `${lines} agreed: nothing is posted, and the bins count as looked at.` : `Corrected ${lines}.`,
      undo: { movementId, what: `the correction of ${lines}` },
      made: { to: labelsOf(ready), name: 'Labels for what was corrected' },
    });
    // The field that is left is told so while it is still there.
    focusNewLine();
    form.reset({ ...form.getValues(), entries: withFile([], left.slice(0, most)) });
    setLeft(left.slice(most));
    setCounted(false);
    setSaid(null);
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
          <CorrectionHead />
          {said === null ? null : <Notice role="status">{said}</Notice>}
          <CorrectionLines way={typed.way} autoFocus={first === null} />
          <ScannerFile
            take={(lines) => {
              const room = Math.max(0, most - typed.entries.length);
              form.setValue('entries', withFile(form.getValues('entries'), lines.slice(0, room)), { shouldDirty: true });
              setLeft(lines.slice(room));
            }}
          />
          {left.length > 0 ? <Notice>{count(left.length, 'more line')} of the file come when these are corrected.</Notice> : null}
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
          hint="Scan a bin, then what lies in it; the difference is measured at the moment a line is entered"
          next={{
            label: `Correct ${count(ready.length, 'line')}`,
            run: () => void post(),
            disabled: !may,
          }}
        >
          {typed.entries.length > 0 ? (
            <Button component={Link} to={labelsOf(typed.entries)} target="_blank">
              Labels
            </Button>
          ) : null}
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
