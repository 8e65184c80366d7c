import { reasonPlaces, type setupLists } from '@larder/contract/setupLists';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf } from '../../kit/formFields';
import { useWatch } from 'react-hook-form';
import { useExpenses } from '../../shared/accounts';
import { useReferenceQuery } from '../../shared/reference';
import { useCreateReasonMutation, useEditReasonMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Row = ResponseOf<typeof setupLists>['reasons'][number];
type ReasonForm = Pick<Row, 'code' | 'name' | 'place' | 'accountId' | 'taxCodeId'>;
const { Choice, Field } = fieldsOf<ReasonForm>();

const uses = { 'found-or-lost': 'found or lost', scrap: 'spoiled and thrown away', 'own-use': 'used in the business', customer: 'brought back by customers' };

/** Why stock is corrected and why customers bring things back: what each reason is for, and on which account it is booked. */
export function Reasons({ rows }: { rows: readonly Row[] }) {
  const expenses = useExpenses();
  return (
    <Section
      name="Reasons"
      one="reason"
      rows={rows}
      columns={[
        { name: 'Reason', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
        { name: 'Code', cell: ({ code }) => <span className="code quiet">{code}</span> },
        { name: 'Goods were', cell: ({ place }) => uses[place] },
        { name: 'Booked on', wide: true, cell: ({ accountId }) => expenses.find(({ value }) => value === String(accountId))?.label ?? '' },
      ]}
      form={(row, added) => <Reason row={row} added={added} />}
    />
  );
}

function Reason({ row, added }: { row: Row | null; added: () => void }) {
  const [create] = useCreateReasonMutation();
  const [edit] = useEditReasonMutation();
  const expenses = useExpenses();
  const given = useRowForm({
    list: 'reasons',
    row,
    came: {
      code: row?.code ?? '',
      name: row?.name ?? '',
      place: row?.place ?? ('found-or-lost' as const),
      accountId: row?.accountId ?? 0,
      taxCodeId: row?.taxCodeId ?? null,
    },
    body: (typed: ReasonForm) => ({ ...typed, taxCodeId: typed.place === 'own-use' ? typed.taxCodeId : null }),
    checkedBy: async () => (await import('@larder/contract/setupLists')).createReason.body,
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is added.`),
    added,
  });
  return (
    <RowForm one="reason" name={row?.name ?? null} {...given}>
      <Field label="Name" name="name" autoFocus={row === null} />
      <Field label="Code" name="code" />
      <Choice label="Goods were" name="place" options={reasonPlaces.map((value) => ({ value, label: uses[value] }))} />
      <Choice label="Booked on account" name="accountId" ids none="Choose" options={expenses} />
      <OwnUseTax />
    </RowForm>
  );
}

/** Of what the business uses itself: which tax is due on it. */
function OwnUseTax() {
  const { data } = useReferenceQuery({});
  const place = useWatch<ReasonForm, 'place'>({ name: 'place' });
  const taxes = (data?.taxes ?? []).filter(({ retired }) => !retired);
  return place === 'own-use' ? (
    <Choice
      label="Tax due on it"
      name="taxCodeId"
      ids
      none="None"
      options={taxes.map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }))}
    />
  ) : null;
}
