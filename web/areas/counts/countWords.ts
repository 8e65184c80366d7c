import type { CountState, RecountWhy } from '@larder/core/stock/counting';

/** What a count is, or waits for. */
export const stateWords: Readonly<Record<CountState, string>> = {
  planned: 'not begun',
  counting: 'being counted',
  review: 'to be looked at',
  posted: 'posted',
  discarded: 'ended, nothing posted',
};

/** Why something is to be counted again. */
export const recountWords: Readonly<Record<RecountWhy, string>> = {
  moved: 'some of it moved while it was scanned',
  late: 'some of it had moved before this was sent',
  differs: 'it differs much',
  asked: 'somebody asked for it',
};
