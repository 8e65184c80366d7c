import type { setupLists } from '@larder/contract/setupLists';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { OwnAccounts } from '../../shared/OwnAccounts';
import { useCreateCategoryMutation, useEditCategoryMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Row = ResponseOf<typeof setupLists>['categories'][number];
type CategoryForm = Pick<Row, 'name' | 'inventoryAccountId' | 'costAccountId' | 'salesAccountId'>;
const { Field } = fieldsOf<CategoryForm>();

/** Categories of items, each with accounts of its own where it needs them. */
export const Categories = ({ rows }: { rows: readonly Row[] }) => (
  <Section
    name="Categories"
    one="category"
    rows={rows}
    columns={[
      { name: 'Category', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
      { name: 'Items', number: true, cell: ({ items }) => quantity(String(items), true) },
    ]}
    form={(row, added) => <Category row={row} added={added} />}
  />
);

function Category({ row, added }: { row: Row | null; added: () => void }) {
  const [create] = useCreateCategoryMutation();
  const [edit] = useEditCategoryMutation();
  const given = useRowForm({
    list: 'categories',
    row,
    came: {
      name: row?.name ?? '',
      inventoryAccountId: row?.inventoryAccountId ?? null,
      costAccountId: row?.costAccountId ?? null,
      salesAccountId: row?.salesAccountId ?? null,
    },
    body: (typed: CategoryForm) => typed,
    checkedBy: async () => (await import('@larder/contract/setup')).editCategory.body,
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body: { name: body.name } })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is added.`),
    added,
  });
  return (
    <RowForm one="category" name={row?.name ?? null} {...given}>
      <Field label="Name" name="name" autoFocus={row === null} />
      {row === null ? null : <OwnAccounts usual="As the books say" />}
    </RowForm>
  );
}
