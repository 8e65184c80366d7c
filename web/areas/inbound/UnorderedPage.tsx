import { PageHead, Split, Stack } from '../../kit/layout';
import { useSay } from '../../shared/say';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useSite } from '../../shared/site';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { problemOf } from '../../kit/problem';
import { EffectPanel } from '../../kit/EffectPanel';
import { count } from '../../kit/format';
import { useScan } from '../../kit/scan';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinsQuery } from '../../shared/reference';
import { entryField, isReady } from '../../shared/entries';
import { focusNewLine } from '../../shared/LineEntry';
import { IncomingSheet } from '../../shared/IncomingSheet';
import { useForeseeUnorderedQuery, useReceiveUnorderedMutation } from './api';
import { noGoods, unorderedBody, type UnorderedForm } from './unorderedForm';
import { UnorderedHead } from './UnorderedHead';

/** Goods that turn up without an order, a shop purchase, equipment: bin, item, how many, done. A scanned bin is where the next goods go. */
export function UnorderedPage() {
  useTitle('Receive without an order');
  const { siteId } = useSite();
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const say = useSay();
  const [agreed, setAgreed] = useState<readonly string[]>([]);
  const [receive] = useReceiveUnorderedMutation();
  const form = useForm({
    came: noGoods,
    body: (typed: UnorderedForm) => unorderedBody(typed, agreed),
    checkedBy: async () => (await import('@larder/contract/receiving')).receiveUnordered.body,
    sentAs: (path, typed) => ({ supplierId: 'supplier', effectiveOn: 'cameOn' })[path] ?? entryField(path, typed),
  });
  const typed = useWatch({ control: form.control }) as UnorderedForm;
  const ready = typed.entries.filter(isReady);
  const asked = useDelayed(unorderedBody(typed, agreed), 300);
  const { currentData, error } = useForeseeUnorderedQuery({ body: asked }, { skip: asked.lines.length === 0 });
  const shown = ready.length > 0 && asked.lines.length > 0;
  const foreseen = shown ? problemOf(error) : null;
  useScan((code) => {
    const bin = bins?.rows.find((one) => !one.retired && one.code.toLowerCase() === code.trim().toLowerCase());
    if (bin) form.setValue('binId', bin.id, { shouldDirty: true });
    return bin !== undefined;
  });
  const post = async () => {
    const posted = await form.send((body) => receive({ body }));
    if (!posted) return;
    const lines = count(ready.length, 'line');
    say({ text: `Received ${lines}.`, undo: { movementId: posted.movementId, what: `the receipt of ${lines}` } });
    focusNewLine();
    form.reset({ ...form.getValues(), entries: form.getValues('entries').filter((entry) => !isReady(entry)) });
    setAgreed([]);
  };
  const asking = foreseen?.asks.some((ask) => !agreed.includes(ask)) ? foreseen : null;
  const may = !form.isBusy && ready.length > 0 && asked.lines.length === ready.length;
  return (
    <FormFrame form={form} save={() => may && void post()} foreseen={foreseen}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Receive without an order</h1>
            <span className="quiet">goods that turn up, a shop purchase, equipment</span>
          </PageHead>
          {asking ? (
            <Asking question={asking.title} answers={[{ label: 'Take it all the same', run: () => setAgreed([...agreed, ...asking.asks]) }]} />
          ) : (
            <Refused error={form.refused} />
          )}
          <UnorderedHead />
          <IncomingSheet label="Goods without an order" worth="One costs" binId={typed.binId} />
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
            disabled: !may,
          }}
        />
      </Split>
    </FormFrame>
  );
}
