import { addDays, daysBetween, weekday, type Day } from '@larder/core/day';
import type { Act } from '../act';
import { insertRows } from '../db/given';
import { demandBefore, demandEvent } from '../db/schema/index';
import { dice } from './dice';
import type { Larkmoor, Stocked } from './catalog';
import { seasons } from './larkmoor';
import { sell } from './sell';

/** An order that is to be sent. */
export interface OpenOrder {
  id: number;
  shipBy: Day;
  siteId: number;
}

/** What the beekeepers' co-operative has each week, how that goes over the years, and how many times that all wanted together in the years before (0: nothing is known). */
const standing: readonly { sku: string; agreed: string; many: (week: number, month: number) => number; before: number }[] = [
  { sku: 'JAR-340-GLD', agreed: '0.58', many: () => 36, before: 0 },
  { sku: 'JAR-227-GLD', agreed: '0.52', many: (week) => 6 + week * 0.35, before: 0 },
  { sku: 'FD-25', agreed: '6.20', many: (_, month) => 4 * (seasons.autumn[month] as number) ** 2, before: 3.5 },
];
/** So many weeks of what was wanted before the business worked here were brought in. */
const weeksBefore = 104;

/** A standing order that is written each Monday, two years of it from the time before, and the fair at which all is otherwise. */
export class Standing {
  /** Of its own, so that all else goes as it would without. */
  private readonly dice = dice(20270118);
  private readonly items: (Stocked & (typeof standing)[number])[];

  constructor(
    business: Larkmoor,
    private readonly siteId: number,
    private readonly customerId: number,
    private readonly start: Day,
  ) {
    this.items = standing.flatMap((one) => business.items.filter(({ sku }) => sku === one.sku).map((item) => ({ ...item, ...one })));
  }

  async setUp(act: Act): Promise<void> {
    const weeks = Array.from({ length: weeksBefore }, (_, nth) => addDays(this.start, -7 * (weeksBefore - nth)));
    const rows = this.items
      .filter(({ before }) => before > 0)
      .flatMap((item) =>
        weeks.map((day) => ({ itemId: item.id, siteId: this.siteId, day, quantity: String(Math.round(item.before * this.wanted(item, 0, day))) })),
      );
    await insertRows(act.tx, demandBefore, rows);
    const fair = addDays(this.start, 448);
    await act.tx.db.insert(demandEvent).values({ name: 'Larkmoor honey show', startsOn: fair, endsOn: addDays(fair, 1), siteId: this.siteId });
  }

  /** Writes it on a Monday; what is to be sent, or nothing. */
  async day(act: Act): Promise<OpenOrder | null> {
    if (weekday(act.today) !== 1) return null;
    const week = Math.floor(daysBetween(this.start, act.today) / 7);
    const lines = this.items.map((item) => ({
      itemId: item.id,
      quantity: String(Math.max(1, this.wanted(item, week, act.today))),
      price: item.agreed,
    }));
    const shipBy = addDays(act.today, 2);
    const { id } = await sell(act, { customerId: this.customerId, siteId: this.siteId, shipBy, reference: 'Standing order', lines }, true);
    return { id, shipBy, siteId: this.siteId };
  }

  private wanted({ many }: (typeof standing)[number], week: number, day: Day): number {
    return Math.round(many(week, Number(day.slice(5, 7)) - 1) * (0.85 + this.dice.roll() * 0.3));
  }
}
