import { quantityText } from '@larder/core/decimal';
import { refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';

interface InUse {
  sku: string;
  stock: string;
  purchases: string[];
  sales: string[];
}

/** An item with stock or open orders is retired only when the person says so. The items are locked. */
export async function refuseRetiring({ tx }: Act, itemIds: readonly number[], agreed: boolean): Promise<void> {
  if (agreed || itemIds.length === 0) return;
  const rows = await tx.rows<InUse>(
    `SELECT x.* FROM (SELECT i.sku, p.quantity AS stock,
        ARRAY(SELECT DISTINCT o.number FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id WHERE l.item_id = i.id AND l.outstanding > 0 ORDER BY 1) AS purchases,
        ARRAY(SELECT DISTINCT o.number FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.item_id = i.id AND l.active AND l.dispatched < l.base_quantity ORDER BY 1) AS sales
      FROM item i JOIN pool p ON p.item_id = i.id WHERE i.id = ANY($1) AND i.retired_at IS NULL) x
     WHERE x.stock > 0 OR cardinality(x.purchases) + cardinality(x.sales) > 0 ORDER BY x.sku`,
    [itemIds],
  );
  const [first] = rows;
  if (!first) return;
  const more = rows.length > 1 ? ` The same is so for ${rows.length - 1} more.` : '';
  throw refuseField(409, 'item-still-used', 'retired', `${inWords(first)}${more} Retire all the same?`, ['retired-in-use']);
}

function inWords({ sku, stock, purchases, sales }: InUse): string {
  const parts = [
    Number(stock) > 0 ? `has ${quantityText(stock)} in stock` : '',
    purchases.length > 0 ? `is on order on ${purchases.join(', ')}` : '',
    sales.length > 0 ? `is wanted by ${sales.join(', ')}` : '',
  ].filter((part) => part !== '');
  return `${sku} ${parts.join(' and ')}.`;
}
