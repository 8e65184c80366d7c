import { amountOf, cents, plus, quotient, spread, times, whole, type Part } from './fraction';

/**
 * The books reckoned a second time, independently: whole numbers of cents and of goods, and exact fractions of them.
 * It knows the rules as the trade says them and nothing of how the product is built, so that the two can be held against each other.
 */

export type Method = 'average' | 'fifo' | 'specific';
/** A quantity and its cents. */
interface Held {
  quantity: number;
  value: number;
}
export interface Item extends Held {
  id: number;
  method: Method;
}
export interface Line {
  id: number;
  item: Item;
  ordered: number;
  /** The whole line in company cents. */
  amount: number;
  received: Held;
  billed: Held;
  receipts: Receipt[];
  /** What standing bills and credits count: quantity, price in tenths of a cent, cents, company cents. */
  bills: Counted[];
  credits: Counted[];
}
interface Counted {
  quantity: number;
  price: number;
  amount: number;
  company: number;
  rate: Part;
}
/** What one lot, serial or whole line of a delivery brought. Its layer of cost is itself. */
export interface Receipt {
  line: Line;
  serial: string | null;
  brought: Held;
  returned: Held;
  layer: Held;
  covered: number;
  undone: boolean;
}
/** What a bill or charge put on a receipt. */
interface Put {
  receipt: Receipt;
  toStock: number;
  here: number;
  clamped: number;
}
type Turn = () => void;
export interface Charge {
  amount: number;
  lines: { receipt: Receipt; weight: number; of: number; here: number; sum: Part; amount: number; toStock: number }[];
}

export class Reckoning {
  readonly accounts: Record<string, number> = {};
  /** All receipts in the order they came. */
  readonly receipts: Receipt[] = [];

  post(account: string, amount: number): void {
    this.accounts[account] = (this.accounts[account] ?? 0) + amount;
  }

  net = ({ undone, brought, returned }: Receipt): number => (undone ? 0 : brought.quantity - returned.quantity);

  /** How many of a receipt are here: its layer's, or under moving average what the newer ones do not account for. */
  here(receipt: Receipt): number {
    const { item } = receipt.line;
    if (item.method !== 'average') return Math.min(receipt.layer.quantity, this.net(receipt));
    const later = this.receipts.slice(this.receipts.indexOf(receipt) + 1).filter((one) => one.line.item === item);
    return Math.max(0, Math.min(this.net(receipt), item.quantity - later.reduce((sum, one) => sum + this.net(one), 0)));
  }

  private pool = (receipt: Receipt): Held => (receipt.line.item.method === 'average' ? receipt.line.item : receipt.layer);

  /** Puts cents on the stock of a receipt, never below nothing; what it cannot bear is returned. */
  private put(receipt: Receipt, wanted: number): { toStock: number; clamped: number } {
    const pool = this.pool(receipt);
    const asked = pool.quantity === 0 ? 0 : wanted;
    const toStock = pool.value + asked < 0 ? -pool.value : asked;
    if (pool !== receipt.line.item) receipt.line.item.value += toStock;
    pool.value += toStock;
    this.post('inventory', toStock);
    return { toStock, clamped: asked - toStock };
  }

  /** What changes of received-and-not-billed stands on its two accounts; and the cents that would stay open for ever go to price variance. */
  private goods(line: Line, work: () => void): void {
    const open = () => line.received.value - line.billed.value;
    const move = (before: number, after: number) => {
      this.post('grni', Math.max(before, 0) - Math.max(after, 0));
      this.post('credits-expected', Math.max(-after, 0) - Math.max(-before, 0));
    };
    const before = open();
    work();
    move(before, open());
    if (line.received.quantity !== line.billed.quantity || open() === 0) return;
    const left = open();
    line.billed.value += left;
    move(left, 0);
    this.post('price-variance', -left);
  }

