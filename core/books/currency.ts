import currencies from 'currency-codes';
import { decimal, money, type Decimal } from '../decimal';

/** Codes of the list that stand for no money one can pay with: metals, units of account, tests. */
const noMoney: ReadonlySet<string> = new Set(['XAG', 'XAU', 'XBA', 'XBB', 'XBC', 'XBD', 'XDR', 'XPD', 'XPT', 'XSU', 'XTS', 'XUA', 'XXX']);

/** Decimals of a currency by ISO 4217 (two for most, none for JPY, three for KWD), or null when there is no such currency to pay with. */
export const currencyPlaces = (code: string): number | null => (noMoney.has(code) ? null : (currencies.code(code)?.digits ?? null));

/** The currencies whose decimals are not two, by how many they have. */
export const unusualPlaces: ReadonlyMap<number, readonly string[]> = new Map(
  [0, 1, 3, 4].map((places) => [places, currencies.codes().filter((code) => currencyPlaces(code) === places)]),
);

/** What is wrong with an amount in a currency, or null. An empty currency is not looked at. */
export function amountFault(amount: string, currency: string): string | null {
  const places = currencyPlaces(currency);
  if (places === null || decimal(amount).decimalPlaces() <= places) return null;
  return places === 0 ? `${currency} has no decimals: give a whole amount.` : `${currency} has ${places} decimals, no more.`;
}

/** What is wrong with a currency and a rate to the company's own currency, by field; none when it can be. */
export function currencyFaults(currency: string, rate: string, company: string): { field: 'currency' | 'rate'; sentence: string }[] {
  if (currencyPlaces(currency) === null) return [{ field: 'currency', sentence: `There is no currency ${currency}.` }];
  if (currency === company && !decimal(rate).eq(1)) return [{ field: 'rate', sentence: `${currency} is the business's own currency: its rate is 1.` }];
  return [];
}

/** Whole minor units of a currency; two decimals for one that is not known. */
export const moneyIn = (currency: string, value: Decimal): Decimal => money(value, currencyPlaces(currency) ?? 2);

/** An amount as the wire and the database write it: with as many decimals as its currency has. */
export const amountText = (currency: string, value: Decimal): string => value.toFixed(currencyPlaces(currency) ?? 2);
