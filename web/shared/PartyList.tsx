import { useMemo } from 'react';
import Button from '@mui/material/Button';
import type { PartyRow } from '@larder/contract/setup';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../kit/address';
import { AddressTabs } from '../kit/AddressTabs';
import { shortDay } from '../kit/format';
import { PeekWaiting } from '../kit/ListPage';
import type { Column } from '../kit/ListTable';
import { Card, FactList } from '../kit/layout';
import { useIsRested } from '../kit/delayed';
import { useGoing } from '../kit/going';
import { useTitle } from '../kit/title';
import { May } from './may';
import { useMeQuery } from './me';
import { usePartiesInAllQuery, usePartyListInfiniteQuery, usePartyQuery } from './reference';
import { Report } from './Report';

const lives = [
  ['active', 'In use'],
  ['retired', 'Retired'],
  ['all', 'All'],
] as const;

interface PartyListProps {
  as: 'supplier' | 'customer';
  title: string;
  /** The pages of each, below this address. */
  base: string;
  /** The ways into the area. */
  ways: ReactNode;
}

/** All suppliers or customers, found by any word, each with its open orders. */
export function PartyList({ as, title, base, ways }: PartyListProps) {
  useTitle(title);
  const navigate = useNavigate();
  const address = useAddress();
  const { data: me } = useMeQuery({});
  const question = { as, q: address.get('q'), life: address.choice('life', lives) };
  const useList = () => useGoing(usePartyListInfiniteQuery({ query: question }));
  const { currentData: inAll } = usePartiesInAllQuery({ query: question }, { skip: !useIsRested(question, 300) });
  const shown = useMemo(() => columns(as, me?.company.today ?? '', question.life !== 'active'), [as, me?.company.today, question.life]);
  return (
    <Report
      laidOutAs={as === 'supplier' ? 'suppliers' : 'customers'}
      out={{ list: as === 'supplier' ? 'suppliers' : 'customers', only: { q: question.q } }}
      title={title}
      address={address}
      find={{ label: `Find ${title.toLowerCase()}`, placeholder: 'Name, address or person' }}
      beside={ways}
      filters={<AddressTabs label={`Which ${title.toLowerCase()}`} address={address} name="life" options={lives} />}
      noun={as}
      columns={shown}
      useList={useList}
      question={question}
      count={inAll?.count}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `${base}/${id}`}
      empty={
        <>
          No {as} yet. <Link to={`${base}/new`}>Add the first one</Link>, or <Link to={`/import?kind=${as}s`}>import a file</Link>.
        </>
      }
      peek={({ id }) => <PartyPeek id={id} />}
      next={(row) => row && { label: `Open ${row.name}`, run: () => void navigate(`${base}/${row.id}`) }}
      actions={() => (
        <May to="items.edit">
          <Button component={Link} to={`${base}/new`}>
            New {as}
          </Button>
        </May>
      )}
    />
  );
}

const columns = (as: 'supplier' | 'customer', today: string, withRetired: boolean): Column<PartyRow>[] => [
  { name: 'Name', text: (row) => row.name, cell: (row) => <b>{row.name}</b> },
  { name: 'Person', wide: true, cell: (row) => row.contact },
  { name: 'Phone', wide: true, cell: (row) => row.phone },
  { name: 'Mail address', wide: true, cell: (row) => <span className="quiet">{row.email}</span> },
  ...(as === 'supplier' ? [{ name: 'Days', number: true, cell: (row: PartyRow) => row.leadDays }] : []),
  { name: 'Open orders', number: true, cell: (row) => (row.openOrders === 0 ? '' : row.openOrders) },
  { name: as === 'supplier' ? 'Ordered last' : 'Sold to last', cell: (row) => (row.lastOn === null ? '' : shortDay(row.lastOn, today)) },
  ...(withRetired ? [{ name: 'State', wide: true, cell: (row: PartyRow) => (row.retired ? <span className="quiet">retired</span> : 'in use') }] : []),
];

function PartyPeek({ id }: { id: number }) {
  const { data, error } = usePartyQuery({ params: { id } });
  if (data?.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.name}`}>
      <h2>{data.name}</h2>
      <PartyContact party={data} />
    </Card>
  );
}

/** How to reach a supplier or customer, and whom to speak to. */
export function PartyContact({
  party,
}: {
  party: Pick<PartyRow, 'email' | 'phone'> & {
    address: string;
    notes: string;
    contacts: readonly { name: string; role: string; email: string; phone: string }[];
  };
}) {
  const facts = [
    ['Mail address', party.email],
    ['Phone', party.phone],
    ['Address', party.address],
    ...party.contacts.map(({ name, role, email, phone }) => [role === '' ? 'Person' : role, [name, phone, email].filter(Boolean).join(', ')] as const),
    ['Notes', party.notes],
  ].filter(([, value]) => value !== '');
  if (facts.length === 0) return <p className="pad quiet">Nothing is written of them yet.</p>;
  return (
    <div className="pad">
      <FactList>
        {facts.map(([name, value], index) => (
          <div key={index}>
            <dt className="quiet">{name}</dt>
            <dd className="lines">{value}</dd>
          </div>
        ))}
      </FactList>
    </div>
  );
}
