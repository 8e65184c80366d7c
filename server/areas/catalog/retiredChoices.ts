import { refuseField } from '@larder/core/refusal';
import { and, eq, isNotNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { category, taxCode, unit } from '../../db/schema/index';

interface Chosen {
  categoryId: number | null;
  unitId: number;
  taxCodeId: number | null;
}

/** Refuses a category, unit or tax that was retired, unless it was there before. */
export async function refuseRetiredChoices({ tx: { db } }: Act, was: Chosen | null, form: Chosen): Promise<void> {
  const chosen = [
    ['categoryId', category],
    ['unitId', unit],
    ['taxCodeId', taxCode],
  ] as const;
  for (const [field, table] of chosen) {
    const id = form[field];
    if (id === null || id === was?.[field]) continue;
    const [retired] = await db
      .select({ name: table.name })
      .from(table)
      .where(and(eq(table.id, id), isNotNull(table.retiredAt)));
    if (retired) throw refuseField(409, 'retired', field, `${retired.name} is retired; choose another.`);
  }
}
