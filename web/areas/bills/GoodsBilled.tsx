import { useState } from 'react';
import { amount, count, price, quantity } from '../../kit/format';
import { changed, LineNumber, LineSaid, type LineWords } from './billCells';
import { sentBack, type GoodsDraft } from './billDraft';

interface GoodsBilledProps {
  kind: 'bill' | 'credit';
  goods: readonly GoodsDraft[];
  setGoods: (goods: GoodsDraft[]) => void;
  saidOf: (index: number) => LineWords;
  /** As the server worked it out, or nothing yet. */
  amountOf: (index: number) => string;
}

/** Nothing of it has come that is not billed, and nothing is typed for it. */
const isToCome = ({ line, quantity: typed }: GoodsDraft): boolean => typed.trim() === '' && Number(line.received) <= Number(line.billed);

/** Goods that were ordered, and what is billed or taken off of each. */
export function GoodsBilled({ kind, goods, setGoods, saidOf, amountOf }: GoodsBilledProps) {
  const [all, setAll] = useState(false);
  const byQuantity = (one: GoodsDraft) => kind === 'bill' || sentBack(one.line) !== '';
  const toCome = goods.filter(isToCome).length;
  if (goods.length === 0) return null;
  return (
    <section className="card scroll" aria-label="Goods">
      <table aria-label="Goods billed">
        <thead>
          <tr>
            <th>Order</th>
            <th>Goods</th>
            <th className="number">Ordered</th>
            <th className="number">Received</th>
            <th className="number">Billed before</th>
            <th className="number">{kind === 'bill' ? 'Billed now' : 'Sent back, or amount off'}</th>
            <th className="number">Price</th>
            <th className="number">Amount</th>
          </tr>
        </thead>
        <tbody>
          {goods.map((one, index) => (
            <tr key={one.line.purchaseLineId} hidden={!all && isToCome(one)}>
              <td className="code quiet">{one.line.orderNumber}</td>
              <td>
                <span className="code">{one.line.sku}</span>
                <span className="name">{one.line.name}</span>
                <LineSaid {...saidOf(index)} />
              </td>
              <td className="number quiet">{quantity(one.line.ordered)}</td>
              <td className="number">
                {quantity(one.line.received, true)}
                {one.line.returned === '0' ? null : <small className="quiet name">{quantity(one.line.returned)} went back</small>}
              </td>
              <td className="number quiet">{quantity(one.line.billed, true)}</td>
              <td className="number">
                <LineNumber
                  label={`${kind === 'bill' ? 'Billed now' : 'Taken off'}, ${one.line.orderNumber} ${one.line.sku}`}
                  value={one.quantity}
                  onChange={(value) => setGoods(changed(goods, index, { quantity: value }))}
                />
              </td>
              {byQuantity(one) ? (
                <td className="number">
                  <LineNumber
                    label={`Price, ${one.line.orderNumber} ${one.line.sku}`}
                    value={one.price}
                    onChange={(value) => setGoods(changed(goods, index, { price: value }))}
                  />
                  <small className="quiet name">
                    {one.line.pricePer === '1' ? '' : `for ${quantity(one.line.pricePer)}, `}
                    {one.line.factor === '1' ? '' : `a ${one.line.unit}, `}ordered at {price(one.line.price)} {one.line.currency}
                  </small>
                </td>
              ) : (
                <td />
              )}
              <td className="number">{byQuantity(one) ? amount(amountOf(index)) : one.quantity}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {toCome > 0 && !all ? (
        <p className="pad">
          <button type="button" className="button small" onClick={() => setAll(true)}>
            Show {count(toCome, 'line')} that {toCome === 1 ? 'has' : 'have'} not come yet
          </button>
        </p>
      ) : null}
    </section>
  );
}
