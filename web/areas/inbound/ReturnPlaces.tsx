import type { ResponseOf } from '@larder/contract/endpoint';
import type { returnable } from '@larder/contract/receiving';
import { quantity } from '../../kit/format';

type Returnable = ResponseOf<typeof returnable>['rows'][number];
/** Goods of an order line where they lie. */
export interface ReturnPlace {
  row: Returnable;
  place: Returnable['places'][number];
  key: string;
}

interface ReturnPlacesProps {
  places: readonly ReturnPlace[];
  typed: Record<string, string>;
  type: (key: string, quantity: string) => void;
  faultOf: (key: string) => string | undefined;
}

/** Where goods of an order lie, and how many of them go back. */
export function ReturnPlaces({ places, typed, type, faultOf }: ReturnPlacesProps) {
  return (
    <div className="card scroll">
      <table aria-label="What can go back" className="floor">
        <thead>
          <tr>
            <th>Goods</th>
            <th>Lies in</th>
            <th className="number">There</th>
            <th className="number">Goes back</th>
          </tr>
        </thead>
        <tbody>
          {places.map(({ row, place, key }) => {
            const fault = faultOf(key);
            return (
              <tr key={key}>
                <td>
                  <span className="code">{row.sku}</span>
                  <span className="name">{row.name}</span>
                </td>
                <td>
                  <span className="code">{place.bin}</span>
                  {place.sellable ? null : <small className="late"> quarantine</small>}
                  {place.lot ? <small className="quiet name">{place.lot}</small> : null}
                </td>
                <td className="number quiet">{quantity(place.quantity)}</td>
                <td className="number">
                  <input
                    className="plain number"
                    style={{ width: 84 }}
                    inputMode="decimal"
                    aria-label={`Goes back, ${row.sku} from ${place.bin}${place.lot ? ` ${place.lot}` : ''}`}
                    value={typed[key] ?? ''}
                    onChange={(event) => type(key, event.target.value)}
                  />
                  {fault ? <small className="late cellerror">{fault}</small> : null}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {places.length === 0 ? <p className="state">Nothing of this order lies in a bin here any more.</p> : null}
    </div>
  );
}
