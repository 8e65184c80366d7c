import { customType, integer, numeric } from 'drizzle-orm/pg-core';

/** Columns that mean the same in every table. Without a name the property's is used. */
export const key = () => integer().primaryKey().generatedAlwaysAsIdentity();
export const quantity = (name = '') => numeric(name, { precision: 18, scale: 4 });
export const price = (name = '') => numeric(name, { precision: 18, scale: 6 });
export const amount = (name = '') => numeric(name, { precision: 18, scale: 2 });
/** An amount in a currency of its own decimals: it is kept with as many as that currency has. */
export const currencyAmount = (name = '') => numeric(name);
export const exchangeRate = (name = '') => numeric(name, { precision: 18, scale: 8 });
/** A moment in ISO 8601, UTC. */
export const moment = customType<{ data: string; driverData: string }>({
  dataType: () => 'timestamp with time zone',
  fromDriver: (text) => new Date(text).toISOString(),
});
export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
