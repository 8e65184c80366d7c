export * from './setup';
export * from './people';
export * from './catalog';
export * from './inbound';
export * from './outbound';
export * from './ledger';
export * from './books';
export * from './lists';
