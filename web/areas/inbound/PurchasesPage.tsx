import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { PurchaseRow } from '@larder/contract/inbound';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { count, due, money, quantity } from '../../kit/format';
import { ListTable, type Column } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { StageTrack } from '../../kit/StageTrack';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../people/api';
import { usePurchaseQuery, usePurchasesQuery } from './api';

const shows = [
  ['open', 'On order'],
  ['drafts', 'Drafts'],
  ['all', 'All'],
] as const;

export function PurchasesPage() {
  useTitle('Inbound');
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const [selected, setSelected] = useState(0);
  const show = shows.find(([key]) => key === search.get('show'))?.[0] ?? 'open';
  const q = useDelayed(search.get('q') ?? '', 150);
  const pages = usePages(JSON.stringify({ show, q, siteId }));
  const { data, error } = usePurchasesQuery({ query: { show, q, siteId, cursor: pages.cursor, limit: 50 } });
  const put = (name: string, value: string) => {
    setSelected(0);
    setSearch(
      (now) => {
        if (value) now.set(name, value);
        else now.delete(name);
        return now;
      },
      { replace: true },
    );
  };
  const row = data?.rows[selected];
  return (
    <div className="split fill">
      <div>
        <div className="head">
          <h1>Inbound</h1>
          <span className="side">
            <input
              className="plain"
              type="search"
              aria-label="Find purchase orders"
              placeholder="Number or supplier"
              value={search.get('q') ?? ''}
              onChange={(event) => put('q', event.target.value)}
            />
            <span className="tabs">
              {shows.map(([key, label]) => (
                <button key={key} type="button" aria-pressed={show === key} onClick={() => put('show', key)}>
                  {label}
                </button>
              ))}
            </span>
          </span>
        </div>
        {data ? (
          <ListTable
            label="Purchase orders"
            columns={columns(me?.company.today ?? '')}
            rows={data.rows}
            keyOf={({ id }) => id}
            selected={selected}
            select={setSelected}
            open={({ id }) => void navigate(`/inbound/orders/${id}`)}
            empty="No purchase order here. Write one with New order, or take it from Planning."
          />
        ) : (
          <Waiting error={error} />
        )}
        <p style={{ paddingTop: 10 }}>
          <Pager pages={pages} next={data?.next} />
        </p>
      </div>
      {row ? <PurchasePeek id={row.id} /> : <span />}
      <BottomBar
        hint={data ? `${count(data.rows.length, 'order')} shown; arrow keys move, Enter opens` : ''}
        next={{ label: 'Open the receiving desk', run: () => void navigate('/inbound/desk') }}
      >
        <Link className="button" to="/inbound/orders/new">
          New order
        </Link>
      </BottomBar>
    </div>
  );
}

const columns = (today: string): Column<PurchaseRow>[] => [
  { name: '', cell: (row) => <Moon done={row.received} of={row.ordered} /> },
  { name: 'Order', cell: (row) => <span className="code strong">{row.number}</span> },
  { name: 'Supplier', cell: (row) => row.supplier },
  { name: 'To', wide: true, cell: (row) => <span className="quiet">{row.site}</span> },
  { name: 'State', wide: true, cell: (row) => row.state },
  { name: 'Received', number: true, cell: (row) => `${quantity(row.received)} of ${quantity(row.ordered)}` },
  { name: 'Due', cell: (row) => <span className={row.late ? 'late' : ''}>{row.expectedOn || row.state !== 'draft' ? due(row.expectedOn, today) : ''}</span> },
  { name: 'Amount', number: true, wide: true, cell: (row) => money(row.amount) },
];

function PurchasePeek({ id }: { id: number }) {
  const { data, error } = usePurchaseQuery({ params: { id } });
  if (!data || data.id !== id)
    return (
      <aside className="card">
        <Waiting error={error} />
      </aside>
    );
  return (
    <aside className="card" aria-label={`About ${data.number}`}>
      <h2>
        {data.number} {data.supplier}
        <span>{data.state}</span>
      </h2>
      <div className="pad">
        <StageTrack stages={data.stages.slice(-1)} />
      </div>
      <table>
        <tbody>
          {data.lines.map((line) => (
            <tr key={line.id}>
              <td>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
              </td>
              <td className="number">
                {quantity(line.received)} of {quantity(line.quantity)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </aside>
  );
}
