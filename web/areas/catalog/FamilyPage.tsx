import Button from '@mui/material/Button';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { useParams } from 'react-router';
import type { Family } from '@larder/contract/families';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { count, quantity } from '../../kit/format';
import { Refused, Saved, Waiting } from '../../kit/states';
import { Tabs } from '../../kit/Tabs';
import { useTitle } from '../../kit/title';
import { useWriting } from '../../kit/writing';
import { Clashes } from '../../shared/Clashes';
import { useEditFamilyMutation, useFamilyQuery, useLeaveFamilyMutation } from './api';
import { FamilyGrow } from './FamilyGrow';
import { FamilyJoin } from './FamilyJoin';
import { MemberGrid, MemberList } from './FamilyMembers';
import { SharedFacts, type SharedForm } from './SharedFacts';

const ways = [
  ['grid', 'Axis by axis'],
  ['list', 'As a list'],
] as const;

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
};

type Way = (typeof ways)[number][0];

interface FamilySheetProps {
  family: Family;
  way: Way;
  setWay: (way: Way) => void;
}

function FamilySheet({ family, way, setWay }: FamilySheetProps) {
  const [chosen, setChosen] = useState<number[]>([]);
  const [leave, leaving] = useLeaveFamilyMutation();
  const { refused } = refusalOf(leaving);
  const { name, description, categoryId, unitId, brand, taxCodeId, returnable } = family;
  const writing = useWriting<SharedForm>({ name, description, categoryId, unitId, brand, taxCodeId, returnable }, family.version);
  const { form, put } = writing;
  const [edit, editing] = useEditFamilyMutation();
  const { refused: notSaved, problem: doubt, busy, at } = refusalOf(editing);
  const save = async (retired = family.retired, retiredInUse = false) => {
    const { data } = await edit({
      params: { id: family.id },
      body: {
        ...form,
        code: family.code,
        skuPattern: family.skuPattern,
        version: family.version,
        retired,
        retiredInUse,
      },
    });
    if (data) writing.kept(form, data.version);
  };
  const toggle = (itemId: number) => setChosen(chosen.includes(itemId) ? chosen.filter((one) => one !== itemId) : [...chosen, itemId]);
  const takeOut = async () => {
    if (!(await leave({ params: { id: family.id }, body: { itemIds: chosen } })).error) setChosen([]);
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{family.name}</h1>
          <span className="code quiet">{family.code}</span>
          <span className="quiet">
            {count(family.members, 'member')}, {quantity(family.free)} free
          </span>
          {family.retired ? <span className="late">retired</span> : null}
          <Saved on={writing.isSaved} />
          <Side>
            <Tabs label="How members are shown" options={ways} value={way} onChange={setWay} />
          </Side>
        </PageHead>
        {doubt?.asks.includes('retired-in-use') ? (
          <Asking question={doubt.title} answers={[{ label: 'Retire it all the same', run: () => void save(true, true) }]} busy={busy} />
        ) : (
          <Refused error={refused ?? notSaved} />
        )}
        <Clashes of={{ kind: 'family', id: family.id }} writing={writing} names={names} />
        {way === 'grid' ? <MemberGrid family={family} /> : <MemberList family={family} chosen={chosen} toggle={toggle} />}
        <FamilyGrow family={family} />
        <FamilyJoin family={family} />
      </Stack>
      <Card aria-label="What members share">
        <h2>What members share</h2>
        <Stack pad>
          <SharedFacts form={form} put={put} errorAt={at} />
          <p className="quiet">A member that was given a fact of its own keeps it; the list says which.</p>
        </Stack>
      </Card>
      <BottomBar hint="Enter on a member opens it" next={{ label: `Save ${family.name}`, run: () => void save(), disabled: busy }}>
        {chosen.length > 0 ? <Button onClick={() => void takeOut()}>Take {chosen.length} out of the family</Button> : null}
        <Button disabled={busy} onClick={() => void save(!family.retired)}>
          {family.retired ? 'Take back into use' : 'Retire the family'}
        </Button>
      </BottomBar>
    </Split>
  );
}
