import type { listPeople } from '@larder/contract/colleagues';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf } from '../../kit/formFields';
import { moment } from '../../kit/format';
import { Waiting } from '../../kit/states';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useAddPersonMutation, useEditPersonMutation, usePeopleQuery, useRetirePersonMutation } from './api';
import { RolesOf, type RoleForm } from './RolesOf';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Came = ResponseOf<typeof listPeople>;
type Row = Came['people'][number];
interface Site {
  id: number;
  name: string;
  retired: boolean;
}
interface PersonForm {
  name: string;
  email: string;
  password: string;
  roles: RoleForm[];
}
const { Field } = fieldsOf<PersonForm>();

/** Everybody who works here: how they sign in, and what they may do where. */
export function People({ sites }: { sites: readonly Site[] }) {
  const { data, error } = usePeopleQuery({});
  if (!data) return <Waiting error={error} />;
  const roleName = (id: number) => data.roles.find((role) => role.id === id)?.name ?? '';
  const siteName = (id: number) => sites.find((site) => site.id === id)?.name ?? '';
  const inWords = ({ roles }: Row) => roles.map(({ roleId, siteId }) => (siteId === null ? roleName(roleId) : `${roleName(roleId)} at ${siteName(siteId)}`));
  return (
    <Section
      name="People"
      one="person"
      rows={data.people}
      columns={[
        { name: 'Name', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
        { name: 'Mail address', cell: ({ email }) => email, wide: true },
        { name: 'Roles', cell: (row) => inWords(row).join(', ') },
        { name: 'Last here', cell: ({ lastSeenAt }) => (lastSeenAt === null ? '–' : moment(lastSeenAt)), wide: true },
      ]}
      form={(row, added) => <Person row={row} added={added} roles={data.roles} sites={sites} />}
    />
  );
}

function Person({ row, added, roles, sites }: { row: Row | null; added: () => void; roles: Came['roles']; sites: readonly Site[] }) {
  const { data: me } = useMeQuery({});
  const say = useSay();
  const [add] = useAddPersonMutation();
  const [edit] = useEditPersonMutation();
  const [retirePerson] = useRetirePersonMutation();
  const isMe = row !== null && row.id === me?.id;
  const { form, save, may } = useRowForm({
    row,
    came: { name: row?.name ?? '', email: row?.email ?? '', password: '', roles: row?.roles ?? [{ roleId: null, siteId: null }] },
    // Whoever is here already keeps their password when none is typed.
    body: ({ password, ...typed }: PersonForm) => ({ ...typed, password: row !== null && password === '' ? null : password }) as never,
    checkedBy: async () => {
      const { addPerson, editPerson } = await import('@larder/contract/colleagues');
      return row ? editPerson.body : addPerson.body;
    },
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : add({ body: body as never })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} can sign in now, with the password you gave.`),
    added,
  });
  const retire =
    row === null || isMe
      ? undefined
      : {
          retired: row.retired,
          run: () =>
            void form.send(async () => {
              const result = await retirePerson({ params: { id: row.id }, body: { retired: !row.retired } });
              if (!result.error) say({ text: row.retired ? `${row.name} may sign in again.` : `${row.name} cannot sign in any more.` });
              return result;
            }),
        };
  return (
    <RowForm one="person" name={row?.name ?? null} form={form} save={save} retire={retire} may={may}>
      <Field label="Name" name="name" autoFocus={row === null} />
      <Field label="Mail address" name="email" type="email" autoComplete="off" />
      {isMe ? null : (
        <Field
          label={row ? 'New password, when the old one is forgotten' : 'First password, at least 12 characters'}
          name="password"
          type="password"
          autoComplete="new-password"
        />
      )}
      <RolesOf roles={roles} sites={sites} />
    </RowForm>
  );
}
