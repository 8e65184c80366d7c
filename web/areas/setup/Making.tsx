import type { reference } from '@larder/contract/setup';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { Decided } from './Decided';

const { Field } = fieldsOf<{ makingDifference: number | null }>();

/** When the cost of what is made is so far from its bill that who records it is asked. */
export function Making({ now: { makingDifference } }: { now: ResponseOf<typeof reference> }) {
  return (
    <Decided title="Making" came={{ makingDifference }} said="When the cost of what is made is asked about is kept.">
      <Field label="Ask when one costs this many per cent more or less than by its bill" name="makingDifference" read={wholeOrNone} />
      <p className="quiet">Who records the work is asked whether what was used and made is right, and can go on. With nothing here nobody is asked.</p>
    </Decided>
  );
}
