import { fieldsOf } from '../../kit/formFields';
import { Card } from '../../kit/layout';
import { useExpenses } from '../../shared/accounts';
import { useMeQuery } from '../../shared/me';
import { useBinsQuery, useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { useWatch } from 'react-hook-form';
import type { CorrectionDraft } from './correctionForm';

const { Choice, Day, Field } = fieldsOf<CorrectionDraft>();

/** Why stock is put right, in which bin, when it happened, and what bears it: the account and tax of the reason, unless another is chosen. */
export function CorrectionHead() {
  const { siteId } = useSite();
  const { data: reference } = useReferenceQuery({});
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const { data: me } = useMeQuery({});
  const expenses = useExpenses();
  const reasonId = useWatch<CorrectionDraft, 'reasonId'>({ name: 'reasonId' });
  const reason = reference?.reasons.find(({ id }) => id === reasonId);
  const taxes = (reference?.taxes ?? []).filter(({ retired }) => !retired).map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }));
  const departments = (reference?.departments ?? []).filter(({ retired }) => !retired);
  return (
    <Card pad fields component="div">
      <Choice
        label="Reason"
        name="reasonId"
        ids
        none="Choose a reason"
        options={(reference?.reasons ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
      />
      <Choice
        label="In bin"
        name="binId"
        ids
        none="where each item lies"
        options={(bins?.rows ?? []).filter(({ retired }) => !retired).map(({ id, code, siteName }) => ({ value: String(id), label: `${code} (${siteName})` }))}
      />
      {departments.length > 0 ? (
        <Choice label="Department" name="departmentId" ids none="None" options={departments.map(({ id, name }) => ({ value: String(id), label: name }))} />
      ) : null}
      {expenses.length > 0 ? (
        <Choice
          label="Booked on"
          name="accountId"
          ids
          none={expenses.find(({ value }) => value === String(reason?.accountId))?.label ?? 'as the reason says'}
          options={expenses}
        />
      ) : null}
      {reason?.place === 'own-use' ? (
        <Choice
          label="Tax on own use"
          name="tax"
          none={taxes.find(({ value }) => value === String(reason.taxCodeId))?.label ?? 'None, as the reason says'}
          options={[
            ...(reason.taxCodeId === null ? [] : [{ value: 'none', label: 'None' }]),
            ...taxes.filter(({ value }) => value !== String(reason.taxCodeId)),
          ]}
        />
      ) : null}
      {me ? <Day lies="behind" label="Happened on, if not today" name="happenedOn" today={me.company.today} /> : null}
      <Field label="Note" name="note" />
    </Card>
  );
}
