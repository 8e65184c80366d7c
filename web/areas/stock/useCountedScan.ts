import type { UseFormReturn } from 'react-hook-form';
import { useLazyReadCodeQuery } from '../../shared/items';
import { useBinsQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { quantity } from '../../kit/format';
import type { Heard } from '../../kit/scan';
import { withScanned, type CorrectionDraft } from './correctionForm';

/** What a scan means while stock is put right: a bin is where what comes after it is counted, anything else counts one more there. Says what it did. */
export function useCountedScan(form: Pick<UseFormReturn<CorrectionDraft>, 'getValues' | 'setValue'>, say: (words: string) => void) {
  const { siteId } = useSite();
  const { data } = useBinsQuery({ query: { siteId } });
  const [readCode] = useLazyReadCodeQuery();
  const refuse = (words: string): Heard => {
    say(words);
    return 'refused';
  };
  return async (code: string): Promise<Heard> => {
    const named = (data?.rows ?? []).filter((bin) => !bin.retired && bin.code.toLowerCase() === code.trim().toLowerCase());
    const [bin] = named;
    if (bin && named.length > 1) return refuse(`${bin.code} is at more than one site. Choose the site at the top.`);
    if (bin) {
      form.setValue('binId', bin.id, { shouldDirty: true });
      say(`${bin.code}: what is counted now lies there.`);
      return true;
    }
    const { data: read } = await readCode({ query: { code } }, true);
    const [item] = read?.items ?? [];
    if (!read || !item) return refuse(`${code} means no bin and no item here.`);
    if (read.items.length > 1) return refuse(`${code} is on ${read.items.map(({ sku }) => sku).join(' and ')}: type which one.`);
    const binId = form.getValues('binId');
    const counted = withScanned(form.getValues('entries'), binId, { itemId: item.itemId, lotId: item.lotId, quantity: read.quantity ?? item.factor });
    form.setValue('entries', counted.entries, { shouldDirty: true });
    const where = data?.rows.find(({ id }) => id === binId)?.code;
    say(`${quantity(counted.total)} of ${item.sku}${where === undefined ? '' : ` in ${where}`}.`);
    return true;
  };
}
