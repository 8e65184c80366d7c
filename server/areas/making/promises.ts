import { decimal } from '@larder/core/decimal';
import { availableOn } from '@larder/core/stock/availability';
import { and, eq, ne, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { documentLine, item } from '../../db/schema/index';
import { comingOf } from '../../documents/coming';

/** The day by which what is short of each line will be there, from projected stock; nothing for lines of which no day is known. */
export async function comesOn(act: Act, siteId: number, lines: readonly { id: number; itemId: number; short: string }[]): Promise<Map<number, string>> {
  const short = lines.filter((line) => Number(line.short) > 0);
  if (short.length === 0) return new Map();
  const rows = await act.tx.db
    .select({
      itemId: item.id,
      coming: comingOf(item.id, siteId),
      demand: jsonRows(
        { lineId: documentLine.id, day: sql<string>`${documentLine.neededOn}`, quantity: documentLine.short, document: documentLine.number },
        (select) =>
          select
            .from(documentLine)
            .where(and(eq(documentLine.itemId, item.id), eq(documentLine.siteId, siteId), positive(documentLine.short), ne(documentLine.kind, 'loan'))),
      ),
    })
    .from(item)
    .where(
      among(
        item.id,
        short.map(({ itemId }) => itemId),
      ),
    );
  const days = short.flatMap((line): [number, string][] => {
    const { coming = [], demand = [] } = rows.find(({ itemId }) => itemId === line.itemId) ?? {};
    const incoming = coming.flatMap(({ expectedOn, quantity, orderNumber }) =>
      expectedOn === null ? [] : [{ day: expectedOn, quantity: decimal(quantity), document: orderNumber }],
    );
    const others = demand.filter(({ lineId }) => lineId !== line.id).map((one) => ({ ...one, quantity: decimal(one.quantity) }));
    const day = availableOn({ today: act.today, free: decimal(0), incoming, demand: others }, decimal(line.short));
    return day === null ? [] : [[line.id, day]];
  });
  return new Map(days);
}
