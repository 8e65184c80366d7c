import type { Problem } from '@larder/contract/values';
import { Asking } from '../../kit/Asking';
import { Refused } from '../../kit/states';
import type { Decision } from './written';

/** What the server asks before it saves an item, or why it does not. */
export function ItemDoubts({ refused, save }: { refused: Problem | null; save: (part: Decision) => void }) {
  const asks = (what: string) => refused?.asks.includes(what) ?? false;
  if (!refused) return null;
  if (asks('shared-barcode'))
    return (
      <Asking
        question={`${refused.title} On both, a scan asks which is meant.`}
        answers={[{ label: 'Keep it on both', run: () => save({ sharedBarcodes: true }) }]}
      />
    );
  if (asks('odd-barcode'))
    return <Asking question={refused.title} answers={[{ label: 'Keep it as a code of our own', run: () => save({ oddBarcodes: true }) }]} />;
  if (asks('retired-in-use'))
    return <Asking question={refused.title} answers={[{ label: 'Retire it all the same', run: () => save({ retired: true, retiredInUse: true }) }]} />;
  return <Refused error={refused} />;
}
