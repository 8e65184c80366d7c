import type { CorrectionForm } from '@larder/contract/stock';
import { Tabs } from '../../kit/Tabs';

const ways = [
  ['there-are-now', 'There are now'],
  ['plus-or-minus', 'Plus or minus'],
] as const;

/** Whether what there is, or the difference, is typed. */
export const CorrectionWay = ({ way, setWay }: { way: CorrectionForm['way']; setWay: (way: CorrectionForm['way']) => void }) => (
  <Tabs label="How the quantity is given" options={ways} value={way} onChange={setWay} />
);
