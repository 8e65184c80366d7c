import { useState } from 'react';
import { Link } from 'react-router';
import { binCodes, binPath } from '@larder/core/setup/bins';
import type { Bin } from '@larder/contract/setup';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import { useCreateBinsMutation, useEditBinsMutation, useRetireSiteMutation } from './api';

/** The bins of a site as a tree (zone, aisle, bay, bin), in walking order; many are made at once by a pattern. */
export function BinsPage() {
  useTitle('Bins');
  const address = useAddress();
  const { data: reference } = useReferenceQuery({});
  const siteId = Number(address.get('site')) || (reference?.sites[0]?.id ?? 0);
  const { data, error } = useBinsQuery({ query: { siteId, retired: 'with' } }, { skip: siteId === 0 });
  const [chosen, setChosen] = useState<number[]>([]);
  const [edit, editing] = useEditBinsMutation();
  const [retire, retiring] = useRetireSiteMutation();
  const { refused, busy } = refusalOf(editing, retiring);
  const site = reference?.sites.find(({ id }) => id === siteId);
  const bins = data?.rows ?? [];
  const change = async (part: { zone?: string; sellable?: boolean; retired?: boolean; walkFrom?: number }) => {
    const ids = bins.map(({ id }) => id).filter((id) => chosen.includes(id));
    if (!(await edit({ body: { ids, ...part } })).error) setChosen([]);
  };
  const toggle = (ids: readonly number[]) =>
    setChosen(ids.every((id) => chosen.includes(id)) ? chosen.filter((id) => !ids.includes(id)) : [...new Set([...chosen, ...ids])]);
  if (!reference) return <Waiting error={error} />;
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Bins</h1>
          <select className="plain" aria-label="Site of the bins" value={siteId} onChange={(event) => address.put('site', event.target.value)}>
            {reference.sites.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <span className="quiet">{count(bins.filter(({ retired, unplaced }) => !retired && !unplaced).length, 'bin')} in walking order, one bench</span>
        </div>
        <Refused error={refused} />
        <div className="card">
          <table aria-label="Bins">
            <thead>
              <tr>
                <th>
                  <input
                    type="checkbox"
                    aria-label="Choose all bins"
                    checked={bins.length > 0 && bins.every(({ id }) => chosen.includes(id))}
                    onChange={() => toggle(bins.map(({ id }) => id))}
                  />
                </th>
                <th>Bin</th>
                <th>Zone</th>
                <th>For</th>
                <th className="number">Items in it</th>
              </tr>
            </thead>
            {groups(bins).map(({ title, list }) => (
              <tbody key={title}>
                {title === '' ? null : (
                  <tr className="group">
                    <td>
                      <input
                        type="checkbox"
                        aria-label={`Choose ${title}`}
                        checked={list.every(({ id }) => chosen.includes(id))}
                        onChange={() => toggle(list.map(({ id }) => id))}
                      />
                    </td>
                    <th colSpan={4} scope="rowgroup">
                      {title}
                    </th>
                  </tr>
                )}
                {list.map((bin, at) => [
                  bayOf(bin) !== '' && bayOf(bin) !== bayOf(list[at - 1]) ? (
                    <BayRow key={`bay ${bin.id}`} bay={bayOf(bin)} bins={list} chosen={chosen} toggle={toggle} />
                  ) : null,
                  <tr key={bin.id} className={bayOf(bin) === '' ? undefined : 'under'}>
                    <td>
                      <input type="checkbox" aria-label={`Choose ${bin.code}`} checked={chosen.includes(bin.id)} onChange={() => toggle([bin.id])} />
                    </td>
                    <td>
                      <Link className="code" to={`/stock/bins/${bin.id}`}>
                        {bin.code}
                      </Link>
                      {bin.retired ? <small className="late"> retired</small> : null}
                    </td>
                    <td>{bin.zone}</td>
                    <td className="quiet">{bin.unplaced ? 'goods without a bin' : bin.sellable ? 'sale' : 'quarantine'}</td>
                    <td className="number">{bin.items || ''}</td>
                  </tr>,
                ])}
              </tbody>
            ))}
          </table>
        </div>
      </div>
      <div className="stack">
        <MakeBins siteId={siteId} taken={bins.map(({ code }) => code.toLowerCase())} />
        <ChangeBins chosen={chosen} change={(part) => void change(part)} busy={busy} />
      </div>
      <BottomBar hint={chosen.length > 0 ? `${count(chosen.length, 'bin')} chosen` : 'Choose bins to change them together'}>
        <Link className="button" to={`/labels?bins=${chosen.length > 0 ? chosen.join(',') : `site-${siteId}`}`}>
          Print {chosen.length > 0 ? count(chosen.length, 'label') : 'the code sheet'}
        </Link>
        {site ? (
          <button type="button" className="button" disabled={busy} onClick={() => void retire({ params: { id: site.id }, body: { retired: true } })}>
            Retire {site.name}
          </button>
        ) : null}
      </BottomBar>
    </div>
  );
}

const bayOf = (bin: Bin | undefined): string => (bin === undefined || bin.unplaced ? '' : binPath(bin.code).bay);

