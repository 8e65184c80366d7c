import { useState } from 'react';
import { Link } from 'react-router';
import { decimal, sum } from '@larder/core/decimal';
import type { TopUpRow } from '@larder/contract/planning';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { count, money, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useOrderTopUpMutation, useTopUpQuery } from './api';

const keyOf = (row: TopUpRow) => `${row.itemId}/${row.siteId}`;

/** Each item and site at or below its reorder point, with its arithmetic, by supplier. Chosen rows become purchase orders. */
export function TopUpPage() {
  useTitle('Top up');
  const { siteId } = useSite();
  const { data, error } = useTopUpQuery({ query: { siteId } });
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [order, { isLoading, error: refused, data: made }] = useOrderTopUpMutation();
  if (!data) return <Waiting error={error} />;
  const many = (row: TopUpRow) => typed[keyOf(row)] ?? row.propose;
  const rows = data.rows.filter((row) => chosen.has(keyOf(row)) && row.supplierId !== null);
  const suppliers = [...new Set(data.rows.map(({ supplierId }) => supplierId))];
  const toggle = (keys: string[], on: boolean) => {
    const next = new Set(chosen);
    keys.forEach((key) => (on ? next.add(key) : next.delete(key)));
    setChosen(next);
  };
  const post = async () => {
    const result = await order({
      body: {
        rows: rows.map((row) => ({ itemId: row.itemId, siteId: row.siteId, supplierId: row.supplierId as number, quantity: many(row).trim() })),
        place: false,
      },
    });
    if (!result.error) setChosen(new Set());
  };
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>Top up</h1>
        <span className="quiet">{count(data.rows.length, 'proposal')}: free plus on order less short is at or below the reorder point</span>
      </div>
      {made ? (
        <p className="notice done" role="status">
          Drafts to look over and place:{' '}
          {made.orders.map((one) => (
            <Link key={one.id} className="strong" to={`/inbound/orders/${one.id}`}>
              {one.number} {one.supplier}
            </Link>
          ))}
        </p>
      ) : null}
      <Refused error={refused} />
      {data.rows.length === 0 ? (
        <p className="card state">Nothing needs topping up. Items show here the moment their stock, with what is on order, falls to the reorder point.</p>
      ) : null}
      {suppliers.map((supplierId) => {
        const group = data.rows.filter((row) => row.supplierId === supplierId);
        const keys = group.map(keyOf);
        return (
          <section key={supplierId ?? 0} className="card" aria-label={group[0]?.supplier ?? 'No supplier'}>
            <h2>
              <label>
                <input
                  type="checkbox"
                  disabled={supplierId === null}
                  checked={keys.every((key) => chosen.has(key))}
                  onChange={(event) => toggle(keys, event.target.checked)}
                />{' '}
                {group[0]?.supplier ?? 'No supplier yet: give the item one first'}
              </label>
              <span>{money(sum(group.map((row) => decimal(row.amount || 0))).toFixed(2))}</span>
            </h2>
            <table>
              <tbody>
                {group.map((row) => (
                  <tr key={keyOf(row)}>
                    <td style={{ width: 36 }}>
                      <input
                        type="checkbox"
                        disabled={row.supplierId === null}
                        aria-label={`Choose ${row.sku} for ${row.site}`}
                        checked={chosen.has(keyOf(row))}
                        onChange={(event) => toggle([keyOf(row)], event.target.checked)}
                      />
                    </td>
                    <td style={{ width: 40 }}>
                      <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} size={26} />
                    </td>
                    <td>
                      <Link to={`/items/${row.itemId}`}>
                        <span className="code">{row.sku}</span> {row.name}
                      </Link>
                      <small className="quiet" style={{ display: 'block' }}>
                        {row.site}: {arithmetic(row)}
                      </small>
                    </td>
                    <td className="number">
                      <input
                        className="plain number"
                        style={{ width: 84, height: 32 }}
                        inputMode="decimal"
                        aria-label={`Order of ${row.sku} for ${row.site}`}
                        value={many(row)}
                        onChange={(event) => setTyped({ ...typed, [keyOf(row)]: event.target.value })}
                      />
                    </td>
                    <td className="number" style={{ width: 100 }}>
                      {row.amount === null ? '' : money(row.amount)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
      <BottomBar
        hint="Chosen rows become drafts, one for each supplier and site"
        next={{ label: `Order ${count(rows.length, 'proposal')}`, run: () => void post(), disabled: rows.length === 0 || isLoading }}
      />
    </div>
  );
}

/** The proposal in one line of arithmetic. */
function arithmetic(row: TopUpRow): string {
  const now = `${quantity(row.free)} free + ${quantity(row.onOrder)} on order − ${quantity(row.short)} short = ${quantity(row.position)}, reorder at ${quantity(row.reorderPoint)}`;
  const missing = decimal(row.orderUpTo).minus(row.position).toFixed();
  const packs = decimal(row.propose).eq(missing) ? '' : `, ${quantity(row.propose)} in packs of ${quantity(row.packSize)}`;
  return `${now}; up to ${quantity(row.orderUpTo)} takes ${quantity(missing)}${packs}`;
}
