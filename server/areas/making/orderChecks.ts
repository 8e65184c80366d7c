import { maybeBilled } from '@larder/core/books/purpose';
import { refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { account, salesLine, site } from '../../db/schema/index';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';

/** What a work order is for, where and when. */
export interface Head {
  itemId: number;
  siteId: number;
  quantity: string;
  startsOn: string;
  dueOn: string;
}

/** Refuses, by its field, what cannot be made so. */
export async function refuseHead(act: Act, head: Head, notBefore: string): Promise<void> {
  const [here] = await act.tx.db
    .select({ id: site.id })
    .from(site)
    .where(and(eq(site.id, head.siteId), isNull(site.retiredAt)));
  if (!here) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  const { items } = await lineFacts(act, [head.itemId]);
  const made = items.get(head.itemId);
  if (!made) throw refuseField(404, 'no-such-item', 'itemId', 'There is no such item.');
  if (made.retired) throw refuseField(422, 'retired', 'itemId', `${made.sku} is retired.`);
  if (!made.stocked) throw refuseField(422, 'not-kept', 'itemId', `${made.sku} is not kept in stock, so nothing of it can be made.`);
  const fault = quantityError(made, head.quantity, 'quantity');
  if (fault) refuseErrors([fault]);
  refuseDays(head, notBefore);
}

export function refuseDays({ startsOn, dueOn }: Pick<Head, 'startsOn' | 'dueOn'>, notBefore: string): void {
  if (startsOn < notBefore) throw refuseField(422, 'past-day', 'startsOn', 'This day has passed already.');
  if (dueOn < startsOn) throw refuseField(422, 'before-it-starts', 'dueOn', 'It cannot be due before it is started.');
}

/** Refuses, by their fields, parts that are none, or that are what is made. */
export async function refuseComponents(
  act: Act,
  itemId: number,
  components: readonly { itemId: number; quantity: string }[],
): Promise<ReadonlyMap<number, ItemFacts>> {
  const { items } = await lineFacts(
    act,
    components.map((one) => one.itemId),
  );
  const ids = components.map((one) => one.itemId);
  refuseErrors(
    components.flatMap((one, index): FieldError[] => {
      const at = (name: string, sentence: string) => [{ field: `components.${index}.${name}`, sentence }];
      const facts = items.get(one.itemId);
      if (!facts) return at('itemId', 'There is no such item.');
      if (facts.retired) return at('itemId', `${facts.sku} is retired.`);
      if (one.itemId === itemId) return at('itemId', `${facts.sku} cannot be made of itself.`);
      if (ids.indexOf(one.itemId) < index) return at('itemId', `Line ${ids.indexOf(one.itemId) + 1} has this part as well.`);
      const fault = quantityError(facts, one.quantity, `components.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  return items;
}

/** Refuses, by their fields, accounts that are none, or that are held against what they stand for. */
export async function refuseAccounts({ tx: { db } }: Act, costs: readonly { accountId: number | null }[], list = 'costs'): Promise<void> {
  if (costs.length === 0) return;
  const known = await db
    .select({ id: account.id, type: account.type, purpose: account.purpose })
    .from(account)
    .where(
      among(
        account.id,
        costs.map(({ accountId }) => accountId),
      ),
    );
  refuseErrors(
    costs.flatMap(({ accountId }, index) =>
      known.some((one) => one.id === accountId && maybeBilled(one))
        ? []
        : [{ field: `${list}.${index}.accountId`, sentence: 'Choose an account of costs: this one is kept by postings of its own.' }],
    ),
  );
}

export async function refuseSale({ tx: { db } }: Act, salesLineId: number, { itemId, siteId }: Head): Promise<void> {
  const [line] = await db
    .select({ id: salesLine.id })
    .from(salesLine)
    .where(and(eq(salesLine.id, salesLineId), eq(salesLine.itemId, itemId), eq(salesLine.siteId, siteId), salesLine.active));
  if (!line) throw refuseField(422, 'no-such-line', 'salesLineId', 'No open order line there wants this item.');
}
