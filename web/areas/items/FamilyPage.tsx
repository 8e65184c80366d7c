import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { combinations, memberName, skuFrom } from '@larder/core/catalog/family';
import type { Family } from '@larder/contract/families';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { count, price, quantity } from '../../kit/format';
import { LineEntry } from '../../shared/LineEntry';
import { Refused, Saved, Waiting } from '../../kit/states';
import { Tabs } from '../../kit/Tabs';
import { useTitle } from '../../kit/title';
import { useAddMembersMutation, useEditFamilyMutation, useFamilyQuery, useJoinFamilyMutation, useLeaveFamilyMutation } from './api';
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
  const [saved, setSaved] = useState<number | null>(null);
  useTitle(data?.name ?? 'Variant family');
  if (!data) return <Waiting error={error} />;
  return <FamilySheet key={data.version} family={data} way={way} setWay={setWay} saved={saved === data.version} setSaved={setSaved} />;
}

type Way = (typeof ways)[number][0];

interface FamilySheetProps {
  family: Family;
  way: Way;
  setWay: (way: Way) => void;
  saved: boolean;
  setSaved: (version: number | null) => void;
}

function FamilySheet({ family, way, setWay, saved, setSaved }: FamilySheetProps) {
  const [chosen, setChosen] = useState<number[]>([]);
  const [leave, leaving] = useLeaveFamilyMutation();
  const { refused } = refusalOf(leaving);
  const [form, setForm] = useState<SharedForm>({
    name: family.name,
    description: family.description,
    categoryId: family.categoryId,
    unitId: family.unitId,
    brand: family.brand,
    taxCodeId: family.taxCodeId,
    returnable: family.returnable,
  });
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
    if (data) setSaved(data.version);
  };
  const toggle = (itemId: number) => setChosen(chosen.includes(itemId) ? chosen.filter((one) => one !== itemId) : [...chosen, itemId]);
  const takeOut = async () => {
    if (!(await leave({ params: { id: family.id }, body: { itemIds: chosen } })).error) setChosen([]);
  };
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>{family.name}</h1>
          <span className="code quiet">{family.code}</span>
          <span className="quiet">
            {count(family.members, 'member')}, {quantity(family.free)} free
          </span>
          {family.retired ? <span className="late">retired</span> : null}
          <Saved on={saved} />
          <span className="side">
            <Tabs label="How members are shown" options={ways} value={way} onChange={setWay} />
          </span>
        </div>
        {doubt?.asks.includes('retired-in-use') ? (
          <Asking question={doubt.title} answers={[{ label: 'Retire it all the same', run: () => void save(true, true) }]} busy={busy} />
        ) : (
          <Refused error={refused ?? notSaved} />
        )}
        {way === 'grid' ? <MemberGrid family={family} /> : <MemberList family={family} chosen={chosen} toggle={toggle} />}
        <Grow family={family} />
        <Join family={family} />
      </div>
      <section className="card" aria-label="What members share">
        <h2>What members share</h2>
        <div className="pad stack">
          <SharedFacts
            form={form}
            put={(part) => {
              setSaved(null);
              setForm({ ...form, ...part });
            }}
            errorAt={at}
          />
          <p className="quiet">A member that was given a fact of its own keeps it; the list says which.</p>
        </div>
      </section>
      <BottomBar hint="Enter on a member opens it" next={{ label: `Save ${family.name}`, run: () => void save(), disabled: busy }}>
        {chosen.length > 0 ? (
          <button type="button" className="button" onClick={() => void takeOut()}>
            Take {chosen.length} out of the family
          </button>
        ) : null}
        <button type="button" className="button" disabled={busy} onClick={() => void save(!family.retired)}>
          {family.retired ? 'Take back into use' : 'Retire the family'}
        </button>
      </BottomBar>
    </div>
  );
}

