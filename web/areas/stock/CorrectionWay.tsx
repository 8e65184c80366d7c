import type { CorrectionForm } from '@larder/contract/stock';

/** Whether what there is, or the difference, is typed. */
export function CorrectionWay({ way, setWay }: { way: CorrectionForm['way']; setWay: (way: CorrectionForm['way']) => void }) {
  return (
    <span className="tabs" role="group" aria-label="How the quantity is given">
      <button type="button" aria-pressed={way === 'there-are-now'} onClick={() => setWay('there-are-now')}>
        There are now
      </button>
      <button type="button" aria-pressed={way === 'plus-or-minus'} onClick={() => setWay('plus-or-minus')}>
        Plus or minus
      </button>
    </span>
  );
}
