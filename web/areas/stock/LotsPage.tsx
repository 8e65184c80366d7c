import Button from '@mui/material/Button';
import { Stack } from '../../kit/layout';
import Popover from '@mui/material/Popover';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { lotSorts } from '@larder/contract/lots';
import { useSite } from '../../shared/site';
import { useAddress, useSort } from '../../kit/address';
import { useIsRested } from '../../kit/delayed';
import { useGoing } from '../../kit/going';
import { AddressTabs } from '../../kit/AddressTabs';
import { useTitle } from '../../kit/title';
import { Report } from '../../shared/Report';
import { useAttributesQuery } from '../../shared/items';
import { ItemTabs } from '../../shared/ItemTabs';
import { OwnFilter } from '../../shared/OwnFilter';
import { useMeQuery } from '../../shared/me';
import { useLotListInfiniteQuery, useLotsInAllQuery } from './api';
import { LotPeek } from './LotPeek';
import { columns } from './lotColumns';

const states = [
  ['here', 'Here'],
  ['past', 'Past use-by'],
  ['gone', 'No longer here'],
  ['all', 'All'],
] as const;
const kinds = [
  ['all', 'Both'],
  ['serial', 'Serial units'],
  ['lot', 'Lots'],
] as const;

/** All lots and serial units: what each is, where it is, and the business's own facts about it. */
export function LotsPage() {
  useTitle('Lots and units');
  const { siteId } = useSite();
  const navigate = useNavigate();
  const address = useAddress();
  const sort = useSort(address, lotSorts, 'code');
  const { data: me } = useMeQuery({});
  const { data: attributes } = useAttributesQuery({});
  const today = me?.company.today ?? '';
  const state = address.choice('state', states);
  const kind = address.choice('kind', kinds);
  const filter = {
    q: address.get('q'),
    state,
    kind: kind === 'all' ? undefined : kind,
    siteId,
    itemId: Number(address.get('item')) || undefined,
    attributeId: Number(address.get('attribute')) || undefined,
    attributeValue: address.get('value') || undefined,
  };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useLotListInfiniteQuery({ query: question }));
  const { currentData: inAll } = useLotsInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const asColumns = `${address.get('columns')},${address.get('attribute')}`;
  const shown = useMemo(
    () =>
      columns(
        (attributes?.rows ?? []).filter(({ id, subject }) => subject === 'unit' && asColumns.split(',').includes(String(id))),
        today,
      ),
    [attributes, asColumns, today],
  );
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const ownAttributes = (attributes?.rows ?? []).some(({ subject }) => subject === 'unit');
  return (
    <Report
      laidOutAs="lots"
      keptAs="lots"
      out={{ list: 'lots', only: { lots: filter } }}
      title="Lots and units"
      address={address}
      find={{ label: 'Find lots and units', placeholder: 'Lot, serial, tag, item, condition' }}
      beside={<ItemTabs />}
      filters={
        <>
          <AddressTabs label="Which of them" address={address} name="state" options={states} />
          <Button aria-haspopup="dialog" onClick={(event) => setAnchor(event.currentTarget)}>
            More filters
          </Button>
          <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
            <Stack pad sx={{ width: 300 }} role="dialog" aria-label="More filters">
              <AddressTabs label="Kind" address={address} name="kind" options={kinds} />
              <OwnFilter address={address} subject="unit" />
              {ownAttributes ? null : <p className="quiet">Facts of your own on serial units are added under Setup; they can be filters and columns here.</p>}
            </Stack>
          </Popover>
        </>
      }
      noun="row"
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/stock/lots/${id}`}
      sort={sort}
      empty={
        <>
          No lot or serial unit is here. They come in at the <Link to="/inbound/desk">receiving desk</Link>, or as opening stock of an item that is kept by lot
          or serial.
        </>
      }
      peek={({ id }) => <LotPeek id={id} />}
      next={(row) => row && { label: `Open ${row.code}`, run: () => void navigate(`/stock/lots/${row.id}`) }}
      actions={(row) => (
        <>
          <Button component={Link} to="/import?kind=lots">
            Import
          </Button>
          {row ? (
            <Button component={Link} to={`/labels?lots=${row.id}`}>
              Label
            </Button>
          ) : null}
        </>
      )}
    />
  );
}
