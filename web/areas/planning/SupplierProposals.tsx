import { Link } from 'react-router';
import { decimal, sum } from '@larder/core/decimal';
import type { TopUpRow } from '@larder/contract/planning';
import { money, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';

/** Tells proposals apart. */
export const keyOf = (row: TopUpRow) => `${row.itemId}/${row.siteId}`;

interface SupplierProposalsProps {
  group: readonly TopUpRow[];
  chosen: ReadonlySet<string>;
  toggle: (keys: string[], on: boolean) => void;
  many: (row: TopUpRow) => string;
  type: (row: TopUpRow, quantity: string) => void;
}

/** What is proposed to be ordered from one supplier. */
export function SupplierProposals({ group, chosen, toggle, many, type }: SupplierProposalsProps) {
  const keys = group.map(keyOf);
  return (
    <section className="card" aria-label={group[0]?.supplier ?? 'No supplier'}>
      <h2>
        <label>
          <input
            type="checkbox"
            disabled={group[0]?.supplierId === null}
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
                  onChange={(event) => type(row, event.target.value)}
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
}

/** The proposal in one line of arithmetic. */
function arithmetic(row: TopUpRow): string {
  const now = `${quantity(row.free)} free + ${quantity(row.onOrder)} on order − ${quantity(row.short)} short = ${quantity(row.position)}, reorder at ${quantity(row.reorderPoint)}`;
  const missing = decimal(row.orderUpTo).minus(row.position).toFixed();
  const packs = decimal(row.propose).eq(missing) ? '' : `, ${quantity(row.propose)} in packs of ${quantity(row.packSize)}`;
  return `${now}; up to ${quantity(row.orderUpTo)} takes ${quantity(missing)}${packs}`;
}
