import type * as contract from '@larder/contract/making';
import type { ResponseOf } from '@larder/contract/endpoint';
import { decimal, type Decimal } from '@larder/core/decimal';
import { neededFor, type Bill } from '@larder/core/making/bill';
import { ownShare, rolledCost, rollUp } from '@larder/core/making/rollUp';
import type { Act } from '../../act';
import { lineFacts, type ItemFacts } from '../../documents/lines';
import { baseOf, refuseCircle } from './boms';
import { billOf, costNowOf, inUseFor, itemsIn, itemsOf } from './inUse';

/** What one costs that is made by a bill as it is typed: part by part over all levels. Parts that are not there, or not in such a unit, are left out. */
export async function bomCost(act: Act, form: contract.BomForm): Promise<ResponseOf<typeof contract.bomCost>> {
  await refuseCircle(act, { itemId: form.itemId as number, parts: form.parts }, null);
  const bill = await typed(act, form);
  const { bills } = await inUseFor(act, [], new Map([[bill.itemId, bill]]));
  const items = await itemsOf(act, itemsIn([bill.itemId], bills));
  const costNow = costNowOf(items);
  const of = rollUp(bills, costNow);
  const rows: contract.CostRow[] = [];
  const told = new Set<number>();
  const walk = (above: Bill, many: Decimal, level: number): void => {
    for (const part of above.parts) {
      const row = items.get(part.itemId);
      if (!row) continue;
      const quantity = neededFor(many, above, part);
      const own = costNow(part.itemId);
      const rolled = of(part.itemId);
      const made = rolled && rolledCost(rolled);
      const one = made ?? own;
      rows.push({
        level,
        itemId: part.itemId,
        sku: row.sku,
        name: row.name,
        unit: row.unit,
        quantity: quantity.toDecimalPlaces(4).toFixed(),
        own: own?.toFixed(4) ?? null,
        made: made?.toFixed(4) ?? null,
        amount: one?.times(quantity).toFixed(4) ?? null,
      });
      const below = bills.get(part.itemId);
      // What goes into it is told once, however often it is a part.
      if (below && !told.has(part.itemId)) {
        told.add(part.itemId);
        walk(below, quantity, level + 1);
      }
    }
  };
  walk(bill, decimal(1), 1);
  const rolled = of(bill.itemId);
  const share = ownShare(bill, costNow);
  return {
    parts: rolled?.parts.toFixed(4) ?? null,
    work: rolled?.work.toFixed(4) ?? null,
    made: rolled ? rolledCost(rolled).toFixed(4) : null,
    own: costNow(bill.itemId)?.toFixed(4) ?? null,
    share: share.part.times(100).div(share.whole).toFixed(2),
    unknown: (rolled?.unknown ?? []).map((itemId) => items.get(itemId)?.sku ?? ''),
    rows,
  };
}

/** The bill that a form says. */
async function typed(act: Act, { itemId, makes, share, parts, costs, byProducts }: contract.BomForm): Promise<Bill> {
  const { items } = await lineFacts(act, [itemId as number, ...parts.map((part) => part.itemId)]);
  return billOf({
    itemId: itemId as number,
    makes,
    share,
    parts: parts.flatMap((part) => {
      const facts = items.get(part.itemId);
      return facts ? [{ itemId: part.itemId, quantity: baseOf(facts as ItemFacts, part.unitId, part.quantity), waste: part.waste }] : [];
    }),
    costs,
    byProducts,
  });
}
