import type { MovementRef } from '@larder/contract/inbound';
import { money, moment, quantity } from '../kit/format';
import { UndoButton } from './UndoButton';

/** The postings of a document, newest first, each with its undo. */
export function Movements({ movements }: { movements: readonly MovementRef[] }) {
  if (movements.length === 0) return null;
  return (
    <section className="card" aria-label="Postings">
      <h2>Postings</h2>
      <table>
        <tbody>
          {movements.map((one) => (
            <tr key={one.id}>
              <td>
                {one.undoes ? 'undo' : one.kind.replace('-', ' ')} of {quantity(one.quantity)}
                <small className="quiet" style={{ display: 'block' }}>
                  {moment(one.postedAt)}, {one.person}
                  {Number(one.value) === 0 ? '' : `, ${money(one.value)}`}
                </small>
              </td>
              <td className="number">
                {one.undone ? (
                  <span className="quiet">undone</span>
                ) : one.undoes ? null : (
                  <UndoButton movementId={one.id} what={`the ${one.kind.replace('-', ' ')} of ${quantity(one.quantity)}`} />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
