import { PageHead, Split, Stack } from '../../kit/layout';
import { useSay } from '../../shared/say';
import { useWatch } from 'react-hook-form';
import { useSearchParams } from 'react-router';
import type { OpeningForm } from '@larder/contract/stock';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { problemOf } from '../../kit/problem';
import { EffectPanel } from '../../kit/EffectPanel';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useForeseeOpeningQuery, useOpenStockMutation } from './api';
import { entryField, isReady, newEntry, sentEntries, type WithEntries } from '../../shared/entries';
import { focusNewLine } from '../../shared/LineEntry';
import { IncomingSheet } from '../../shared/IncomingSheet';

/** The stock a business begins with, item by item or on a sheet: bin, quantity, worth, lots and serials. Posts through the ledger, effect first. */
export function OpeningPage() {
  useTitle('Opening stock');
  const [search] = useSearchParams();
  const form = useForm({
    came: { entries: search.getAll('item').map((id) => newEntry(Number(id))) },
    body: ({ entries }: WithEntries): OpeningForm => ({ note: '', countedSince: false, lines: sentEntries(entries.filter(isReady)) }),
    checkedBy: async () => (await import('@larder/contract/stock')).openStock.body,
    sentAs: entryField,
  });
  const entries = useWatch({ control: form.control, name: 'entries' });
  const say = useSay();
  const [open] = useOpenStockMutation();
  const ready = entries.filter(isReady);
  const asked = useDelayed<OpeningForm>({ note: '', countedSince: false, lines: sentEntries(ready) }, 300);
  const { currentData, error } = useForeseeOpeningQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const shown = ready.length > 0 && asked.lines.length > 0;
  const post = async () => {
    const posted = await form.send((body) => open({ body }));
    if (!posted) return;
    const lines = count(ready.length, 'line');
    say({ text: `Added ${lines}.`, undo: { movementId: posted.movementId, what: `the opening stock of ${lines}` } });
    focusNewLine();
    form.reset({ entries: form.getValues('entries').filter((entry) => !isReady(entry)) });
  };
  const may = ready.length > 0 && !error && asked.lines.length === ready.length && !form.isBusy;
  return (
    <FormFrame form={form} save={() => may && void post()} foreseen={shown ? problemOf(error) : null}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Opening stock</h1>
            <span className="quiet">what lies there as you begin, and what it is worth</span>
          </PageHead>
          <Refused error={form.refused} />
          <IncomingSheet label="Opening stock" worth="Unit value" />
        </Stack>
        <EffectPanel
          title="What this will change"
          effects={shown ? currentData?.effects : undefined}
          error={shown ? error : undefined}
          idle="Say for each item in which bin it lies, how many there are and what one is worth."
        />
        <BottomBar
          hint="Words, a code or a scan, with the quantity in front or behind"
          next={{
            label: `Add ${count(ready.length, 'line')}`,
            run: () => void post(),
            disabled: !may,
          }}
        />
      </Split>
    </FormFrame>
  );
}
