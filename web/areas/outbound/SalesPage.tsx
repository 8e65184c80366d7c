import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { SalesRow } from '@larder/contract/outbound';
import { useSite } from '../../app/site';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { count, due, money, quantity } from '../../kit/format';
import { ListTable, type Column } from '../../kit/ListTable';
import { Moon } from '../../kit/Moon';
import { Pager } from '../../kit/Pager';
import { usePages } from '../../kit/pages';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../people/api';
import { useSaleQuery, useSalesQuery } from './api';

const shows = [
  ['open', 'To go out'],
  ['quotes', 'Quotes'],
  ['all', 'All'],
] as const;

export function SalesPage() {
  useTitle('Outbound');
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const [selected, setSelected] = useState(0);
  const show = shows.find(([key]) => key === search.get('show'))?.[0] ?? 'open';
  const q = useDelayed(search.get('q') ?? '', 150);
  const pages = usePages(JSON.stringify({ show, q, siteId }));
  const { data, error } = useSalesQuery({ query: { show, q, siteId, cursor: pages.cursor, limit: 50 } });
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
          <h1>Outbound</h1>
          <span className="side">
            <input
              className="plain"
              type="search"
              aria-label="Find sales orders"
              placeholder="Number or customer"
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
            label="Sales orders"
            columns={columns(me?.company.today ?? '')}
            rows={data.rows}
            keyOf={({ id }) => id}
            selected={selected}
            select={setSelected}
            open={({ id }) => void navigate(`/outbound/orders/${id}`)}
            empty="No order here. Write a quote with New quote, and confirm it."
          />
        ) : (
          <Waiting error={error} />
        )}
        <p style={{ paddingTop: 10 }}>
          <Pager pages={pages} next={data?.next} />
        </p>
      </div>
      {row ? <SalePeek id={row.id} /> : <span />}
      <BottomBar
        hint={data ? `${count(data.rows.length, 'order')} shown; arrow keys move, Enter opens` : ''}
        next={row ? { label: `Open ${row.number}`, run: () => void navigate(`/outbound/orders/${row.id}`) } : undefined}
      >
        <Link className="button" to="/outbound/orders/new">
          New quote
        </Link>
      </BottomBar>
    </div>
  );
}

const columns = (today: string): Column<SalesRow>[] => [
  { name: '', cell: (row) => <Moon done={row.dispatched} of={row.ordered} /> },
  { name: 'Order', cell: (row) => <span className="code strong">{row.number}</span> },
  { name: 'Customer', cell: (row) => row.customer },
  { name: 'From', wide: true, cell: (row) => <span className="quiet">{row.site}</span> },
  { name: 'State', cell: (row) => row.state },
  { name: 'Short', number: true, cell: (row) => <span className="late">{quantity(row.short, true)}</span> },
  { name: 'Ship', cell: (row) => <span className={row.late ? 'late' : ''}>{due(row.shipBy, today)}</span> },
  { name: 'Amount', number: true, wide: true, cell: (row) => money(row.amount) },
];

function SalePeek({ id }: { id: number }) {
  const { data, error } = useSaleQuery({ params: { id } });
  if (!data || data.id !== id)
    return (
      <aside className="card">
        <Waiting error={error} />
      </aside>
    );
  return (
    <aside className="card" aria-label={`About ${data.number}`}>
      <h2>
        {data.number} {data.customer}
        <span>{data.state}</span>
      </h2>
      <table>
        <thead>
          <tr>
            <th>Item</th>
            <th className="number">Wants</th>
            <th className="number">Picked</th>
            <th className="number">Gone</th>
          </tr>
        </thead>
        <tbody>
          {data.lines.map((line) => (
            <tr key={line.id}>
              <td>
                <span className="code">{line.sku}</span>
                <span className="name">{line.name}</span>
                {Number(line.short) > 0 ? <small className="late">{quantity(line.short)} short</small> : null}
              </td>
              <td className="number">{quantity(line.quantity)}</td>
              <td className="number">{quantity(line.picked, true)}</td>
              <td className="number">{quantity(line.dispatched, true)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </aside>
  );
}
