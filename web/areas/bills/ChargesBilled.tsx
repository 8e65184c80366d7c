import { useState } from 'react';
import { count, money } from '../../kit/format';
import { changed, LineNumber, LineSaid, LineTax, type LineWords } from './billCells';
import type { ChargeDraft } from './billDraft';

interface ChargesBilledProps {
  partyId: number;
  charges: readonly ChargeDraft[];
  setCharges: (charges: ChargeDraft[]) => void;
  saidOf: (index: number) => LineWords;
}

/** Charges that are expected, from whom the bill is of or from anybody, and what is billed of each. */
export function ChargesBilled({ partyId, charges, setCharges, saidOf }: ChargesBilledProps) {
  const [anybodys, setAnybodys] = useState(false);
  /** Expected from somebody else, and nothing is typed for it. */
  const isOthers = ({ charge, amount }: ChargeDraft) => charge.partyId !== null && charge.partyId !== partyId && amount.trim() === '';
  const fromOthers = charges.filter(isOthers).length;
  if (charges.length === 0) return null;
  return (
    <section className="card" aria-label="Charges">
      <table aria-label="Charges billed" hidden={!anybodys && fromOthers === charges.length}>
        <thead>
          <tr>
            <th>Charge expected</th>
            <th>From</th>
            <th className="number">Estimate</th>
            <th className="number">Still open</th>
            <th className="number">Billed now</th>
            <th>Tax</th>
            <th>Last bill</th>
          </tr>
        </thead>
        <tbody>
          {charges.map((one, index) => (
            <tr key={one.charge.id} hidden={!anybodys && isOthers(one)}>
              <td>
                {one.charge.name} <span className="code quiet">{one.charge.sheet}</span>
                <small className="quiet name">{one.charge.deliveries}</small>
                <LineSaid {...saidOf(index)} />
              </td>
              <td className="quiet">{one.charge.party ?? 'not known yet'}</td>
              <td className="number quiet">{money(one.charge.estimate)}</td>
              <td className="number">{money(one.charge.open)}</td>
              <td className="number">
                <LineNumber
                  label={`Billed for ${one.charge.name}, ${one.charge.sheet}`}
                  value={one.amount}
                  onChange={(amount) => setCharges(changed(charges, index, { amount }))}
                  width={104}
                />
              </td>
              <td>
                <LineTax
                  label={`Tax on ${one.charge.name}, ${one.charge.sheet}`}
                  value={one.taxCodeId}
                  onChange={(taxCodeId) => setCharges(changed(charges, index, { taxCodeId }))}
                />
              </td>
              <td>
                <input
                  type="checkbox"
                  aria-label={`No more bills for ${one.charge.name}, ${one.charge.sheet}`}
                  checked={one.final}
                  onChange={(event) => setCharges(changed(charges, index, { final: event.target.checked }))}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {fromOthers > 0 && !anybodys ? (
        <p className="pad">
          <button type="button" className="button small" onClick={() => setAnybodys(true)}>
            Show {count(fromOthers, 'charge')} expected from others
          </button>
        </p>
      ) : null}
    </section>
  );
}
