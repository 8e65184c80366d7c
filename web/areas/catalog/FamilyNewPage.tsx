import Button from '@mui/material/Button';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { manyMembers, mostMembers, proposedPattern, shortCode } from '@larder/core/catalog/family';
import type { FamilyForm } from '@larder/contract/families';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { PartyPicker } from '../../shared/PartyPicker';
import { useReferenceQuery } from '../../shared/reference';
import { useCreateFamilyMutation, useForeseeFamilyQuery } from './api';
import { axesOf, memberRows, membersOf, withTypedSkus, type AxisDraft, type MemberRow } from './familyDraft';
import { SharedFacts, type SharedForm } from './SharedFacts';
import { AxesCard } from './AxesCard';
import { Combinations } from './Combinations';

/** A variant family from its axes to its opening stock, on one page; SKUs are looked up as they are typed. */
export function FamilyNewPage() {
  useTitle('New variant family');
  const navigate = useNavigate();
  const { siteId } = useSite();
  const { data: reference } = useReferenceQuery({});
  const [head, setHead] = useState<{ code: string; pattern: string; shared: Partial<SharedForm> }>({ code: '', pattern: '', shared: {} });
  const [supplier, setSupplier] = useState<{ id: number; name: string } | null>(null);
  const [drafts, setDrafts] = useState<AxisDraft[]>([{ name: '', values: '' }]);
  const [typed, setTyped] = useState<MemberRow[]>([]);
  const [create, creating] = useCreateFamilyMutation();
  const { refused, busy, at } = refusalOf(creating);
  const axes = axesOf(drafts);
  const shared: SharedForm = {
    name: '',
    description: '',
    categoryId: null,
    unitId: reference?.units[0]?.id ?? 0,
    brand: '',
    taxCodeId: reference?.taxes[0]?.id ?? null,
    returnable: true,
    ...head.shared,
  };
  const code = head.code || shortCode(shared.name);
  const pattern = head.pattern || proposedPattern(axes);
  const combined = axes.reduce((product, axis) => product * axis.values.length, axes.length > 0 ? 1 : 0);
  const [meant, setMeant] = useState(0);
  const asking = combined > manyMembers && combined <= mostMembers && meant !== combined;
  const rows = asking || combined > mostMembers ? [] : memberRows(axes, code, pattern, typed);
  const chosen = rows.flatMap((row, index) => (row.off === 'yes' ? [] : [index]));
  const sites = (reference?.sites ?? []).filter(({ id }) => siteId === undefined || id === siteId);
  const body: FamilyForm = {
    ...shared,
    code,
    skuPattern: pattern,
    axes: axes.map(({ name, values }) => ({ name, values: [...values] })),
    supplierId: supplier?.id ?? null,
    members: membersOf(rows, axes),
    many: meant === combined,
  };
  const asked = useDelayed(body, 400);
  const { error: foreseen } = useForeseeFamilyQuery({ body: asked }, { skip: asked.members.length === 0 || asked.name === '' });
  const { at: foreseenAt } = refusalOf({ error: foreseen, isLoading: false });
  const errorAt = (field: string) => at(field) ?? foreseenAt(field);
  const cellError = (row: number, key: string) => (chosen.includes(row) ? errorAt(`members.${chosen.indexOf(row)}.${key}`) : undefined);
  const change = (next: MemberRow[]) => setTyped(withTypedSkus(next, rows));
  const put = (part: Partial<SharedForm>) => setHead({ ...head, shared: { ...head.shared, ...part } });
  const make = async () => {
    const result = await create({ body });
    if (result.data?.id) void navigate(`/items/families/${result.data.id}`, { replace: true });
  };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>New variant family</h1>
        <span className="quiet">what comes in sizes, colours or kinds; every combination becomes an item</span>
      </PageHead>
      <Refused error={refused} />
      <Card pad fields aria-label="Family">
        <SharedFacts form={shared} put={put} errorAt={errorAt} />
        <Field label="Code in SKUs" value={code} onChange={(text) => setHead({ ...head, code: text })} error={errorAt('code')} />
        <PartyPicker as="supplier" label="Supplier" value={supplier} onChange={setSupplier} />
      </Card>
      <AxesCard drafts={drafts} setDrafts={setDrafts} pattern={pattern} setPattern={(text) => setHead({ ...head, pattern: text })} errorAt={errorAt} />
      {combined > mostMembers ? (
        <Notice kind="refused">
          {combined} combinations are more than {mostMembers}; remove some values.
        </Notice>
      ) : null}
      {asking ? (
        <Notice>
          These values make {combined} combinations. Are so many meant?
          <Button size="small" onClick={() => setMeant(combined)}>
            Show all {combined}
          </Button>
        </Notice>
      ) : null}
      <Combinations rows={rows} chosen={chosen.length} sites={sites} change={change} setTyped={setTyped} cellError={cellError} />
      <BottomBar
        hint="A block copied from a spreadsheet can be pasted into the sheet; Ctrl D fills down"
        next={{ label: `Make ${count(chosen.length, 'item')}`, run: () => void make(), disabled: busy || chosen.length === 0 || shared.name.trim() === '' }}
      />
    </Stack>
  );
}
