import { quantityText } from '@larder/core/decimal';
import { refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';

interface InUse {
  id: number;
  sku: string;
  stock: string;
  purchases: string[];
  sales: string[];
}

/** Items not retired yet that have stock, are on order or are wanted, each with a sentence that says so; in the order of their SKUs. */
export async function stillInUse({ tx }: Pick<Act, 'tx'>, itemIds: readonly number[]): Promise<{ id: number; sentence: string }[]> {
  if (itemIds.length === 0) return [];
  const rows = await tx.rows<InUse>(
    `SELECT x.* FROM (SELECT i.id, i.sku, p.quantity AS stock,
        ARRAY(SELECT DISTINCT o.number FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id WHERE l.item_id = i.id AND l.outstanding > 0 ORDER BY 1) AS purchases,
        ARRAY(SELECT DISTINCT o.number FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.item_id = i.id AND l.active AND l.dispatched < l.base_quantity ORDER BY 1) AS sales
      FROM item i JOIN pool p ON p.item_id = i.id WHERE i.id = ANY($1) AND i.retired_at IS NULL) x
     WHERE x.stock > 0 OR cardinality(x.purchases) + cardinality(x.sales) > 0 ORDER BY x.sku`,
    [itemIds],
  );
  return rows.map((row) => ({ id: row.id, sentence: inWords(row) }));
}

/** An item with stock or open orders is retired only when the person says so. The items are locked. */
export async function refuseRetiring(act: Act, itemIds: readonly number[], agreed: boolean): Promise<void> {
  if (agreed) return;
  const [first, ...others] = await stillInUse(act, itemIds);
  if (!first) return;
  const more = others.length > 0 ? ` The same is so for ${others.length} more.` : '';
  throw refuseField(409, 'item-still-used', 'retired', `${first.sentence}${more} Retire all the same?`, ['retired-in-use']);
}

function inWords({ sku, stock, purchases, sales }: InUse): string {
  const parts = [
    Number(stock) > 0 ? `has ${quantityText(stock)} in stock` : '',
    purchases.length > 0 ? `is on order on ${purchases.join(', ')}` : '',
    sales.length > 0 ? `is wanted by ${sales.join(', ')}` : '',
  ].filter((part) => part !== '');
  return `${sku} ${parts.join(' and ')}.`;
}
