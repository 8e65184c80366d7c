import { PageHead, Split, Stack } from '../../kit/layout';
import { useSay } from '../../shared/Messages';
import { useState } from 'react';
import type { UnorderedReceiptForm } from '@larder/contract/receiving';
import { useSite } from '../../shared/site';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { EffectPanel } from '../../kit/EffectPanel';
import { count } from '../../kit/format';
import { useScan } from '../../kit/scan';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinsQuery } from '../../shared/reference';
import { isReady, sentEntries, type Entry } from '../../shared/entries';
import { IncomingSheet } from '../../shared/IncomingSheet';
import { useForeseeUnorderedQuery, useReceiveUnorderedMutation } from './api';
import { UnorderedHead, type UnorderedHeadForm } from './UnorderedHead';

/** Goods that turn up without an order, a shop purchase, equipment: bin, item, how many, done. A scanned bin is where the next goods go. */
export function UnorderedPage() {
  useTitle('Receive without an order');
  const { siteId } = useSite();
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const [form, setForm] = useState<UnorderedHeadForm>({ binId: null, supplier: null, paid: 'yes', packingNote: '', cameOn: null });
  const put = (part: Partial<UnorderedHeadForm>) => setForm((was) => ({ ...was, ...part }));
  const [entries, setEntries] = useState<Entry[]>([]);
  const say = useSay();
  const [agreed, setAgreed] = useState<readonly string[]>([]);
  const [receive, receiving] = useReceiveUnorderedMutation();
  const { refused, busy, at } = refusalOf(receiving);
  const ready = entries.filter(isReady);
  const body: UnorderedReceiptForm = {
    supplierId: form.supplier?.id ?? null,
    billComes: form.paid === 'no',
    packingNote: form.packingNote,
    effectiveOn: form.cameOn ?? undefined,
    pastUseBy: agreed.includes('past-use-by'),
    countedSince: agreed.includes('counted-since'),
    lines: sentEntries(ready),
  };
  const asked = useDelayed(body, 300);
  const { currentData, error } = useForeseeUnorderedQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const shown = ready.length > 0 && asked.lines.length > 0;
  const foreseen = refusalOf({ error, isLoading: false });
  useScan((code) => {
    const bin = bins?.rows.find((one) => !one.retired && one.code.toLowerCase() === code.trim().toLowerCase());
    if (bin) put({ binId: bin.id });
    return bin !== undefined;
  });
  const post = async () => {
    const { data, error: failed } = await receive({ body });
    if (failed) return;
    const lines = count(ready.length, 'line');
    say({ text: `Received ${lines}.`, undo: { movementId: data.movementId, what: `the receipt of ${lines}` } });
    setEntries(entries.filter((entry) => !isReady(entry)));
    setAgreed([]);
  };
  const asking = foreseen.problem?.asks.some((ask) => !agreed.includes(ask)) ? foreseen.problem : null;
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Receive without an order</h1>
          <span className="quiet">goods that turn up, a shop purchase, equipment</span>
        </PageHead>
        {asking ? (
          <Asking question={asking.title} answers={[{ label: 'Take it all the same', run: () => setAgreed([...agreed, ...asking.asks]) }]} />
        ) : (
          <Refused error={refused} />
        )}
        <UnorderedHead form={form} put={put} at={(field) => at(field) ?? foreseen.at(field)} />
        <IncomingSheet
          label="Goods without an order"
          worth="One costs"
          entries={entries}
          binId={form.binId}
          change={setEntries}
          errorAt={(field) => at(field) ?? foreseen.at(field)}
        />
      </Stack>
      <EffectPanel
        title="What this will change"
        effects={shown ? currentData?.effects : undefined}
        error={shown ? error : undefined}
        idle="Scan the bin, then the goods; or type them."
      />
      <BottomBar
        hint="A scanned bin is where the goods after it go"
        next={{
          label: `Receive ${count(ready.length, 'line')}`,
          run: () => void post(),
          disabled: busy || ready.length === 0 || asked.lines.length !== ready.length,
        }}
      />
    </Split>
  );
}