/** The last axis across, the others down; a combination that was never made is left blank. */
function MemberGrid({ family }: { family: Family }) {
  const axes = family.axisValues;
  const across = axes.at(-1);
  const down = axes.length > 1 ? combinations(axes.slice(0, -1).map(({ name, values }) => ({ name, values }))) : [[]];
  const memberOf = (names: readonly string[]) =>
    family.list.find(({ valueIds }) => valueIds.every((valueId, at) => axes[at]?.values.find(({ id }) => id === valueId)?.name === names[at]));
  return (
    <div className="card" style={{ overflowX: 'auto' }}>
      <table aria-label="Members axis by axis">
        <thead>
          <tr>
            <th>
              {axes
                .slice(0, -1)
                .map(({ name }) => name)
                .join(' / ')}
            </th>
            {across?.values.map((value) => (
              <th key={value.id} className="number">
                {value.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {down.map((values) => (
            <tr key={values.map(({ name }) => name).join()}>
              <td className="strong">{values.map(({ name }) => name).join(', ') || 'free'}</td>
              {across?.values.map((value) => {
                const member = memberOf([...values.map(({ name }) => name), value.name]);
                return (
                  <td key={value.id} className="number">
                    {member ? (
                      <Link className={`figure ${member.retired ? 'quiet' : ''}`} to={`/items/${member.itemId}`} title={member.sku}>
                        {quantity(member.free)}
                      </Link>
                    ) : null}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Facts whose name is no word yet. */
const factWords: Record<string, string> = { categoryId: 'category', unitId: 'unit', taxCodeId: 'tax', returnable: 'returns' };

function MemberList({ family, chosen, toggle }: { family: Family; chosen: readonly number[]; toggle: (itemId: number) => void }) {
  return (
    <div className="card">
      <table aria-label="Members">
        <thead>
          <tr>
            <th />
            <th>SKU</th>
            <th>Name</th>
            <th className="number">Sales price</th>
            <th className="number">On hand</th>
            <th className="number">Free</th>
            <th>Its own</th>
          </tr>
        </thead>
        <tbody>
          {family.list.map((member) => (
            <tr key={member.itemId}>
              <td>
                <input type="checkbox" aria-label={`Choose ${member.sku}`} checked={chosen.includes(member.itemId)} onChange={() => toggle(member.itemId)} />
              </td>
              <td>
                <Link className="code" to={`/items/${member.itemId}`}>
                  {member.sku}
                </Link>
              </td>
              <td>
                {member.name} {member.retired ? <small className="late">retired</small> : null}
              </td>
              <td className="number">{member.salesPrice === null ? '' : price(member.salesPrice)}</td>
              <td className="number">{quantity(member.onHand, true)}</td>
              <td className="number strong">{quantity(member.free)}</td>
              <td className="quiet">{member.ownFacts.map((fact) => factWords[fact] ?? fact).join(', ')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Adds a value to an axis, and makes the combinations with it. */
function Grow({ family }: { family: Family }) {
  const [axis, setAxis] = useState('1');
  const [value, setValue] = useState('');
  const [code, setCode] = useState('');
  const [add, adding] = useAddMembersMutation();
  const { refused, busy } = refusalOf(adding);
  const fresh = {
    name: value.trim(),
    code:
      code.trim() ||
      value
        .replace(/[^A-Za-z0-9]/g, '')
        .toUpperCase()
        .slice(0, 6),
  };
  const axes = family.axisValues.map(({ name, values }, at) => ({ name, values: at + 1 === Number(axis) ? [fresh] : values }));
  const members =
    fresh.name === ''
      ? []
      : combinations(axes).map((one) => ({
          values: one.map(({ name }) => name),
          sku: skuFrom(family.skuPattern, family.code, axes, one),
          name: memberName(family.name, one),
        }));
  const grow = async () => {
    const made = await add({
      params: { id: family.id },
      body: { newValues: [{ axis: Number(axis), ...fresh }], members: members.map(({ values, sku }) => ({ values, sku })) },
    });
    if (!made.error) setValue('');
  };
  return (
    <section className="card" aria-label="Add a value">
      <h2>Add a value</h2>
      <div className="pad stack">
        <Refused error={refused} />
        <div className="fields" style={{ alignItems: 'end' }}>
          <Choice label="Axis" value={axis} onChange={setAxis} options={family.axisValues.map(({ name }, at) => ({ value: String(at + 1), label: name }))} />
          <Field label="New value" value={value} onChange={setValue} />
          <Field label="Its code in SKUs" value={code || fresh.code} onChange={setCode} />
          <button type="button" className="button" disabled={busy || members.length === 0} onClick={() => void grow()}>
            Make {count(members.length, 'item')}
          </button>
        </div>
        {members.length > 0 ? (
          <p className="code quiet">
            {members
              .slice(0, 6)
              .map(({ sku }) => sku)
              .join(', ')}
            {members.length > 6 ? ' …' : ''}
          </p>
        ) : null}
      </div>
    </section>
  );
}

/** Chosen for a value that the axis does not have yet. */
const another = 'another value';

/** Puts a loose item into the family by its values; one that is new to an axis makes no other item. */
function Join({ family }: { family: Family }) {
  const [item, setItem] = useState<{ id: number; sku: string; name: string } | null>(null);
  const [chosen, setChosen] = useState<Record<number, string>>({});
  const [fresh, setFresh] = useState<Record<number, string>>({});
  const [join, joining] = useJoinFamilyMutation();
  const { refused, busy, at: errorAt } = refusalOf(joining);
  const valueOf = (at: number) => chosen[at] ?? family.axisValues[at]?.values[0]?.name ?? '';
  const values = family.axisValues.map((_, at) => (valueOf(at) === another ? (fresh[at] ?? '') : valueOf(at)));
  const take = async () => {
    if (!item || (await join({ params: { id: family.id }, body: { items: [{ itemId: item.id, values }] } })).error) return;
    setItem(null);
    setChosen({});
    setFresh({});
  };
  return (
    <section className="card" aria-label="Put a loose item in">
      <h2>Put a loose item in</h2>
      <div className="pad stack">
        <Refused error={refused} />
        <LineEntry label="Loose item" takesScans={false} add={setItem} />
        {item ? (
          <div className="fields" style={{ alignItems: 'end' }}>
            <b>
              <span className="code">{item.sku}</span> {item.name}
            </b>
            {family.axisValues.map((axis, at) => (
              <div key={axis.name} className="stack">
                <Choice
                  label={axis.name}
                  value={valueOf(at)}
                  onChange={(value) => setChosen({ ...chosen, [at]: value })}
                  options={[...axis.values.map(({ name }) => name), another].map((name) => ({ value: name, label: name }))}
                />
                {valueOf(at) === another ? (
                  <Field
                    label={`Another value of ${axis.name}`}
                    value={fresh[at] ?? ''}
                    onChange={(value) => setFresh({ ...fresh, [at]: value })}
                    error={errorAt(`items.0.values.${at}`)}
                  />
                ) : null}
              </div>
            ))}
            <button type="button" className="button" disabled={busy} onClick={() => void take()}>
              Put it in
            </button>
          </div>
        ) : null}
      </div>
    </section>
  );
}
