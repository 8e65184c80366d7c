import Box from '@mui/material/Box';
import { itemClasses, type CountPlan } from '@larder/core/stock/counting';
import type { CountForm } from '@larder/contract/counts';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate, useSearchParams } from 'react-router';
import type { z } from 'zod';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { fieldsOf, orNone } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, money } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { ChosenItems } from './ChosenItems';
import { useCreateCountMutation, useForeseeCountQuery } from './api';

type Draft = Omit<CountPlan, 'classes' | 'binIds'> & {
  siteId: number | null;
  binId: number | null;
  A: boolean;
  B: boolean;
  C: boolean;
  blind: boolean;
  recountShare: string | null;
  recountValue: string | null;
  note: string;
};
const { Choice, Day, Field, LongField, Check: FormCheck } = fieldsOf<Draft>();

const planOf = ({ zone, binId, categoryId, itemIds, notSince, differedSince, doubted, due, ...typed }: Draft): CountPlan => ({
  zone,
  binIds: binId === null ? [] : [binId],
  categoryId,
  itemIds,
  classes: itemClasses.filter((one) => typed[one]),
  notSince,
  differedSince,
  doubted,
  due,
});
const bodyOf = (typed: Draft): z.input<typeof CountForm> => ({
  siteId: typed.siteId,
  plan: planOf(typed),
  blind: typed.blind,
  recountShare: typed.recountShare,
  recountValue: typed.recountValue,
  note: typed.note,
});

/** Plans a count: which bins, or what of them; what it comes to is told at once. */
export function CountNewPage() {
  useTitle('New count');
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  const [create] = useCreateCountMutation();
  const [isOnlyOneSite] = useState(siteId);
  const form = useForm({
    came: {
      siteId: Number(search.get('site')) || (isOnlyOneSite ?? null),
      zone: '',
      binId: Number(search.get('bin')) || null,
      categoryId: null,
      itemIds: (search.get('items') ?? '').split(',').flatMap((id) => Number(id) || []),
      A: search.get('class') === 'A',
      B: search.get('class') === 'B',
      C: search.get('class') === 'C',
      notSince: null,
      differedSince: null,
      doubted: search.has('doubted'),
      due: search.has('due'),
      blind: false,
      recountShare: null,
      recountValue: null,
      note: '',
    } as Draft,
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/counts')).CountForm,
    sentAs: { plan: 'siteId' },
  });
  const typed = useWatch({ control: form.control }) as Draft;
  const { data: bins } = useBinsQuery({ query: { siteId: typed.siteId ?? undefined } }, { skip: typed.siteId === null });
  const asked = useDelayed({ siteId: typed.siteId, plan: planOf(typed) }, 250);
  const { currentData: foreseen } = useForeseeCountQuery({ body: asked }, { skip: asked.siteId === null });
  const plan = async () => {
    const made = await form.send((body) => create({ body }));
    if (made) void navigate(`/stock/counts/${made.id}`);
  };
  const today = me?.company.today ?? '';
  return (
    <FormFrame form={form} save={() => void plan()}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>New count</h1>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad fields component="div" aria-label="Where">
            <Choice
              label="Site to count"
              name="siteId"
              ids
              none="Choose the site"
              options={(reference?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Choice label="Zone" name="zone" none="All zones" options={(reference?.zones ?? []).map((zone) => ({ value: zone, label: zone }))} />
            <Choice
              label="Bin"
              name="binId"
              ids
              none="All bins"
              options={(bins?.rows ?? []).filter(({ retired }) => !retired).map(({ id, code }) => ({ value: String(id), label: code }))}
            />
            <Choice
              label="Category"
              name="categoryId"
              ids
              none="All"
              options={(reference?.categories ?? []).filter(({ retired }) => !retired).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Day lies="behind" label="Not counted since" name="notSince" today={today} />
            <Day lies="behind" label="Differed since" name="differedSince" today={today} />
            <Stack>
              <FormCheck label="Class A: most of what is used, by value" name="A" />
              <FormCheck label="Class B" name="B" />
              <FormCheck label="Class C: the rest" name="C" />
            </Stack>
            <Stack>
              <FormCheck label="Only what its class says is due" name="due" />
              <FormCheck label="Only where a pick found fewer" name="doubted" />
            </Stack>
          </Card>
          <Card component="div" aria-label="Only these items">
            <h2>Only these items</h2>
            <Box className="pad">
              <ChosenItems ids={typed.itemIds} put={(ids) => form.setValue('itemIds', ids, { shouldDirty: true })} />
            </Box>
          </Card>
          <Card pad fields component="div" aria-label="How">
            <FormCheck label="Blind: whoever counts is not told how many there should be" name="blind" />
            <Field label="Count again above a difference of, %" name="recountShare" read={orNone} />
            <Field label="Count again above a difference worth" name="recountValue" read={orNone} />
            <LongField label="Note" name="note" />
          </Card>
        </Stack>
        <Card component="aside" aria-label="What this comes to" aria-live="polite">
          <h2>What this comes to</h2>
          {typed.siteId === null ? <p className="pad quiet">Choose the site that is counted.</p> : null}
          {foreseen ? (
            <>
              <p className="pad">
                <b>{count(foreseen.bins, 'bin')}</b>, {count(foreseen.lines, 'line')} of {count(foreseen.items, 'item')}
                {foreseen.value === '' ? '' : `, worth ${money(foreseen.value)}`}.
              </p>
              <p className="pad quiet">What is in a bin is looked up when somebody begins it; goods may move until then, and while it is counted.</p>
            </>
          ) : null}
        </Card>
        <BottomBar
          hint="Goods may move while they are counted: only differences are posted"
          next={{ label: 'Plan this count', run: () => void plan(), disabled: form.isBusy || foreseen?.bins === 0 }}
        />
      </Split>
    </FormFrame>
  );
}
