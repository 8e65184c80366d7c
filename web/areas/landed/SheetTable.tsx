import type { LandedLine } from '@larder/contract/landed';
import { money, price, quantity } from '../../kit/format';
import type { ChargeDraft, WorkedSheet } from './sheetDraft';

interface SheetTableProps {
  worked: WorkedSheet;
  charges: readonly ChargeDraft[];
  change: (index: number, part: Partial<ChargeDraft>) => void;
  locked: boolean;
}

/** SKU of a line, with the lot or serial where one is kept. */
const goods = ({ sku, lot }: LandedLine): string => (lot === null ? sku : `${sku} ${lot}`);

/** The lines with ordered, billed and landed unit cost, and what of each charge falls on them. */
export function SheetTable({ worked, charges, change, locked }: SheetTableProps) {
  return (
    <section className="card scroll" aria-label="Lines">
      <table aria-label="Landed lines">
        <thead>
          <tr>
            <th>Goods</th>
            <th className="number">Quantity</th>
            <th className="number">Ordered at</th>
            <th className="number">Billed at</th>
            {charges.map((charge, index) => (
              <th key={index} className="number">
                {charge.name || `Charge ${index + 1}`}
              </th>
            ))}
            <th className="number">Landed at</th>
          </tr>
        </thead>
        <tbody>
          {worked.lines.map(({ line, ordered, billed, shares, landed }) => (
            <tr key={line.lineId}>
              <td>
                <span className="code">{goods(line)}</span>
                <span className="name">{line.name}</span>
                {Number(line.here) < 1 ? <small className="quiet name">{quantity((Number(line.here) * 100).toFixed(0))}% still here</small> : null}
              </td>
              <td className="number">{quantity(line.quantity)}</td>
              <td className="number quiet">{price(ordered.toFixed(6))}</td>
              <td className="number quiet">{price(billed.toFixed(6))}</td>
              {charges.map((charge, index) => {
                const out = charge.leftOut.includes(line.lineId);
                const leave = () => change(index, { leftOut: out ? charge.leftOut.filter((id) => id !== line.lineId) : [...charge.leftOut, line.lineId] });
                return (
                  <td key={index} className="number">
                    <label style={{ whiteSpace: 'nowrap' }}>
                      {charge.by === 'typed' ? (
                        <input
                          className="plain number"
                          style={{ width: 60, height: 28 }}
                          aria-label={`Part of ${charge.name || 'the charge'} on ${goods(line)}`}
                          value={charge.typed[line.lineId] ?? ''}
                          disabled={locked || charge.billed}
                          onChange={(event) => change(index, { typed: { ...charge.typed, [line.lineId]: event.target.value } })}
                        />
                      ) : null}{' '}
                      {shares[index] === null || shares[index] === undefined ? '' : money(shares[index].toFixed(2))}{' '}
                      <input
                        type="checkbox"
                        aria-label={`${charge.name || 'The charge'} falls on ${goods(line)}`}
                        checked={!out}
                        disabled={locked || charge.billed}
                        onChange={leave}
                      />
                    </label>
                  </td>
                );
              })}
              <td className="number strong">{price(landed.toFixed(6))}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th colSpan={2} scope="row">
              In all
            </th>
            <td className="number quiet" colSpan={2}>
              {money(worked.goods.toFixed(2))}
            </td>
            {worked.estimates.map((estimate, index) => (
              <td key={index} className="number">
                {money(estimate.toFixed(2))}
              </td>
            ))}
            <td className="number strong">{money(worked.total.toFixed(2))}</td>
          </tr>
        </tfoot>
      </table>
    </section>
  );
}
