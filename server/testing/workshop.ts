import * as books from '@larder/contract/books';
import type { Asked } from '@larder/contract/endpoint';
import * as making from '@larder/contract/making';
import * as stock from '@larder/contract/stock';
import * as work from '@larder/contract/workOrders';
import * as records from '@larder/contract/workRecords';
import type { Business } from './business';
import { stocked } from './trade';

export type Order = Awaited<ReturnType<Workshop['look']>>;
export type WorkPart = Partial<NonNullable<Asked<typeof work.createWorkOrder>['body']>>;
type RecordPart = Partial<NonNullable<Asked<typeof records.recordWork>['body']>>;

/** What is addressed by its id. */
export const of = (id: number) => ({ params: { id } });
export const lineOf = (order: Order, itemId: number) => order.lines.find((line) => line.itemId === itemId) as Order['lines'][number];

/** A business that makes hives of boards and screws, each step of it as it is asked of the server. */
export class Workshop {
  private constructor(
    readonly business: Business,
    /** The account that labour is charged from. */
    readonly labour: number,
  ) {}
  /** So many hives were begun with so far: what is made anew carries it in its SKU. */
  count = 0;
  hive = 0;
  board = 0;
  screw = 0;

  static async of(business: Business): Promise<Workshop> {
    const { id } = await business.owner.get(books.createAccount, { body: { code: '5400', name: 'Labour put into goods', type: 'expense' } });
    return new Workshop(business, id);
  }

  /** Another hive, of four boards at 2.00 and eight screws at 0.05, with `waste` per cent of boards and `hours` of a joiner at 20.00. */
  async begin({ waste = '0', hours = '0.5' }: { waste?: string; hours?: string } = {}): Promise<void> {
    this.count += 1;
    [this.hive, this.board, this.screw] = (await Promise.all([
      this.business.item(`HIVE-${this.count}`, { purchasePrice: null }),
      this.business.item(`BOARD-${this.count}`, { purchasePrice: '2.00' }),
      this.business.item(`SCREW-${this.count}`, { purchasePrice: '0.05' }),
    ])) as [number, number, number];
    await this.business.owner.get(making.createBom, {
      body: {
        itemId: this.hive,
        startsOn: '2026-01-01',
        parts: [
          { itemId: this.board, quantity: '4', waste },
          { itemId: this.screw, quantity: '8' },
        ],
        costs: hours === '0' ? [] : [{ name: 'Joiner', per: 'hour', quantity: hours, rate: '20.00', accountId: this.labour }],
      },
    });
  }

  /** Puts 40 boards and 80 screws into the first bin. */
  async stock(): Promise<void> {
    await stocked(this.business, this.board, '40', '2.00');
    await stocked(this.business, this.screw, '80', '0.05');
  }

  create(part: WorkPart = {}) {
    const form = { itemId: this.hive, siteId: this.business.siteId, quantity: '5', startsOn: '2026-03-11', dueOn: '2026-03-13', release: true, ...part };
    return this.business.owner.ask(work.createWorkOrder, { body: form });
  }
  look(id: number) {
    return this.business.owner.get(work.getWorkOrder, of(id));
  }
  async planned(part: WorkPart = {}) {
    const { data, problem } = await this.create(part);
    if (data.id === null) throw new Error(problem.title);
    return this.look(data.id);
  }
  /** Takes all that is on the pick list, or of each item so many. */
  async take(order: Order, some?: Record<number, string>) {
    const { rows } = await this.business.owner.get(work.workPickList, of(order.id));
    const lines = rows
      .map(({ lineId, itemId, binId, lotId, take: all }) => ({ lineId, binId, lotId, quantity: some?.[itemId] ?? (some ? '0' : all) }))
      .filter(({ quantity }) => quantity !== '0');
    return this.business.owner.ask(work.pickWorkOrder, { ...of(order.id), body: { lines } });
  }
  /** Records so many made, with what the bill says for them, unless it is said. */
  async record(id: number, many: string, part: RecordPart = {}, used: Record<number, string> = {}) {
    const order = await this.look(id);
    const share = Number(many) / Number(order.quantity);
    return this.business.owner.ask(records.recordWork, {
      ...of(id),
      body: {
        version: order.version,
        used: order.lines.map((line) => ({ lineId: line.id, quantity: used[line.itemId] ?? String(Number(line.needed) * share) })),
        made: [{ lineId: order.products[0]?.id as number, quantity: many }],
        charges: [{ name: 'Joiner', per: 'hour', quantity: String(0.5 * Number(many)), rate: '20.00', accountId: this.labour }],
        ...part,
      },
    });
  }
  undo(movementId: number | null) {
    return this.business.owner.ask(stock.undo, { body: { movementId: movementId as number, note: 'turned round' } });
  }

  /** What there is of an item at the first site. */
  async figures(itemId: number) {
    const { sites } = await this.business.owner.get(stock.itemStock, of(itemId));
    const { onHand = '0', reserved = '0', free = '0', short = '0', onOrder = '0' } = sites.find(({ siteId }) => siteId === this.business.siteId) ?? {};
    return { onHand, reserved, free, short, onOrder };
  }
  async value(itemId: number): Promise<string | undefined> {
    return (await this.business.pool.query<{ value: string }>('SELECT value FROM pool WHERE item_id = $1', [itemId])).rows[0]?.value;
  }
  async balance(code: string): Promise<number> {
    const { rows } = await this.business.owner.get(books.listAccounts);
    return Number(rows.find((row) => row.code === code)?.balance ?? 0);
  }
}
