import { PageHead, Side } from '../../kit/layout';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { count, quantity } from '../../kit/format';
import { ListTable } from '../../kit/ListTable';
import { Waiting } from '../../kit/states';
import { AddressTabs } from '../../kit/AddressTabs';
import { useTitle } from '../../kit/title';
import { useFamiliesQuery } from './api';
import { ItemTabs } from '../../shared/ItemTabs';
import { FindField } from '../../kit/FindField';

const lives = [
  ['active', 'In use'],
  ['retired', 'Retired'],
  ['all', 'All'],
] as const;

/** All variant families. */
export function FamiliesPage() {
  useTitle('Variant families');
  const navigate = useNavigate();
  const address = useAddress();
  const life = address.choice('life', lives);
  const { data, error } = useFamiliesQuery({ query: { q: address.get('q'), life } });
  const [selected, setSelected] = useState(0);
  return (
    <>
      <PageHead>
        <h1>Variant families</h1>
        <ItemTabs />
        <Side>
          <FindField address={address} label="Find families" placeholder="Name or code" />
          <AddressTabs label="Which families" address={address} name="life" options={lives} />
        </Side>
      </PageHead>
      {data ? (
        <ListTable
          label="Variant families"
          rows={data.rows}
          keyOf={({ id }) => id}
          selected={selected}
          select={setSelected}
          open={({ id }) => void navigate(`/items/families/${id}`)}
          empty={
            <>
              No family yet. <Link to="/items/families/new">Make one</Link> for what comes in sizes, colours or kinds.
            </>
          }
          columns={[
            { name: 'Family', cell: (row) => <Link to={`/items/families/${row.id}`}>{row.name}</Link> },
            { name: 'Code', cell: (row) => <span className="code">{row.code}</span> },
            { name: 'Axes', cell: (row) => row.axes.join(', ') },
            { name: 'Members', number: true, cell: (row) => row.members },
            { name: 'On hand', number: true, cell: (row) => quantity(row.onHand, true) },
            { name: 'Free', number: true, cell: (row) => <b>{quantity(row.free)}</b> },
          ]}
        />
      ) : (
        <Waiting error={error} />
      )}
      <BottomBar
        hint={data ? count(data.rows.length, 'family').replace('familys', 'families') : ''}
        next={{ label: 'Make a family', run: () => void navigate('/items/families/new') }}
      />
    </>
  );
}
