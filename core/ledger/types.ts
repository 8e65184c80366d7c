import type { CostMethodName, Layer, LayerMove, Pool } from '../costing/method';
import type { Day } from '../day';
import type { Decimal } from '../decimal';
import type { Tracking } from '../stock/lots';
import type { DocumentKind } from './counters';

/** Where stock can be. Bins are the shelves; the rest says in what other way goods exist for the business, or have left it. */
export type PlaceKind =
  | 'bin'
  | 'bench'
  | 'transit'
  | 'holder'
  | 'in-work'
  | 'supplier'
  | 'customer'
  | 'found-or-lost'
  | 'scrap'
  | 'own-use'
  | 'opening'
  | 'made'
  | 'relabel'
  | 'used-up'
  | 'nowhere'
  | 'before-records';

const ownedKinds: ReadonlySet<PlaceKind> = new Set(['bin', 'bench', 'transit', 'holder', 'in-work']);

/** Whether what lies in a place of this kind belongs to the business and to the item's cost pool. */
export const isOwned = (kind: PlaceKind): boolean => ownedKinds.has(kind);

export interface Place {
  id: number;
  kind: PlaceKind;
  siteId: number | null;
  code: string;
  /** Bins only: stock here may be promised (not quarantine). */
  sellable: boolean;
  retired: boolean;
}

export type MovementKind =
  | 'opening'
  | 'receipt'
  | 'shelf-move'
  | 'pick'
  | 'dispatch'
  | 'correction'
  | 'supplier-return'
  | 'customer-return'
  | 'drop-shipment'
  | 'transfer'
  | 'arrival'
  | 'loan'
  | 'brought-back'
  | 'making'
  | 'relabel'
  | 'undo';

/**
 * How value comes with goods: as stated, at current cost, as it was in the movement that is undone, or (`inputs`) as a part of what the lines before it
 * of the same movement put into the place it comes from: so many of so many parts. What work made (`work`) is so many of so many parts of all that is in progress then, what the movement itself
 * adds included, and of what is still to come; never more than is in progress.
 * Goods sent back take `moved` of the pool with them (null: at current cost) while the document counts `value`; the difference is price variance.
 */
export type Valuation =
  | { by: 'stated'; value: Decimal }
  | { by: 'current' }
  | { by: 'original'; value: Decimal }
  | { by: 'returned'; value: Decimal; moved: Decimal | null }
  | { by: 'inputs'; part: Decimal; whole: Decimal }
  | { by: 'work'; part: Decimal; whole: Decimal };

/** A document line that a movement line serves. */
export interface Serves {
  kind: DocumentKind;
  lineId: number;
}

/** Part of goods that go back: which receipt's line they came on, its layer of cost, how many, and what the order paid for those. */
export interface TakenOff {
  lineId: number;
  layerSeq: number;
  quantity: Decimal;
  value: Decimal;
  /** So many of them are not replaced, and so not expected again. */
  calledOff: Decimal;
}

/** Part of goods that a customer brings back: which line they went out with, how many, and what those had cost. */
export interface CameBack {
  ofLineId: number;
  /** The return that says so. */
  returnId: number;
  quantity: Decimal;
  value: Decimal;
}

export interface MovementLine {
  itemId: number;
  lotId: number | null;
  /** Base units, more than zero. */
  quantity: Decimal;
  fromPlaceId: number;
  toPlaceId: number;
  valuation: Valuation;
  /** None, one, or two: one whose goods come, and one they go for. */
  serves: readonly Serves[];
  /** Of an undo: what the line it undoes did to layers of cost, and its running number. */
  undoes?: { seq: number; layerMoves: readonly LayerMove[] };
  /** Of goods that go back to their supplier: the receipts they are taken off; below zero where an undo gives them back. */
  takenOff?: readonly TakenOff[];
  /** Of goods that a customer brings back: what they went out with; below zero where an undo sends them there again. */
  cameBack?: readonly CameBack[];
  /** Of goods that are thrown away as they come: the account that bears what they had cost. */
  lossAccount?: number;
  /** Of a lot made by this movement whose use-by day has passed: it is not on hand. */
  pastUse?: boolean;
  /** Which line of the request it came from, counted from 0; none of what nobody wrote as a line. */
  of?: number;
  /** Path of the field in the request that asked for this line. */
  field: string;
}

