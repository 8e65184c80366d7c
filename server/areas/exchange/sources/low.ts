import { lowOf } from '../../planning/queries';
import { item, site } from '../../../db/schema/index';
import { named, type Source } from './source';

/** What runs low, as its report tells it. */
export const low: Source = {
  read: (db, where, _sites, { low: held }) => lowOf(db, held, {}).where(where).orderBy(item.sku, site.name),
  words: item.findable,
  more: named([
    ['sku', 'SKU'],
    ['name', 'Name'],
    ['category', 'Category'],
    ['supplier', 'Supplier'],
    ['site', 'Site'],
    ['state', 'State'],
    ['onHand', 'On hand'],
    ['free', 'Free'],
    ['onOrder', 'On order'],
    ['coming', 'From other sites'],
    ['short', 'Short'],
    ['position', 'Position'],
    ['reorderPoint', 'Reorder point'],
    ['orderUpTo', 'Order up to'],
    ['below', 'Below the point by'],
    ['toLevel', 'To the level'],
    ['since', 'Since'],
    ['days', 'Days until out'],
  ]),
};
