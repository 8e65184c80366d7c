import type { setupLists } from '@larder/contract/setupLists';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { useEditNumberMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Number = ResponseOf<typeof setupLists>['numbers'][number];
interface NumberForm {
  prefix: string;
  next: number;
}
const { Field } = fieldsOf<NumberForm>();
const names = {
  'purchase order': 'Purchase orders',
  'sales order': 'Sales orders',
  bill: 'Bills',
  'landed cost': 'Landed cost worksheets',
  parcel: 'Parcels',
  shipment: 'Shipments',
  invoice: 'Invoices',
  'credit note': 'Credit notes',
  'customer return': 'Returns of customers',
  transfer: 'Transfers between sites',
  count: 'Counts',
  'work order': 'Work orders',
  loan: 'Loans',
};

/** How the numbers of documents begin, and the next one of each. */
export const Numbers = ({ rows }: { rows: readonly Number[] }) => (
  <Section
    name="Numbers"
    one="number"
    fixed
    rows={rows.map((row, index) => ({ ...row, id: index + 1, name: names[row.kind], retired: false }))}
    columns={[
      { name: 'Documents', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
      { name: 'Next number', cell: ({ prefix, next }) => <span className="code">{`${prefix}${next}`}</span> },
    ]}
    form={(row) => (row === null ? null : <Numbering row={row} />)}
  />
);

function Numbering({ row }: { row: Number & { id: number; name: string; retired: boolean } }) {
  const [edit] = useEditNumberMutation();
  const given = useRowForm({
    row,
    came: { prefix: row.prefix, next: row.next },
    body: (typed: NumberForm) => typed,
    checkedBy: async () => (await import('@larder/contract/setupLists')).editNumber.body,
    send: (body) => edit({ params: { kind: row.kind }, body }),
    said: ({ prefix, next }) => `${row.name} go on with ${prefix}${next}.`,
    added: () => undefined,
  });
  return (
    <RowForm one="number" name={row.name} {...given}>
      <Field label="Begins with" name="prefix" />
      <Field label="Next number" name="next" read={wholeOrNone} />
    </RowForm>
  );
}