/** What bears the cost of goods that come or go for a reason. */
export interface Bearer {
  /** Null: the account of the reason. */
  accountId: number | null;
  departmentId: number | null;
  /** Tax that is due on what the business uses itself; null when none is. */
  tax: OwnUseTax | null;
}

/** A tax on what the goods had cost. `owed` and `base` are given by an undo, which turns round what was posted; else they are reckoned. */
export interface OwnUseTax {
  taxCodeId: number;
  /** Per cent. */
  rate: Decimal;
  posted: { base: Decimal; owed: Decimal } | null;
}

/** Labour, a machine or work outside, as it is charged to work: so many hours or pieces at a rate, which come to an amount; below zero where an undo gives it back. */
export interface Charged {
  accountId: number;
  name: string;
  per: 'hour' | 'piece';
  quantity: Decimal;
  rate: Decimal;
  amount: Decimal;
}

/** What a movement does to a work order beside its goods. Company currency. */
export interface WorkMoved {
  orderId: number;
  /** What was in progress before it; the work order is locked. */
  before: Decimal;
  charges: readonly Charged[];
  /** What by its plan is still to be used and charged after this; nothing once it ends. */
  toCome: Decimal;
  /** What goes on in progress of another order, which is its rest; below zero where an undo brings it back. */
  carried: { toOrderId: number; amount: Decimal } | null;
  /** Nothing more comes of it: what is left in progress then is making variance. Of an undo: the variance that was posted, which is taken back. */
  ends: boolean | { undoes: Decimal };
}

export interface Movement {
  kind: MovementKind;
  effectiveOn: Day;
  lines: readonly MovementLine[];
  reasonId: number | null;
  bearer?: Bearer;
  reversesId: number | null;
  work?: WorkMoved;
  /** Document lines that were waiting for just these goods: they are served before all others. */
  servesFirst?: readonly number[];
  note: string;
  /** The person has said that a count which contains it already does not matter. */
  countedAgreed?: boolean;
}

/** When a bin was last said to hold so many of something: the running number known then, and the day. */
export interface Counted {
  seq: number;
  day: Day;
}

export interface ItemState {
  id: number;
  sku: string;
  name: string;
  unit: string;
  /** False for services, charges and goods that are used at once: they are in no place of ours. */
  stocked: boolean;
  tracking: Tracking;
  costMethod: CostMethodName;
  pool: Pool;
  /** Those that hold something, for items kept by layers; empty for others. */
  layers: readonly Layer[];
  lastSeq: number;
  /** What the pool held when it last held anything. */
  lastHeld: Pool | null;
  purchasePrice: Decimal | null;
  inventoryAccount: number;
  costAccount: number;
}

/** A document line that was decided on and wants an item at a site. Quantities in base units. */
export interface DemandLine {
  lineId: number;
  kind: DocumentKind;
  /** Of its document. */
  number: string;
  position: number;
  /** The day it is wanted for: to ship, to send, to begin with. */
  neededOn: Day;
  promisedOn: Day | null;
  /** It lets others go first: nothing is reserved for it until that is taken back. */
  standsBack: boolean;
  /** Beyond what was drawn; below zero when more was drawn for work than its order says. */
  wanted: Decimal;
  reserved: Decimal;
}

export interface SiteState {
  itemId: number;
  siteId: number;
  siteName: string;
  onHand: Decimal;
  bench: Decimal;
  demand: readonly DemandLine[];
}

/** Counters of a document line as the ledger keeps them. */
export interface LineCounters {
  label: string;
  /** See `Counter`. */
  arrived: Decimal;
  drawn: Decimal;
  gone: Decimal;
  finished: Decimal;
  /** Worth of what arrived and is not billed, in company currency; below zero when a credit is expected. */
  open: Decimal;
}

