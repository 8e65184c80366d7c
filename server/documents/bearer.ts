import type { CorrectionForm } from '@larder/contract/stock';
import type { Bearer } from '@larder/core/ledger/types';
import { refuseField } from '@larder/core/refusal';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../act';
import { account, department, taxCode } from '../db/schema/index';
import { ratesOn } from './taxRates';

/** Refuses an account that differences of stock cannot stand on. */
export async function refuseReasonAccount({ tx: { db } }: Act, accountId: number): Promise<void> {
  const [row] = await db.select({ type: account.type }).from(account).where(eq(account.id, accountId));
  if (row?.type !== 'expense') throw refuseField(422, 'not-valid', 'accountId', 'Choose an account of expenses.');
}

/** Only what the business uses itself is taxed, and by a tax that is in use. */
export async function refuseReasonTax({ tx: { db } }: Act, place: string, taxCodeId: number | null): Promise<void> {
  if (taxCodeId === null) return;
  if (place !== 'own-use') throw refuseField(422, 'not-valid', 'taxCodeId', 'Only what the business uses itself is taxed.');
  if ((await db.$count(taxCode, and(eq(taxCode.id, taxCodeId), isNull(taxCode.retiredAt)))) === 0)
    throw refuseField(422, 'not-valid', 'taxCodeId', 'Choose a tax that is in use.');
}

/** What a sheet says bears the cost, else its reason: the account, the department, and of own use the tax at the rate of that day. */
export async function bearerOf(
  act: Act,
  form: Pick<CorrectionForm, 'accountId' | 'departmentId' | 'taxCodeId'>,
  reason: { place: string; taxCodeId: number | null },
  day: string,
): Promise<Bearer> {
  const { accountId = null, departmentId } = form;
  if (accountId !== null) await refuseReasonAccount(act, accountId);
  if (departmentId !== null && (await act.tx.db.$count(department, and(eq(department.id, departmentId), isNull(department.retiredAt)))) === 0)
    throw refuseField(422, 'not-valid', 'departmentId', 'Choose a department from the list.');
  if (form.taxCodeId) await refuseReasonTax(act, reason.place, form.taxCodeId);
  const taxCodeId = form.taxCodeId === undefined ? reason.taxCodeId : form.taxCodeId;
  return {
    accountId,
    departmentId,
    tax: taxCodeId === null || reason.place !== 'own-use' ? null : { taxCodeId, rate: (await ratesOn(act, day))(taxCodeId), posted: null },
  };
}
