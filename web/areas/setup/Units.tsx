import { steps, type setupLists } from '@larder/contract/setupLists';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { useCreateUnitMutation, useEditUnitMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Row = ResponseOf<typeof setupLists>['units'][number];
type UnitForm = Pick<Row, 'code' | 'name' | 'step'>;
const { Choice, Field } = fieldsOf<UnitForm>();

const stepNames = { '1': 'whole ones', '0.1': 'tenths', '0.01': 'hundredths', '0.001': 'thousandths', '0.0001': 'ten thousandths' };

/** Units of measure, each with the smallest part of it that is counted. */
export const Units = ({ rows }: { rows: readonly Row[] }) => (
  <Section
    name="Units"
    one="unit"
    rows={rows}
    columns={[
      { name: 'Code', cell: ({ code }) => <span className="code strong">{code}</span>, text: ({ code }) => code },
      { name: 'Unit', cell: ({ name }) => name },
      { name: 'Counted in', cell: ({ step }) => stepNames[step] },
      { name: 'Items', number: true, cell: ({ items }) => quantity(String(items), true) },
    ]}
    form={(row, added) => <Unit row={row} added={added} />}
  />
);

function Unit({ row, added }: { row: Row | null; added: () => void }) {
  const [create] = useCreateUnitMutation();
  const [edit] = useEditUnitMutation();
  const given = useRowForm({
    list: 'units',
    row,
    came: { code: row?.code ?? '', name: row?.name ?? '', step: row?.step ?? ('1' as const) },
    body: (typed: UnitForm) => typed,
    checkedBy: async () => (await import('@larder/contract/setupLists')).editUnit.body,
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is added.`),
    added,
  });
  return (
    <RowForm one="unit" name={row?.name ?? null} {...given}>
      <Field label="Code" name="code" placeholder="g" autoFocus={row === null} />
      <Field label="Written out" name="name" placeholder="gram" />
      <Choice label="Counted in" name="step" options={steps.map((value) => ({ value, label: stepNames[value] }))} />
    </RowForm>
  );
}
