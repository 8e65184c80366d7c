import Button from '@mui/material/Button';
import { PageHead, Split, Stack } from '../../kit/layout';
import { CellChoice } from '../../kit/CellField';
import { useState } from 'react';
import { Link } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import { useRetireSiteMutation } from './api';
import { MakeBins } from './MakeBins';
import { ChangeBins } from './ChangeBins';
import { BinTable } from './BinTable';
import { useSay } from '../../shared/say';

/** The bins of a site as a tree (zone, aisle, bay, bin), in walking order; many are made at once by a pattern. */
export function BinsPage() {
  useTitle('Bins');
  const address = useAddress();
  const { data: reference } = useReferenceQuery({});
  const siteId = Number(address.get('site')) || (reference?.sites[0]?.id ?? 0);
  const { data, error } = useBinsQuery({ query: { siteId, retired: 'with' } }, { skip: siteId === 0 });
  const [chosen, setChosen] = useState<number[]>([]);
  const [retire, retiring] = useRetireSiteMutation();
  const say = useSay();
  const { refused, busy } = refusalOf(retiring);
  const site = reference?.sites.find(({ id }) => id === siteId);
  const bins = data?.rows ?? [];
  const retireSite = async ({ id, name }: { id: number; name: string }) => {
    if ((await retire({ params: { id }, body: { retired: true } })).error) return;
    say({ text: `${name} is retired.`, undo: { run: () => void retire({ params: { id }, body: { retired: false } }) } });
  };
  const toggle = (ids: readonly number[]) =>
    setChosen(ids.every((id) => chosen.includes(id)) ? chosen.filter((id) => !ids.includes(id)) : [...new Set([...chosen, ...ids])]);
  if (!reference) return <Waiting error={error} />;
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Bins</h1>
          <CellChoice label="Site of the bins" value={siteId} onChange={(typed) => address.put('site', typed)} tall>
            {reference.sites.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </CellChoice>
          <span className="quiet">{count(bins.filter(({ retired, unplaced }) => !retired && !unplaced).length, 'bin')} in walking order, one bench</span>
        </PageHead>
        <Refused error={refused} />
        <BinTable bins={bins} chosen={chosen} toggle={toggle} />
      </Stack>
      <Stack>
        <MakeBins siteId={siteId} taken={bins.map(({ code }) => code.toLowerCase())} />
        <ChangeBins chosen={bins.map(({ id }) => id).filter((id) => chosen.includes(id))} changed={() => setChosen([])} />
      </Stack>
      <BottomBar hint={chosen.length > 0 ? `${count(chosen.length, 'bin')} chosen` : 'Choose bins to change them together'}>
        <Button component={Link} to={`/labels?bins=${chosen.length > 0 ? chosen.join(',') : `site-${siteId}`}`}>
          Print {chosen.length > 0 ? count(chosen.length, 'label') : 'the code sheet'}
        </Button>
        {site ? (
          <Button disabled={busy} onClick={() => void retireSite(site)}>
            Retire {site.name}
          </Button>
        ) : null}
      </BottomBar>
    </Split>
  );
}
