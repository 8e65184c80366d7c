import type { reference } from '@larder/contract/setup';
import type { ResponseOf } from '@larder/contract/endpoint';
import { lotMarks, lotNumber, lotPatternFault } from '@larder/core/making/lotNumber';
import { useWatch } from 'react-hook-form';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { useMeQuery } from '../../shared/me';
import { Decided } from './Decided';

interface MakingForm {
  makingDifference: number | null;
  lotPattern: string;
}
const { Field } = fieldsOf<MakingForm>();

/** When the cost of what is made is so far from its bill that who records it is asked, and how lots that are made are numbered. */
export function Making({ now: { makingDifference, lotPattern } }: { now: ResponseOf<typeof reference> }) {
  return (
    <Decided title="Making" came={{ makingDifference, lotPattern }} said="How making goes is kept.">
      <Field label="Ask when one costs this many per cent more or less than by its bill" name="makingDifference" read={wholeOrNone} />
      <p className="quiet">Who records the work is asked whether what was used and made is right, and can go on. With nothing here nobody is asked.</p>
      <Field label="Number lots that are made as" name="lotPattern" hint={(pattern) => lotPatternFault(pattern) ?? undefined} />
      <Sample />
    </Decided>
  );
}

/** How the next lot would be numbered, and what each mark stands for. */
function Sample() {
  const pattern = useWatch<MakingForm, 'lotPattern'>({ name: 'lotPattern' });
  const { data: me } = useMeQuery({});
  const sample = me && lotPatternFault(pattern) === null ? lotNumber(pattern, { day: me.company.today, order: 'WO-12', nth: 2 }) : null;
  return (
    <div className="quiet">
      {sample === null ? null : (
        <p>
          The second lot of WO-12 is <span className="code">{sample}</span> today. Who records it can type another.
        </p>
      )}
      <p>
        {Object.entries(lotMarks).map(([mark, meaning], index) => (
          <span key={mark}>
            {index === 0 ? '' : ', '}
            <span className="code">{`{${mark}}`}</span> {meaning}
          </span>
        ))}
        .
      </p>
    </div>
  );
}
