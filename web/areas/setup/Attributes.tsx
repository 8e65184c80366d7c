import type { Attribute, AttributeForm } from '@larder/contract/attributes';
import { count } from '../../kit/format';
import { useAttributesQuery, useCreateAttributeMutation, useEditAttributeMutation } from '../../shared/items';
import { AttributeFields, kindNames, type AttributeDraft } from './AttributeFields';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

/** Facts of the business's own on items and serial units; a day can remind somebody. */
export function Attributes() {
  const { data } = useAttributesQuery({ query: { retired: 'with' } });
  return (
    <Section
      name="Own attributes"
      one="attribute"
      rows={data?.rows ?? []}
      columns={[
        { name: 'Attribute', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
        { name: 'Belongs to', cell: ({ subject }) => (subject === 'item' ? 'items' : 'serial units') },
        { name: 'Kind', cell: ({ kind, choices }) => `${kindNames[kind]}${kind === 'choice' ? `: ${choices.join(', ')}` : ''}` },
        { name: 'Reminds', wide: true, cell: reminderOf },
      ]}
      form={(row, added) => <AttributeRow row={row} added={added} />}
    />
  );
}

const reminderOf = ({ reminderDays }: Attribute): string =>
  reminderDays === null ? '' : reminderDays === 0 ? 'on the day' : `${count(Math.abs(reminderDays), 'day')} ${reminderDays < 0 ? 'before' : 'after'}`;

const draftOf = (row: Attribute | null): AttributeDraft => ({
  name: row?.name ?? '',
  subject: row?.subject ?? 'item',
  kind: row?.kind ?? 'text',
  choices: row?.choices.join(', ') ?? '',
  reminderDays: row?.reminderDays ?? null,
  reminderRoles: row?.reminderRoles[0] ?? null,
  reminderPeople: row?.reminderPeople ?? [],
});

/** What is sent of an attribute: only a day reminds, and only a choice has something to choose from. */
const sentOf = ({ choices, reminderRoles, ...typed }: AttributeDraft): AttributeForm => ({
  ...typed,
  choices:
    typed.kind === 'choice'
      ? choices
          .split(',')
          .map((one) => one.trim())
          .filter((one) => one !== '')
      : [],
  reminderDays: typed.kind === 'date' ? typed.reminderDays : null,
  reminderRoles: reminderRoles === null ? [] : [reminderRoles],
});

function AttributeRow({ row, added }: { row: Attribute | null; added: () => void }) {
  const [create] = useCreateAttributeMutation();
  const [edit] = useEditAttributeMutation();
  const given = useRowForm({
    list: 'attributes',
    row,
    came: draftOf(row),
    body: sentOf,
    checkedBy: async () => (await import('@larder/contract/attributes')).createAttribute.body,
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is added.`),
    added,
  });
  return (
    <RowForm one="attribute" name={row?.name ?? null} {...given}>
      <AttributeFields isNew={row === null} />
    </RowForm>
  );
}
