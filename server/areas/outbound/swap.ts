import type * as contract from '@larder/contract/gaps';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, quantityText } from '@larder/core/decimal';
import { pricesAt } from '@larder/core/outbound/pricing';
import { currencyPlaces } from '@larder/core/books/currency';
import { priceOf } from '@larder/core/inbound/terms';
import { Refusal, refuseField } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { prepared } from '../../db/prepared';
import { item, salesLine, salesOrder } from '../../db/schema/index';
import { plain } from '../../db/text';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { customerTerms } from '../prices/queries';
import { amendSale } from './amend';

const readSwapped = prepared(['id'], (db, { id }) =>
  db
    .select({
      orderId: salesOrder.id,
      version: salesOrder.version,
      customerId: salesOrder.customerId,
      orderShipBy: salesOrder.shipBy,
      reference: salesOrder.reference,
      shipTo: salesOrder.shipTo,
      whole: salesOrder.whole,
      note: salesOrder.note,
      lineId: salesLine.id,
      itemId: salesLine.itemId,
      askedItemId: salesLine.askedItemId,
      sku: item.sku,
      siteId: salesLine.siteId,
      base: plain(salesLine.baseQuantity),
      numerator: salesLine.factorNumerator,
      denominator: salesLine.factorDenominator,
      price: plain(salesLine.price),
      currency: salesOrder.currency,
      rate: plain(salesOrder.rate),
      discount: plain(salesLine.discount),
      shipBy: salesLine.shipBy,
      promisedOn: salesLine.promisedOn,
      /** Neither picked nor to come straight from a supplier. */
      open: sql<string>`(${salesLine.baseQuantity} - ${salesLine.direct} - (${salesLine.picked} - ${salesLine.sent}))::text`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .where(sql`${salesLine.id} = ${id}`),
);

/** Sells another item in the place of so many of a line of a confirmed order, at what the customer pays for it; the line keeps the rest. */
export async function swapLine(act: Act, id: number, { itemId, quantity }: BodyOf<typeof contract.swapLine>): Promise<Posting> {
  const [seen] = await readSwapped(act.tx, { id });
  if (!seen) throw new Refusal(404, 'not-found', 'There is no such line.');
  await lock.salesOrders(act, [seen.orderId]);
  const [line] = await readSwapped(act.tx, { id });
  if (!line) throw new Refusal(404, 'not-found', 'There is no such line.');
  const { orderId, version, customerId, orderShipBy, reference, shipTo, whole, note, lineId, siteId, price, discount, shipBy, promisedOn } = line;
  if (itemId === line.itemId) throw refuseField(422, 'same-item', 'itemId', `It is ${line.sku} already.`);
  if (decimal(quantity).gt(line.open))
    throw refuseField(409, 'not-open', 'quantity', `Only ${quantityText(line.open)} of ${line.sku} are neither picked nor on order straight from a supplier.`);
  const { rows } = await customerTerms(act, customerId, { itemIds: String(itemId) });
  const asks = rows[0] && priceOf(pricesAt(rows[0], line.rate, currencyPlaces(line.currency) ?? 2), decimal(quantity));
  const left = decimal(line.base).minus(quantity).times(line.denominator).div(line.numerator);
  return amendSale(act, orderId, {
    version,
    // Nobody is asked in between: whoever may not go beyond a credit limit is refused.
    overLimit: true,
    shipBy: orderShipBy,
    reference,
    shipTo,
    whole,
    note,
    lines: [{ lineId, quantity: left.toFixed(), price, discount, shipBy, siteId, promisedOn }],
    added: [
      {
        itemId,
        unitId: null,
        quantity,
        price: (asks ?? decimal(0)).toFixed(),
        pricePer: '1',
        discount,
        shipBy,
        siteId,
        promisedOn: null,
        direct: '0',
        // Of several swaps one after the other the first tells what was asked for; back to that, nothing was swapped.
        askedItemId: (line.askedItemId ?? line.itemId) === itemId ? null : (line.askedItemId ?? line.itemId),
      },
    ],
  });
}
