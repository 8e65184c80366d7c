/** What postings use an account for; each purpose has one account. */
export type BookPurpose =
  | 'bank'
  | 'inventory'
  | 'purchase-tax'
  | 'payable'
  | 'grni'
  | 'credits-expected'
  | 'landed-clearing'
  | 'cost-of-sales'
  | 'cost-variance'
  | 'price-variance'
  | 'landed-variance'
  | 'exchange-difference'
  | 'other-costs';