interface BayRowProps {
  bay: string;
  bins: readonly Bin[];
  chosen: readonly number[];
  toggle: (ids: readonly number[]) => void;
}

function BayRow({ bay, bins, chosen, toggle }: BayRowProps) {
  const ids = bins.filter((bin) => bayOf(bin) === bay).map(({ id }) => id);
  return (
    <tr className="bay">
      <td>
        <input type="checkbox" aria-label={`Choose bay ${bay}`} checked={ids.every((id) => chosen.includes(id))} onChange={() => toggle(ids)} />
      </td>
      <th colSpan={4} scope="row">
        Bay <span className="code">{bay}</span> <span className="quiet">{count(ids.length, 'bin')}</span>
      </th>
    </tr>
  );
}

/** Bins under their zone and aisle. */
function groups(bins: readonly Bin[]): { title: string; list: Bin[] }[] {
  const found = new Map<string, Bin[]>();
  for (const bin of bins) {
    const { aisle } = binPath(bin.code);
    const title = [bin.zone, bin.unplaced || aisle === '' ? '' : `Aisle ${aisle}`].filter((part) => part !== '').join(', ');
    found.set(title, [...(found.get(title) ?? []), bin]);
  }
  return [...found].map(([title, list]) => ({ title, list }));
}

function MakeBins({ siteId, taken }: { siteId: number; taken: readonly string[] }) {
  const [pattern, setPattern] = useState('');
  const [zone, setZone] = useState('');
  const [use, setUse] = useState('sale');
  const [create, creating] = useCreateBinsMutation();
  const { refused, busy } = refusalOf(creating);
  const { codes, fault } = readPattern(pattern);
  const known = codes.filter((code) => taken.includes(code.toLowerCase()));
  const fresh = codes.filter((code) => !taken.includes(code.toLowerCase()));
  const make = async () => {
    if (!(await create({ body: { siteId, codes: fresh, sellable: use === 'sale', zone } })).error) setPattern('');
  };
  return (
    <section className="card" aria-label="Make bins">
      <h2>Make bins</h2>
      <div className="pad stack">
        <Refused error={refused} />
        <Field label="Pattern" value={pattern} onChange={setPattern} placeholder="B-{01..06}-{1..4}" error={fault} />
        <Field label="Zone" value={zone} onChange={setZone} placeholder="when the site has several" />
        <Choice
          label="For"
          value={use}
          onChange={setUse}
          options={[
            { value: 'sale', label: 'sale' },
            { value: 'quarantine', label: 'quarantine' },
          ]}
        />
        {codes.length > 0 ? (
          <p className="code quiet" style={{ whiteSpace: 'normal' }}>
            {codes.slice(0, 8).join(', ')}
            {codes.length > 8 ? ` … ${codes.at(-1) ?? ''}` : ''}
          </p>
        ) : null}
        {known.length > 0 ? (
          <p className="quiet">{count(known.length, 'of them is there already and left as it is', 'of them are there already and left as they are')}.</p>
        ) : null}
        <button type="button" className="button" disabled={busy || fresh.length === 0} onClick={() => void make()}>
          Make {count(fresh.length, 'bin')}
        </button>
      </div>
    </section>
  );
}

function readPattern(pattern: string): { codes: string[]; fault: string | undefined } {
  try {
    return { codes: pattern.trim() === '' ? [] : binCodes(pattern), fault: undefined };
  } catch (error) {
    return { codes: [], fault: error instanceof RangeError ? error.message : 'This pattern cannot be read.' };
  }
}

interface ChangeBinsProps {
  chosen: readonly number[];
  change: (part: { zone?: string; sellable?: boolean; retired?: boolean; walkFrom?: number }) => void;
  busy: boolean;
}

function ChangeBins({ chosen, change, busy }: ChangeBinsProps) {
  const [zone, setZone] = useState('');
  const [walkFrom, setWalkFrom] = useState('');
  if (chosen.length === 0) return null;
  return (
    <section className="card" aria-label="Change the chosen bins">
      <h2>Change {count(chosen.length, 'bin')}</h2>
      <div className="pad stack">
        <div className="fields" style={{ gridTemplateColumns: '1fr auto', alignItems: 'end' }}>
          <Field label="Zone of the chosen" value={zone} onChange={setZone} />
          <button type="button" className="button" disabled={busy} onClick={() => change({ zone })}>
            Set
          </button>
          <Field label="Walk to them from place" value={walkFrom} onChange={setWalkFrom} placeholder="1" />
          <button type="button" className="button" disabled={busy || !/^\d{1,6}$/.test(walkFrom)} onClick={() => change({ walkFrom: Number(walkFrom) })}>
            Set
          </button>
        </div>
        <span style={{ display: 'flex', flexWrap: 'wrap', gap: 8 }}>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ sellable: false })}>
            For quarantine
          </button>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ sellable: true })}>
            For sale
          </button>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ retired: true })}>
            Retire
          </button>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ retired: false })}>
            Take back
          </button>
        </span>
      </div>
    </section>
  );
}
