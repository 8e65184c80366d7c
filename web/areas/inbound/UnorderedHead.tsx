import { fieldsOf } from '../../kit/formFields';
import { Card } from '../../kit/layout';
import { useMeQuery } from '../../shared/me';
import { PartyField } from '../../shared/PartyField';
import { useBinsQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import type { UnorderedForm } from './unorderedForm';

const { Choice, Day, Field } = fieldsOf<UnorderedForm>();

/** Where goods without an order go, of whom they are, and when they came. */
export function UnorderedHead() {
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const { data: bins } = useBinsQuery({ query: { siteId } });
  return (
    <Card pad fields aria-label="Receipt">
      <Choice
        label="Into bin"
        name="binId"
        ids
        none="each item’s own"
        options={(bins?.rows ?? []).filter(({ retired }) => !retired).map(({ id, code, siteName }) => ({ value: String(id), label: `${code} (${siteName})` }))}
      />
      <PartyField as="supplier" label="From (or nobody)" name="supplier" />
      <Choice
        label="Paid already"
        name="paid"
        options={[
          { value: 'yes', label: 'yes, or nothing to pay' },
          { value: 'no', label: 'no, a bill will come' },
        ]}
      />
      <Field label="Packing note" name="packingNote" />
      {me ? <Day lies="behind" label="Came on, if not today" name="cameOn" today={me.company.today} /> : null}
    </Card>
  );
}
