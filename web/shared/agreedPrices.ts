import { decimal } from '@larder/core/decimal';
import { priceOf, type PriceBreak } from '@larder/core/inbound/terms';
import { useEffect } from 'react';
import { plainPrice } from '../kit/format';
import type { FieldValues } from 'react-hook-form';
import type { Form } from '../kit/form';
import { baseQuantity, type DraftLine } from './draftLines';
import type { LinesName } from './LineSheet';

/** What was agreed for an item, by quantity; of one base unit. */
export interface Agreed {
  price: string | null;
  breaks: readonly PriceBreak[];
}

/** The ids of the items on lines, once each, apart by commas. */
export const itemsOn = (lines: readonly DraftLine[]): string => [...new Set(lines.map(({ itemId }) => itemId))].sort((a, b) => a - b).join(',');

/** What was agreed for as many of the line's unit as its price is for, or null when nothing was. */
export function agreedPrice(line: DraftLine, terms: Agreed | undefined): string | null {
  const price = terms && priceOf(terms, decimal(baseQuantity(line) ?? 0));
  return price ? plainPrice(price.times(line.factor).times(line.pricePer).toDecimalPlaces(6).toFixed()) : null;
}

/** A form that holds lines, as far as their prices are followed. */
interface Lined {
  getValues: (name: LinesName) => DraftLine[];
  setValue: (name: `${LinesName}.${number}.price`, price: string) => void;
  watch: (told: (values: unknown, change: { name?: string | undefined }) => void) => { unsubscribe: () => void };
}

/** Keeps the prices that nobody typed at what was agreed, also as quantities reach another break. Undefined: nothing is followed. */
export function useAgreedPrices<F extends FieldValues, B>(
  form: Form<F, B>,
  of: ((itemId: number) => Agreed | undefined) | undefined,
  name: LinesName = 'lines',
): void {
  const { getValues, setValue, watch } = form as unknown as Lined;
  useEffect(() => {
    if (!of) return;
    const follow = () => {
      for (const [index, line] of getValues(name).entries()) {
        const agreed = line.ownPrice ? null : agreedPrice(line, of(line.itemId));
        if (agreed !== null && agreed !== line.price) setValue(`${name}.${index}.price`, agreed);
      }
    };
    follow();
    const { unsubscribe } = watch((_, { name: changed }) => {
      // After all who watch were told of this: what is set while they are being told, those told later would not keep.
      if (changed?.startsWith(name) && !changed.endsWith('.price')) queueMicrotask(follow);
    });
    return unsubscribe;
  }, [getValues, setValue, watch, of, name]);
}
