import { decimal, zero } from '@larder/core/decimal';
import type { FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { standsOn, type StandsOn } from '../../ledger/accounts';
import { Entry, refuseBookDay, writeEntry } from '../../ledger/entry';
import { among } from '../../db/given';
import { account } from '../../db/schema/index';

interface OwnAccounts {
  inventoryAccountId: number | null;
  costAccountId: number | null;
  salesAccountId: number | null;
}

/** What is wrong with accounts that items or categories name: stock stands on an inventory account, its cost on one of expenses, its sales on one of income. */
export async function accountFaults(tx: Act['tx'], { inventoryAccountId, costAccountId, salesAccountId }: OwnAccounts): Promise<FieldError[]> {
  const rows = await tx.db
    .select({ id: account.id, type: account.type })
    .from(account)
    .where(among(account.id, [inventoryAccountId, costAccountId, salesAccountId]));
  const typeOf = (id: number) => rows.find((row) => row.id === id)?.type;
  const faults: FieldError[] = [];
  if (inventoryAccountId !== null && typeOf(inventoryAccountId) !== 'inventory')
    faults.push({ field: 'inventoryAccountId', sentence: 'Choose an account that is for inventory.' });
  if (costAccountId !== null && typeOf(costAccountId) !== 'expense') faults.push({ field: 'costAccountId', sentence: 'Choose an account of expenses.' });
  if (salesAccountId !== null && typeOf(salesAccountId) !== 'income') faults.push({ field: 'salesAccountId', sentence: 'Choose an account of income.' });
  return faults;
}

/** Moves what items are worth to the inventory account they stand on now, from the one they stood on before; posts nothing when none changed. */
export async function moveInventory(act: Act, before: readonly StandsOn[]): Promise<void> {
  if (before.length === 0) return;
  const now = await standsOn(
    act,
    before.map(({ itemId }) => itemId),
  );
  const entry = await Entry.open(act);
  for (const { itemId, accountId, value } of before) {
    const to = now.find((row) => row.itemId === itemId)?.accountId ?? accountId;
    if (to === accountId || decimal(value).eq(zero)) continue;
    entry.add(accountId, decimal(value).neg(), itemId);
    entry.add(to, decimal(value), itemId);
  }
  if (entry.list().length === 0) return;
  await refuseBookDay(act, act.today, 'inventoryAccountId');
  await writeEntry(act, { effectiveOn: act.today, text: 'stock now stands on another account' }, entry);
}
