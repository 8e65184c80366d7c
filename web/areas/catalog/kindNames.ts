import type { ItemKind } from '@larder/core/catalog/kind';

/** What an item is, in words. */
export const kindNames: Record<ItemKind, string> = { stocked: 'Kept in stock', 'not-stocked': 'Goods used at once', service: 'Service', charge: 'Charge' };
