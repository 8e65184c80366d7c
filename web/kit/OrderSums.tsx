import { Sums } from './layout';
import { amount as inCurrency } from './format';

/** What an order comes to, sum by sum; the last one is all of them together. */
export function OrderSums({ sums, currency }: { sums: readonly (readonly [string, string])[]; currency: string }) {
  return (
    <Sums>
      {sums.map(([name, amount], index) => (
        <div key={`${name} ${index}`} className={index === sums.length - 1 ? 'strong' : ''}>
          <dt>{name}</dt>
          <dd>
            {inCurrency(amount)}
            {index === sums.length - 1 ? ` ${currency}` : ''}
          </dd>
        </div>
      ))}
    </Sums>
  );
}
