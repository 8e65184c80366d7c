import { SalesForm, type SalesOrder } from '@larder/contract/outbound';
import type { z } from 'zod';
import type { Act } from '../act';
import { createSale } from '../areas/outbound/quotes';
import { confirmSale } from '../areas/outbound/service';

/** Writes a quote, and confirms it where it was agreed. */
export async function sell(act: Act, form: z.input<typeof SalesForm>, isAgreed: boolean): Promise<SalesOrder> {
  const order = await createSale(act, SalesForm.parse(form));
  if (isAgreed) await confirmSale(act, order.id, { version: order.version, free: false, expired: false, overLimit: false });
  return order;
}