  receive(line: Line, quantity: number, serials: readonly string[]): { receipts: Receipt[]; undo: Turn } {
    const value = cents(times(whole(line.amount), quotient(line.received.quantity + quantity, line.ordered))) - line.received.value;
    const values =
      serials.length === 0
        ? [value]
        : spread(
            value,
            serials.map(() => whole(1)),
          );
    const came = values.map((worth, at): Receipt => {
      const brought = { quantity: serials.length === 0 ? quantity : 1, value: worth };
      return { line, serial: serials[at] ?? null, brought, returned: { quantity: 0, value: 0 }, layer: { ...brought }, covered: 0, undone: false };
    });
    const { item } = line;
    this.goods(line, () => {
      for (const receipt of came) {
        this.receipts.push(receipt);
        line.receipts.push(receipt);
        item.quantity += receipt.brought.quantity;
        item.value += receipt.brought.value;
        this.post('inventory', receipt.brought.value);
      }
      line.received.quantity += quantity;
      line.received.value += value;
    });
    return { receipts: came, undo: () => this.unreceive(line, came) };
  }

  private unreceive(line: Line, came: readonly Receipt[]): void {
    const { item } = line;
    this.goods(line, () => {
      for (const receipt of [...came].reverse()) {
        const { quantity, value } = receipt.brought;
        const out = item.method === 'average' ? (item.quantity === quantity ? item.value : Math.min(item.value, value)) : receipt.layer.value;
        item.quantity -= quantity;
        item.value -= out;
        receipt.layer = { quantity: 0, value: 0 };
        receipt.undone = true;
        line.received.quantity -= quantity;
        line.received.value -= value;
        this.post('inventory', -out);
        this.post('cost-variance', out - value);
      }
    });
  }

  /** Takes goods out of stock at what they cost now; `first` names layers that go first. */
  private take(
    item: Item,
    quantity: number,
    serial: string | null,
    first: readonly { receipt: Receipt; quantity: number }[] = [],
  ): { value: number; undo: Turn } {
    const taken: { from: Held; quantity: number; value: number }[] = [];
    const out = (from: Held, many: number) => {
      const value = many === from.quantity ? from.value : cents(times(whole(from.value), quotient(many, from.quantity)));
      taken.push({ from, quantity: many, value });
      from.quantity -= many;
      from.value -= value;
    };
    if (item.method === 'average') out(item, quantity);
    else {
      const mine = this.receipts.filter((one) => one.line.item === item && one.layer.quantity > 0 && (serial === null || one.serial === serial));
      const plan = new Map<Receipt, number>();
      let open = quantity;
      const from = (receipt: Receipt, most: number) => {
        const many = Math.min(open, most, receipt.layer.quantity - (plan.get(receipt) ?? 0));
        if (many > 0) plan.set(receipt, (plan.get(receipt) ?? 0) + many);
        open -= Math.max(0, many);
      };
      first.filter(({ receipt }) => mine.includes(receipt)).forEach((one) => from(one.receipt, one.quantity));
      mine.forEach((receipt) => from(receipt, open));
      for (const [receipt, many] of plan) out(receipt.layer, many);
      item.quantity -= quantity;
      item.value -= taken.reduce((sum, one) => sum + one.value, 0);
    }
    const value = taken.reduce((sum, one) => sum + one.value, 0);
    const undo = () => {
      for (const one of taken) {
        one.from.quantity += one.quantity;
        one.from.value += one.value;
      }
      if (item.method === 'average') return;
      item.quantity += quantity;
      item.value += value;
    };
    return { value, undo };
  }

  lose(item: Item, quantity: number, serial: string | null): Turn {
    const { value, undo } = this.take(item, quantity, serial);
    const book = (sign: number) => {
      this.post('inventory', -value * sign);
      this.post('stock-differences', value * sign);
    };
    book(1);
    return () => {
      undo();
      book(-1);
    };
  }

  sendBack(line: Line, quantity: number, serial: string | null): Turn {
    const fit = line.receipts.filter((one) => !one.undone && (serial === null || one.serial === serial));
    const off = new Map<Receipt, number>();
    let open = quantity;
    for (const most of [(one: Receipt) => Math.min(this.net(one), this.here(one)), (one: Receipt) => this.net(one) - (off.get(one) ?? 0)])
      for (const [receipt, many] of fit.map((one) => [one, most(one)] as const)) {
        const takes = Math.min(open, many);
        if (takes <= 0) continue;
        off.set(receipt, (off.get(receipt) ?? 0) + takes);
        open -= takes;
      }
    const parts = fit.flatMap((receipt) => {
      const many = off.get(receipt);
      if (!many) return [];
      const upTo = cents(times(whole(receipt.brought.value), quotient(receipt.returned.quantity + many, receipt.brought.quantity)));
      return [{ receipt, quantity: many, value: upTo - receipt.returned.value }];
    });
    const { value: moved, undo } = this.take(line.item, quantity, serial, parts);
    const paid = parts.reduce((sum, { value }) => sum + value, 0);
    const book = (sign: number) =>
      this.goods(line, () => {
        for (const { receipt, quantity: many, value } of parts) {
          receipt.returned.quantity += many * sign;
          receipt.returned.value += value * sign;
        }
        line.received.quantity -= quantity * sign;
        line.received.value -= paid * sign;
        this.post('inventory', -moved * sign);
        this.post('price-variance', (moved - paid) * sign);
      });
    book(1);
    return () => {
      undo();
      book(-1);
    };
  }

