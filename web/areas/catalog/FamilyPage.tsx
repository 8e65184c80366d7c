import Button from '@mui/material/Button';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { useParams } from 'react-router';
import type { Family } from '@larder/contract/families';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, quantity } from '../../kit/format';
import { Refused, Saved, Waiting } from '../../kit/states';
import { Tabs } from '../../kit/Tabs';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { Clashes } from '../../shared/Clashes';
import { useEditFamilyMutation, useFamilyQuery, useLeaveFamilyMutation } from './api';
import { FamilyGrow } from './FamilyGrow';
import { FamilyJoin } from './FamilyJoin';
import { MemberGrid, MemberList } from './FamilyMembers';
import { SharedFacts, type SharedForm } from './SharedFacts';
import { useSay } from '../../shared/say';

const ways = [
  ['grid', 'Axis by axis'],
  ['list', 'As a list'],
] as const;

/** What members share, of a family as it is. */
const sharedOf = ({ name, description, categoryId, unitId, brand, taxCodeId, returnable, kind, maker, ...family }: Family): SharedForm => ({
  ...{ name, description, categoryId, unitId, brand, taxCodeId, returnable, kind, maker },
  inventoryAccountId: family.inventoryAccountId,
  costAccountId: family.costAccountId,
  salesAccountId: family.salesAccountId,
});

/** A variant family: its members axis by axis or as a list, what they share, and how it grows. */
export function FamilyPage() {
  const id = Number(useParams().id);
  const { data, error } = useFamilyQuery({ params: { id } });
  const [way, setWay] = useState<Way>('grid');
  useTitle(data?.name ?? 'Variant family');
  if (!data) return <Waiting error={error} />;
  return <FamilySheet key={data.id} family={data} way={way} setWay={setWay} />;
}

const names = {
  name: 'the name',
  description: 'the description',
  categoryId: 'the category',
  unitId: 'the unit',
  brand: 'the brand',
  taxCodeId: 'the tax',
  returnable: 'whether they can be returned',
  kind: 'the kind',
  maker: 'the maker',
  inventoryAccountId: 'the stock account',
  costAccountId: 'the cost account',
  salesAccountId: 'the sales account',
};

type Way = (typeof ways)[number][0];

interface FamilySheetProps {
  family: Family;
  way: Way;
  setWay: (way: Way) => void;
}

function FamilySheet({ family, way, setWay }: FamilySheetProps) {
  const mayEdit = useMay('items.edit', null);
  const [chosen, setChosen] = useState<number[]>([]);
  const [leave, leaving] = useLeaveFamilyMutation();
  const [edit] = useEditFamilyMutation();
  const { code, skuPattern } = family;
  const form = useForm({
    came: sharedOf(family),
    version: family.version,
    body: (typed: SharedForm) => ({ ...typed, code, skuPattern, version: family.version }),
    checkedBy: async () => (await import('@larder/contract/families')).editFamily.body,
  });
  const { refused: doubt, isBusy: busy } = form;
  const save = (retired = family.retired, retiredInUse = false) =>
    form.send(async (body, typed, version) => {
      const result = await edit({ params: { id: family.id }, body: { ...body, version, retired, retiredInUse } });
      if (result.data) form.kept(typed, result.data.version);
      return result;
    });
  const toggle = (itemId: number) => setChosen(chosen.includes(itemId) ? chosen.filter((one) => one !== itemId) : [...chosen, itemId]);
  const say = useSay();
  const takeOut = async () => {
    if ((await leave({ params: { id: family.id }, body: { itemIds: chosen } })).error) return;
    say({ text: `${count(chosen.length, 'item')} left ${family.name}.` });
    setChosen([]);
  };
  return (
    <FormFrame form={form} save={() => mayEdit && void save()}>
      <ReadOnly value={!mayEdit}>
        <Split>
          <Stack>
            <PageHead sx={{ margin: 0 }}>
              <h1>{family.name}</h1>
              <span className="code quiet">{family.code}</span>
              <span className="quiet">
                {count(family.members, 'member')}, {quantity(family.free)} free
              </span>
              {family.retired ? <span className="late">retired</span> : null}
              <Saved on={form.isSaved} />
              <Side>
                <Tabs label="How members are shown" options={ways} value={way} onChange={setWay} />
              </Side>
            </PageHead>
            {doubt?.asks.includes('retired-in-use') ? (
              <Asking question={doubt.title} answers={[{ label: 'Retire it all the same', run: () => void save(true, true) }]} busy={busy} />
            ) : (
              <Refused error={leaving.error ?? doubt} />
            )}
            <Clashes of={{ kind: 'family', id: family.id }} writing={form} names={names} />
            {way === 'grid' ? <MemberGrid family={family} /> : <MemberList family={family} chosen={chosen} toggle={toggle} />}
            {mayEdit ? (
              <>
                <FamilyGrow family={family} />
                <FamilyJoin family={family} />
              </>
            ) : null}
          </Stack>
          <Card aria-label="What members share">
            <h2>What members share</h2>
            <Stack pad>
              <SharedFacts />
              <p className="quiet">A member that was given a fact of its own keeps it; the list says which.</p>
            </Stack>
          </Card>
          <BottomBar hint="Enter on a member opens it" next={mayEdit ? { label: `Save ${family.name}`, run: () => void save(), disabled: busy } : undefined}>
            {chosen.length > 0 ? <Button onClick={() => void takeOut()}>Take {chosen.length} out of the family</Button> : null}
            {mayEdit ? (
              <Button disabled={busy} onClick={() => void save(!family.retired)}>
                {family.retired ? 'Take back into use' : 'Retire the family'}
              </Button>
            ) : null}
          </BottomBar>
        </Split>
      </ReadOnly>
    </FormFrame>
  );
}
