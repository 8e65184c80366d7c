/** What postings use an account for; each purpose has one account. In words, as the chart of accounts says it. */
export const purposeWords = {
  bank: 'what is paid',
  inventory: 'stock, where no category or item says otherwise',
  'purchase-tax': 'tax on purchases to claim back',
  'credits-expected': 'credits expected from suppliers',
  payable: 'bills to be paid',
  receivable: 'invoices to be paid by customers',
  sales: 'sales, where no category or item says otherwise',
  'sales-tax': 'tax on sales',
  'freight-income': 'freight that customers are charged',
  grni: 'goods received and not billed',
  'purchases-paid': 'goods that came in paid',
  'landed-clearing': 'estimated charges until they are billed',
  opening: 'the stock the business began with',
  'cost-of-sales': 'cost of sales, where no category or item says otherwise',
  'stock-differences': 'stock found, lost and scrapped',
  'cost-variance': 'cost that no stock can bear',
  'price-variance': 'billed prices that differ from ordered ones',
  'landed-variance': 'charges billed otherwise than estimated',
  'exchange-difference': 'rates that changed until payment',
  'outbound-freight': 'freight on sales',
  'carriage-clearing': 'parcels sent and not billed by their carriers',
  'carriage-variance': 'parcels billed otherwise than booked',
  'own-use': 'stock used in the business',
  'own-use-tax': 'tax on stock used in the business',
  'other-costs': 'other costs on bills',
  'work-in-progress': 'what work orders hold until it is made',
  'making-variance': 'what making cost otherwise than what was made is worth',
} as const;
export type BookPurpose = keyof typeof purposeWords;
export const bookPurposes = Object.keys(purposeWords) as BookPurpose[];

/** Purposes whose account is held against what it stands for, item by item, or that an undo looks for: it stays the same once it was posted to. */
const kept: readonly BookPurpose[] = [
  'inventory',
  'credits-expected',
  'payable',
  'receivable',
  'grni',
  'landed-clearing',
  'carriage-clearing',
  'cost-variance',
  'own-use-tax',
  'work-in-progress',
];

export interface MappedAccount {
  code: string;
  name: string;
  type: string;
  purpose: string | null;
  /** Something was posted to it. */
  used: boolean;
}

/** Why a purpose cannot move from its account to another, or null when it can. */
export function moveFault(purpose: BookPurpose, from: MappedAccount, to: MappedAccount): string | null {
  if (from.code === to.code) return `${to.name} is used for this already.`;
  if (to.purpose !== null) return `${to.name} is used for ${purposeWords[to.purpose as BookPurpose]}; choose an account that is used for nothing yet.`;
  if (to.type !== from.type) return `${to.name} is an account of ${to.type}; this asks for one of ${from.type}.`;
  if (!kept.includes(purpose)) return null;
  if (from.used) return `${from.name} was posted to already and is held against what it stands for; it stays. Give it another number or name instead.`;
  return to.used ? `${to.name} was posted to already; choose an account nothing was posted to.` : null;
}

/** What may be billed for without an order goes on any account but those of stock and those held against what they stand for. */
const heldAgainst: readonly string[] = [
  'grni',
  'credits-expected',
  'payable',
  'receivable',
  'landed-clearing',
  'carriage-clearing',
  'own-use-tax',
  'work-in-progress',
] satisfies BookPurpose[];
export const maybeBilled = ({ type, purpose }: Pick<MappedAccount, 'type' | 'purpose'>): boolean =>
  type !== 'inventory' && !heldAgainst.includes(purpose ?? '');
