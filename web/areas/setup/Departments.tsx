import type { setupLists } from '@larder/contract/setupLists';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf } from '../../kit/formFields';
import { useCreateDepartmentMutation, useEditDepartmentMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Row = ResponseOf<typeof setupLists>['departments'][number];
type DepartmentForm = Pick<Row, 'code' | 'name'>;
const { Field } = fieldsOf<DepartmentForm>();

/** Who in the business costs are borne by. */
export const Departments = ({ rows }: { rows: readonly Row[] }) => (
  <Section
    name="Departments"
    one="department"
    rows={rows}
    columns={[
      { name: 'Department', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
      { name: 'Code', cell: ({ code }) => <span className="code quiet">{code}</span> },
    ]}
    form={(row, added) => <Department row={row} added={added} />}
  />
);

function Department({ row, added }: { row: Row | null; added: () => void }) {
  const [create] = useCreateDepartmentMutation();
  const [edit] = useEditDepartmentMutation();
  const given = useRowForm({
    list: 'departments',
    row,
    came: { code: row?.code ?? '', name: row?.name ?? '' },
    body: (typed: DepartmentForm) => typed,
    checkedBy: async () => (await import('@larder/contract/setupLists')).createDepartment.body,
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is added.`),
    added,
  });
  return (
    <RowForm one="department" name={row?.name ?? null} {...given}>
      <Field label="Name" name="name" placeholder="Workshop" autoFocus={row === null} />
      <Field label="Code" name="code" placeholder="WORK" />
    </RowForm>
  );
}
