import Button from '@mui/material/Button';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { mostMembers } from '@larder/core/catalog/family';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { PartyField } from '../../shared/PartyField';
import { useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { useCreateFamilyMutation, useForeseeFamilyQuery } from './api';
import { AxesCard } from './AxesCard';
import { Combinations } from './Combinations';
import { familyBody, withTypedSkus, workedOut, type FamilyDraft, type MemberRow } from './familyDraft';
import { noFamily, SharedFacts } from './SharedFacts';
import { useSay } from '../../shared/say';

/** A variant family from its axes to its opening stock, on one page; SKUs are looked up as they are typed. */
export function FamilyNewPage() {
  useTitle('New variant family');
  const { data: reference } = useReferenceQuery({});
  if (!reference) return <Waiting />;
  const first = noFamily(reference.units[0]?.id ?? 0, reference.taxes[0]?.id ?? null);
  return <NewFamily first={{ ...first, code: '', pattern: '', supplier: null, axes: [{ name: '', values: '' }], rows: [] }} sites={reference.sites} />;
}

function NewFamily({ first, sites: all }: { first: FamilyDraft; sites: readonly { id: number; name: string }[] }) {
  const navigate = useNavigate();
  const { siteId } = useSite();
  const [create, creating] = useCreateFamilyMutation();
  const [meant, setMeant] = useState(0);
  const form = useForm({
    came: first,
    body: (typed: FamilyDraft) => familyBody(typed, meant),
    checkedBy: async () => (await import('@larder/contract/families')).createFamily.body,
    sentAs: { skuPattern: 'pattern' },
  });
  const draft = useWatch({ control: form.control }) as FamilyDraft;
  const { code, pattern, combined, isAsking, rows, chosen } = workedOut(draft, meant);
  const sites = all.filter(({ id }) => siteId === undefined || id === siteId);
  const asked = useDelayed(familyBody(draft, meant), 400);
  const { error: foreseen } = useForeseeFamilyQuery({ body: asked }, { skip: asked.members.length === 0 || asked.name === '' });
  const { at } = refusalOf(creating, { error: foreseen, isLoading: false });
  const cellError = (row: number, key: string) => (chosen.includes(row) ? at(`members.${chosen.indexOf(row)}.${key}`) : undefined);
  const put = (next: MemberRow[]) => form.setValue('rows', next, { shouldDirty: true });
  const say = useSay();
  const make = async () => {
    const made = await form.send((body) => create({ body }));
    if (!made?.id) return;
    say({ text: `${draft.name.trim()} is set up, with ${count(chosen.length, 'member')}.` });
    void navigate(`/items/families/${made.id}`, { replace: true });
  };
  return (
    <FormFrame form={form} save={() => void make()}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>New variant family</h1>
          <span className="quiet">what comes in sizes, colours or kinds; every combination becomes an item</span>
        </PageHead>
        <Refused error={form.refused} />
        <Card pad fields aria-label="Family">
          <SharedFacts isNew />
          <Field label="Code in SKUs" value={code} onChange={(typed) => form.setValue('code', typed, { shouldDirty: true })} error={at('code')} />
          <PartyField as="supplier" label="Supplier" name="supplier" />
        </Card>
        <AxesCard pattern={pattern} patternFault={at('skuPattern')} />
        {combined > mostMembers ? (
          <Notice kind="refused">
            {combined} combinations are more than {mostMembers}; remove some values.
          </Notice>
        ) : null}
        {isAsking ? (
          <Notice>
            These values make {combined} combinations. Are so many meant?
            <Button size="small" onClick={() => setMeant(combined)}>
              Show all {combined}
            </Button>
          </Notice>
        ) : null}
        <Combinations rows={rows} chosen={chosen.length} sites={sites} change={(next) => put(withTypedSkus(next, rows))} setTyped={put} cellError={cellError} />
        <BottomBar
          hint="A block copied from a spreadsheet can be pasted into the sheet; Ctrl D fills down"
          next={{
            label: `Make ${count(chosen.length, 'item')}`,
            run: () => void make(),
            disabled: form.isBusy || chosen.length === 0 || draft.name.trim() === '',
          }}
        />
      </Stack>
    </FormFrame>
  );
}