  /** What all bills, or credits, of a line in one currency count, rounded once: in the currency, and in company cents. */
  private counted(before: readonly Counted[], quantity: number, price: number, rate: Part): Counted {
    const amount = amountOf([...before, { quantity, price }]) - before.reduce((sum, one) => sum + one.amount, 0);
    const company =
      cents([...before, { amount, rate }].map((one) => times(whole(one.amount), one.rate)).reduce(plus, [0n, 1n])) -
      before.reduce((sum, one) => sum + one.company, 0);
    return { quantity, price, amount, company, rate };
  }

  private clears(line: Line, change: number): number {
    const after = line.billed.quantity + change;
    if (after === line.received.quantity) return line.received.value - line.billed.value;
    return cents(times(whole(line.amount), quotient(after, line.ordered))) - line.billed.value;
  }

  /** A bill for so many at a price in tenths of a cent, or (`credit`) a credit for so many that went back. */
  bill(line: Line, quantity: number, price: number, rate: Part, credit: boolean): { total: number; owed: number; undo: Turn } {
    const list = credit ? line.credits : line.bills;
    const one = this.counted(
      list.filter((other) => other.rate[0] * rate[1] === rate[0] * other.rate[1]),
      quantity,
      price,
      rate,
    );
    const sign = credit ? -1 : 1;
    const cleared = this.clears(line, quantity * sign);
    const difference = one.company * sign - cleared;
    list.push(one);
    this.goods(line, () => {
      line.billed.quantity += quantity * sign;
      line.billed.value += cleared;
    });
    const covers = credit ? [] : this.cover(line, quantity);
    covers.forEach(({ receipt, quantity: so }) => (receipt.covered += so));
    const puts = this.spreadDifference(difference, quantity, covers);
    this.post('price-variance', difference - puts.reduce((sum, { toStock, clamped }) => sum + toStock + clamped, 0));
    this.post('payable', -one.company * sign);
    const undo = () => {
      list.splice(list.indexOf(one), 1);
      covers.forEach(({ receipt, quantity: so }) => (receipt.covered -= so));
      const gone = this.takeOff(puts);
      this.post('price-variance', gone - (difference - puts.reduce((sum, { toStock, clamped }) => sum + toStock + clamped, 0)));
      this.post('payable', one.company * sign);
      this.goods(line, () => {
        line.billed.quantity -= quantity * sign;
        line.billed.value -= cleared;
      });
    };
    return { total: one.amount, owed: one.company, undo };
  }

  /** A credit that takes cents off what the goods of a line cost. */
  credit(line: Line, amount: number): { owed: number; undo: Turn } {
    const covers = line.receipts.flatMap((receipt) => (this.net(receipt) > 0 ? [{ receipt, quantity: this.net(receipt) }] : []));
    const quantity = covers.reduce((sum, one) => sum + one.quantity, 0);
    const puts = this.spreadDifference(-amount, quantity, covers);
    const rest = -amount - puts.reduce((sum, { toStock, clamped }) => sum + toStock + clamped, 0);
    this.post('price-variance', rest);
    this.post('payable', amount);
    const undo = () => {
      this.post('price-variance', this.takeOff(puts) - rest);
      this.post('payable', -amount);
    };
    return { owed: amount, undo };
  }

  private cover(line: Line, quantity: number): { receipt: Receipt; quantity: number }[] {
    let open = quantity;
    return line.receipts.flatMap((receipt) => {
      const so = Math.min(open, Math.max(0, this.net(receipt) - receipt.covered));
      open -= so;
      return so > 0 ? [{ receipt, quantity: so }] : [];
    });
  }