export type AccountPurpose =
  | 'inventory'
  | 'grni'
  | 'cost-of-sales'
  | 'cost-variance'
  | 'opening'
  | 'stock-differences'
  | 'own-use'
  | 'own-use-tax'
  | 'purchases-paid'
  | 'price-variance'
  | 'credits-expected'
  | 'work-in-progress'
  | 'making-variance';

/** What is known when a movement is decided: read under locks to post, in one snapshot to preview. */
export interface LedgerState {
  today: Day;
  closedThrough: Day | null;
  places: ReadonlyMap<number, Place>;
  items: ReadonlyMap<number, ItemState>;
  /** By `balanceKey`. */
  balances: ReadonlyMap<string, Decimal>;
  /** Lowest balance as of any day from the effective day on, by `balanceKey`; only for days before today. */
  lowestSince: ReadonlyMap<string, Decimal>;
  /** By `siteKey`. */
  sites: ReadonlyMap<string, SiteState>;
  /** Lots flagged as past their use-by day: what lies in bins of them is not on hand. */
  pastUse: ReadonlySet<number>;
  /** Whether each lot that is known is a lot or a serial. */
  lotKinds: ReadonlyMap<number, Tracking>;
  /** By `balanceKey`; only for an undo, or for days before today. */
  counted: ReadonlyMap<string, Counted>;
  /** By document line, of those the movement serves. */
  documents: ReadonlyMap<number, LineCounters>;
  accounts: Readonly<Record<AccountPurpose, number>>;
  /** The account that the movement names for what it costs, else that of its reason. */
  reasonAccount: number | null;
}

export const balanceKey = (itemId: number, lotId: number | null, placeId: number): string => `${itemId}/${lotId ?? ''}/${placeId}`;
export const siteKey = (itemId: number, siteId: number): string => `${itemId}@${siteId}`;

export interface PlannedLine extends MovementLine {
  /** Running number per item: the order in which cost runs. */
  seq: number;
  /** Signed change of the item's pool, in cents: into it positive. */
  value: Decimal;
  /**
   * What could not follow the goods without taking the pool below zero: it goes to cost variance; of goods sent back, what they cost otherwise than the document says: to price variance; of goods that
   * never were ours, all they cost. Usually zero.
   */
  variance: Decimal;
  /** What it puts into layers of cost and takes out of them; adds up to `value`. Empty under moving average. */
  layerMoves: readonly LayerMove[];
}

export interface JournalLine {
  accountId: number;
  itemId: number | null;
  /** Debit positive, credit negative. */
  amount: Decimal;
  /** Whose cost it is; null when no department was named. */
  departmentId: number | null;
}

/** A change of what is reserved for an order line; negative releases. */
export interface ReservationChange {
  lineId: number;
  itemId: number;
  siteId: number;
  quantity: Decimal;
}

/** One figure before and after. `where` is a site, or empty for the whole business. */
export interface EffectRow {
  itemId: number;
  sku: string;
  name: string;
  measure: 'on hand' | 'reserved' | 'free' | 'short' | 'on the bench' | 'value' | 'unit cost';
  where: string;
  before: string;
  after: string;
}

export interface Effects {
  rows: EffectRow[];
  /** Sentences about what else happens: lines that become short or are served. */
  notes: string[];
  /** Sentences about what it costs. */
  costNotes: string[];
}

/** What bears the cost of a movement: written with it, so that an undo finds it. */
export interface Borne {
  accountId: number;
  departmentId: number | null;
  tax: { taxCodeId: number; rate: Decimal; base: Decimal; owed: Decimal } | null;
}

export interface Plan {
  lines: PlannedLine[];
  journal: JournalLine[];
  /** What bears the cost, with the tax on it as it is posted; null of what goes for no reason. */
  borne: Borne | null;
  /** What is making variance of it, and what is in progress of its work order afterwards; null of what is no work. */
  work: { variance: Decimal; after: Decimal } | null;
  /** To be written before the lines, and after them. */
  releases: ReservationChange[];
  reserves: ReservationChange[];
  /** Sentences about what else happens: lines that become short or are served. */
  notes: string[];
  /** Sentences about what it costs: value that goes to variance, tax that is due. */
  costNotes: string[];
  /** What is known once it is posted. */
  after: LedgerState;
}
