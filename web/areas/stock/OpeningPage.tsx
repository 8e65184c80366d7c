import { PageHead, Split, Stack } from '../../kit/layout';
import { useSay } from '../../shared/Messages';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { OpeningForm } from '@larder/contract/stock';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { EffectPanel } from '../../kit/EffectPanel';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useForeseeOpeningQuery, useOpenStockMutation } from './api';
import { isReady, newEntry, sentEntries, type Entry } from '../../shared/entries';
import { IncomingSheet } from '../../shared/IncomingSheet';

/** The stock a business begins with, item by item or on a sheet: bin, quantity, worth, lots and serials. Posts through the ledger, effect first. */
export function OpeningPage() {
  useTitle('Opening stock');
  const [search] = useSearchParams();
  const [entries, setEntries] = useState<Entry[]>(() => search.getAll('item').map((id) => newEntry(Number(id))));
  const say = useSay();
  const [open, opening] = useOpenStockMutation();
  const { refused, busy, at } = refusalOf(opening);
  const ready = entries.filter(isReady);
  const body: OpeningForm = { note: '', countedSince: false, lines: sentEntries(ready) };
  const asked = useDelayed(body, 300);
  const { currentData, error } = useForeseeOpeningQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const shown = ready.length > 0 && asked.lines.length > 0;
  const foreseen = refusalOf({ error, isLoading: false });
  const post = async () => {
    const { data, error: failed } = await open({ body });
    if (failed) return;
    const lines = count(ready.length, 'line');
    say({ text: `Added ${lines}.`, undo: { movementId: data.movementId, what: `the opening stock of ${lines}` } });
    setEntries(entries.filter((entry) => !isReady(entry)));
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Opening stock</h1>
          <span className="quiet">what lies there as you begin, and what it is worth</span>
        </PageHead>
        <Refused error={refused} />
        <IncomingSheet label="Opening stock" worth="Unit value" entries={entries} change={setEntries} errorAt={(field) => at(field) ?? foreseen.at(field)} />
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
          disabled: busy || ready.length === 0 || Boolean(error) || asked.lines.length !== ready.length,
        }}
      />
    </Split>
  );
}
