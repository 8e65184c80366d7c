/**
 * Pieces of OASIS Universal Business Language 2.1, as trees of elements in the order its schemas give them.
 * `@_` begins an attribute, `#text` is what stands between the tags; what is undefined is left out.
 */
export type Tree = string | { readonly [name: string]: Tree | readonly Tree[] | undefined };

/** Somebody on a document: a name, an address line by line, and the number tax offices know them by. */
export interface UblParty {
  name: string;
  address: readonly string[];
  taxNumber?: string;
}

export const amountOf = (currency: string, amount: string): Tree => ({ '@_currencyID': currency, '#text': amount });

/** Codes of units by UN/ECE recommendation 20 and 21; a unit of one's own is mutually defined. */
const unitCodes: Readonly<Record<string, string>> = {
  each: 'C62',
  pack: 'PK',
  kg: 'KGM',
  m: 'MTR',
  l: 'LTR',
  case: 'CS',
  box: 'BX',
  roll: 'RO',
  pallet: 'PX',
};
export const quantityOf = (quantity: string, unit: string): Tree => ({ '@_unitCode': unitCodes[unit] ?? 'ZZ', '#text': quantity });

export const partyOf = ({ name, address, taxNumber = '' }: UblParty): Tree => {
  const lines = address.filter((line) => line.trim() !== '');
  return {
    'cac:PartyName': { 'cbc:Name': name },
    'cac:PostalAddress': lines.length === 0 ? undefined : { 'cac:AddressLine': lines.map((line) => ({ 'cbc:Line': line })) },
    'cac:PartyTaxScheme': taxNumber === '' ? undefined : { 'cbc:CompanyID': taxNumber, 'cac:TaxScheme': { 'cbc:ID': 'VAT' } },
    'cac:PartyLegalEntity': { 'cbc:RegistrationName': name },
  };
};

/** An item on a line, with the lots or serials of it, each with how it is kept. */
export const itemOf = (item: { sku: string; name: string; lots?: readonly string[]; rate?: string | undefined }): Tree => ({
  'cbc:Name': item.name,
  'cac:SellersItemIdentification': item.sku === '' ? undefined : { 'cbc:ID': item.sku },
  'cac:ClassifiedTaxCategory': item.rate === undefined ? undefined : taxCategory(item.rate),
  'cac:ItemInstance': item.lots?.map((lot) => ({ 'cac:LotIdentification': { 'cbc:LotNumberID': lot } })),
});

/** UNCL5305: the standard rate, or none. */
const taxCategory = (rate: string): Tree => ({ 'cbc:ID': Number(rate) === 0 ? 'Z' : 'S', 'cbc:Percent': rate, 'cac:TaxScheme': { 'cbc:ID': 'VAT' } });

export const taxTotalOf = (currency: string, tax: string, parts: readonly { rate: string; base: string; tax: string }[]): Tree => ({
  'cbc:TaxAmount': amountOf(currency, tax),
  'cac:TaxSubtotal': parts.map((part) => ({
    'cbc:TaxableAmount': amountOf(currency, part.base),
    'cbc:TaxAmount': amountOf(currency, part.tax),
    'cac:TaxCategory': taxCategory(part.rate),
  })),
});

/** A price for so many of a unit. */
export const priceOf = (currency: string, price: string, per: string, unit: string): Tree => ({
  'cbc:PriceAmount': amountOf(currency, price),
  'cbc:BaseQuantity': quantityOf(per, unit),
});

const namespaces = {
  '@_xmlns:cac': 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2',
  '@_xmlns:cbc': 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2',
};
/** A whole document of a kind, from its first element on. */
export const documentOf = (kind: 'Invoice' | 'CreditNote' | 'Order' | 'DespatchAdvice', parts: Exclude<Tree, string>): Record<string, Tree> => ({
  [kind]: { '@_xmlns': `urn:oasis:names:specification:ubl:schema:xsd:${kind}-2`, ...namespaces, 'cbc:UBLVersionID': '2.1', ...parts },
});