  /** To stock goes the exact share of what is still here of each receipt, rounded once. */
  private spreadDifference(difference: number, quantity: number, covers: readonly { receipt: Receipt; quantity: number }[]): Put[] {
    if (difference === 0 || covers.length === 0) return [];
    const shares = covers.map(({ receipt, quantity: so }) => times(whole(so), quotient(this.here(receipt), this.net(receipt))));
    const inStock = cents(times(times(whole(difference), shares.reduce(plus, [0n, 1n])), [1n, BigInt(quantity)]));
    const wanted = spread(inStock, shares);
    const heres = covers.map(({ receipt }) => this.here(receipt));
    return covers.map(({ receipt }, at) => {
      const { toStock, clamped } = this.put(receipt, wanted[at] as number);
      this.post('cost-variance', clamped);
      return { receipt, here: heres[at] as number, toStock, clamped };
    });
  }

  /** Takes what was put off again, as far as the goods are here; returns what has gone with goods since. */
  private takeOff(puts: readonly Put[]): number {
    const heres = puts.map(({ receipt }) => this.here(receipt));
    return puts
      .map(({ receipt, toStock, here, clamped }, at) => {
        const wanted = -cents(times(whole(toStock), quotient(Math.min(here, heres[at] as number), here)));
        const off = this.put(receipt, wanted);
        this.post('cost-variance', off.clamped - clamped);
        return -toStock - off.toStock - off.clamped;
      })
      .reduce((sum, one) => sum + one, 0);
  }

  /** A worksheet with one charge over the lines of a delivery, by quantity or by value. */
  charge(receipts: readonly Receipt[], by: 'quantity' | 'value', amount: number): { change: (to: number) => void; undo: Turn } {
    const lines = receipts.flatMap((receipt) => {
      const net = this.net(receipt);
      const weight = by === 'quantity' ? net : receipt.brought.value - receipt.returned.value;
      return net > 0 ? [{ receipt, weight, of: net, here: net, sum: [0n, 1n] as Part, amount: 0, toStock: 0 }] : [];
    });
    const set = (to: number) => {
      const amounts = spread(
        to,
        lines.map(({ weight }) => whole(weight)),
      );
      const heres = lines.map(({ receipt }) => this.here(receipt));
      lines.forEach((line, at) => {
        const change = (amounts[at] as number) - line.amount;
        line.here = Math.min(line.here, heres[at] as number);
        const sum = plus(line.sum, whole(change * line.here));
        const wanted = cents(times(sum, [1n, BigInt(line.of)])) - cents(times(line.sum, [1n, BigInt(line.of)]));
        const { toStock, clamped } = this.put(line.receipt, wanted);
        this.post('cost-of-sales', change - toStock - clamped);
        this.post('cost-variance', clamped);
        this.post('landed-clearing', -change);
        line.sum = sum;
        line.amount += change;
        line.toStock += toStock;
      });
    };
    set(amount);
    const undo = () => {
      const heres = lines.map(({ receipt }) => this.here(receipt));
      lines.forEach((line, at) => {
        const left = Math.min(line.here, heres[at] as number);
        const [n, d] = line.sum;
        const wanted = n === 0n ? 0 : -cents(times(whole(line.toStock * left * line.amount), [d, n]));
        const unborne = cents(times(line.sum, [1n, BigInt(line.of)])) - line.toStock;
        const { toStock, clamped } = this.put(line.receipt, wanted);
        this.post('cost-variance', clamped - unborne);
        this.post('cost-of-sales', -line.amount + unborne - clamped - toStock);
        this.post('landed-clearing', line.amount);
      });
    };
    return { change: set, undo };
  }

  /** Payments of a bill: each takes the share of all that is paid with it; the last one takes the rest. */
  pay(bill: { total: number; owed: number; paid: number; settled: number; credit: boolean }, amount: number): Turn {
    const upTo = cents(times(whole(bill.owed), quotient(bill.paid + amount, bill.total)));
    const settled = upTo - bill.settled;
    const sign = bill.credit ? -1 : 1;
    const book = (way: number) => {
      bill.paid += amount * way;
      bill.settled += settled * way;
      this.post('payable', settled * sign * way);
      this.post('bank', -settled * sign * way);
    };
    book(1);
    return () => book(-1);
  }
}
