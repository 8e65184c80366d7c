import Button from '@mui/material/Button';
import type { ApartRow } from '@larder/contract/takingApart';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { longDay, money, quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage, PeekWaiting } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { MakingWays } from '../../shared/MakingWays';
import { useMay } from '../../shared/may';
import { useSite } from '../../shared/site';
import { useApartInfiniteQuery, useApartOneQuery } from './api';

/** What was taken apart, the last first. */
export function ApartListPage() {
  useTitle('Taken apart');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const may = useMay('making.record');
  const itemId = Number(address.get('item')) || undefined;
  const question = { q: address.get('q'), siteId, itemId };
  const useList = () => useGoing(useApartInfiniteQuery({ query: question }));
  return (
    <ListPage
      title="Taken apart"
      beside={<MakingWays />}
      address={address}
      find={{ label: 'Find what was taken apart', placeholder: 'Number, item or site' }}
      noun="thing"
      columns={columns}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ id }) => `/making/orders/${id}`}
      empty={
        <>
          Nothing was taken apart yet. A kit or a return becomes its parts again, with what it cost.{' '}
          {may ? <Link to="/making/apart/new">Take something apart</Link> : null}
        </>
      }
      peek={({ id }) => <Peek id={id} />}
      next={() => (may ? { label: 'Take apart', run: () => void navigate('/making/apart/new') } : undefined)}
      actions={(row) =>
        row ? (
          <Button component={Link} to={`/making/orders/${row.id}`}>
            Open {row.number}
          </Button>
        ) : null
      }
    />
  );
}

const columns: Column<ApartRow>[] = [
  {
    name: 'Number',
    text: (row) => row.number,
    cell: (row) => <span className="code strong">{row.number}</span>,
  },
  {
    name: 'Taken apart',
    cell: (row) => (
      <>
        <span className="code">{row.sku}</span>
        <span className="name">{row.name}</span>
      </>
    ),
  },
  { name: 'Quantity', number: true, cell: (row) => quantity(row.quantity) },
  { name: 'At', wide: true, cell: (row) => <span className="quiet">{row.site}</span> },
  { name: 'By', wide: true, cell: (row) => row.person },
  { name: 'Day', cell: (row) => longDay(row.on) },
  { name: 'Had cost', number: true, wide: true, cell: (row) => money(row.value) },
  { name: 'Lost', number: true, wide: true, cell: (row) => <span className="late">{Number(row.lost) === 0 ? '' : money(row.lost)}</span> },
  { name: '', cell: (row) => (row.undone ? <span className="quiet">undone</span> : '') },
];

function Peek({ id }: { id: number }) {
  const { data, error } = useApartOneQuery({ params: { id } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.number}`}>
      <h2>
        {data.number}
        <span>
          {quantity(data.quantity)} {data.sku}
        </span>
      </h2>
      <ul>
        {data.came.map((part) => (
          <li key={part.itemId}>
            {quantity(part.good)} of {quantity(part.planned)} <span className="code">{part.sku}</span>
          </li>
        ))}
      </ul>
    </Card>
  );
}
