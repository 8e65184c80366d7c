import { firstStepKeys, type firstSteps as contract } from '@larder/contract/planning';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { Right } from '@larder/contract/rights';
import { grantedSomewhere } from '@larder/contract/rights';
import type { Act } from '../../act';

type Key = (typeof firstStepKeys)[number];
const needs: Record<Key, Right> = {
  places: 'setup.edit',
  items: 'items.edit',
  opening: 'stock.correct',
  'order-in': 'inbound.receive',
  'order-out': 'outbound.ship',
};

/** What has been done, by anybody or by one person ($1). */
const doneSql = (by: string) => `SELECT
  EXISTS (SELECT 1 FROM place WHERE kind = 'bin' AND NOT unplaced) AS places,
  ${by === '' ? 'EXISTS (SELECT 1 FROM item)' : `EXISTS (SELECT 1 FROM change WHERE kind IN ('item', 'family') ${by}) OR EXISTS (SELECT 1 FROM import_job WHERE kind IN ('items', 'families') AND state = 'done' ${by})`} AS items,
  EXISTS (SELECT 1 FROM movement WHERE kind IN ('opening', 'correction') ${by}) AS opening,
  EXISTS (SELECT 1 FROM movement WHERE kind = 'receipt' ${by}) AS "order-in",
  EXISTS (SELECT 1 FROM movement WHERE kind = 'dispatch' ${by}) AS "order-out"`;

/** First steps: those of the business until all are done, then those of a person who has not done them; only what the person may do. */
export async function firstSteps({ tx, by }: Act): Promise<ResponseOf<typeof contract>> {
  const [business] = await tx.rows<Record<Key, boolean>>(doneSql(''));
  const begun = business !== undefined && Object.values(business).every(Boolean);
  const [own] = begun ? await tx.rows<Record<Key, boolean>>(doneSql('AND person_id = $1'), [by.id]) : [business];
  const [person] = await tx.rows<{ away: boolean }>('SELECT first_steps_away AS away FROM person WHERE id = $1', [by.id]);
  return {
    away: person?.away ?? false,
    of: begun ? 'person' : 'business',
    steps: firstStepKeys.filter((key) => grantedSomewhere(by.grants, needs[key])).map((key) => ({ key, done: own?.[key] ?? false })),
  };
}

export async function putFirstStepsAway(act: Act, away: boolean): Promise<ResponseOf<typeof contract>> {
  await act.tx.rows('UPDATE person SET first_steps_away = $2 WHERE id = $1', [act.by.id, away]);
  return firstSteps(act);
}
