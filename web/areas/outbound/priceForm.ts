import type { PriceList } from '@larder/contract/prices';

/** A row of a price list while it is written. */
export interface PriceRowForm {
  itemId: number | null;
  categoryId: number | null;
  /** SKU of the item, or the name of the category. */
  code: string;
  name: string;
  unit: string;
  salesPrice: string | null;
  /** Empty: for any quantity. */
  from: string;
  price: string;
  percentOff: string;
  startsOn: string | null;
  endsOn: string | null;
}

export interface PriceForm {
  name: string;
  forAll: boolean;
  rows: PriceRowForm[];
}

/** What a price list begins with. */
export const priceForm = (list: PriceList | null): PriceForm => ({
  name: list?.name ?? '',
  forAll: list?.forAll ?? false,
  rows: (list?.rows ?? []).map((row) => ({ ...row, from: row.from === '0' ? '' : row.from, price: row.price ?? '', percentOff: row.percentOff ?? '' })),
});

/** A new row, for an item or a category. */
export const newPriceRow = (about: Pick<PriceRowForm, 'itemId' | 'categoryId' | 'code'> & Partial<PriceRowForm>): PriceRowForm => ({
  name: '',
  unit: '',
  salesPrice: null,
  from: '',
  price: '',
  percentOff: '',
  startsOn: null,
  endsOn: null,
  ...about,
});

/** Tells the rows of a price list apart. */
export const priceRowKey = ({ itemId, categoryId, from, startsOn }: PriceRowForm): string =>
  `${itemId ?? ''} ${categoryId ?? ''} ${from.trim() || '0'} ${startsOn ?? ''}`;

/** What is sent of a price list. */
export const sentPrices = ({ name, forAll, rows }: PriceForm) => ({
  name,
  forAll,
  rows: rows.map(({ itemId, categoryId, from, price, percentOff, startsOn, endsOn }) => ({
    itemId,
    categoryId,
    from: from.trim() || '0',
    price: price.trim() || null,
    percentOff: percentOff.trim() || null,
    startsOn,
    endsOn,
  })),
});
