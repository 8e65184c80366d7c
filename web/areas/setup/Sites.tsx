import Button from '@mui/material/Button';
import type { setupLists } from '@larder/contract/setupLists';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Link } from 'react-router';
import { Check } from '../../kit/Check';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { problemOf } from '../../kit/problem';
import { useMay } from '../../shared/may';
import { useReferenceQuery } from '../../shared/reference';
import { useCreateSiteMutation, useEditCompanyMutation, useEditSiteMutation, useRetireSiteMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Row = ResponseOf<typeof setupLists>['sites'][number];
type SiteForm = Pick<Row, 'code' | 'name'>;
const { Field } = fieldsOf<SiteForm>();

/** The sites, where each is opened and retired, with the way to its bins. */
export const Sites = ({ rows }: { rows: readonly Row[] }) => (
  <Section
    name="Sites"
    one="site"
    rows={rows}
    columns={[
      { name: 'Code', cell: ({ code }) => <span className="code strong">{code}</span> },
      { name: 'Site', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
      { name: 'Bins', number: true, cell: ({ bins }) => quantity(String(bins), true) },
      {
        name: 'Where goods lie',
        cell: ({ id, name }) => (
          <Link className="figure" to={`/setup/bins?site=${id}`} aria-label={`Bins of ${name}`}>
            Bins
          </Link>
        ),
      },
    ]}
    form={(row, added) => <Site row={row} added={added} />}
  >
    <FreeElsewhere />
  </Section>
);

function Site({ row, added }: { row: Row | null; added: () => void }) {
  const [create] = useCreateSiteMutation();
  const [edit] = useEditSiteMutation();
  const [retireSite] = useRetireSiteMutation();
  const { form, save, may } = useRowForm({
    row,
    came: { code: row?.code ?? '', name: row?.name ?? '' },
    body: (typed: SiteForm) => typed,
    checkedBy: async () => (await import('@larder/contract/setup')).createSite.body,
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is open; make its bins next.`),
    added,
  });
  const retire = row
    ? { retired: row.retired, run: () => void form.send(() => retireSite({ params: { id: row.id }, body: { retired: !row.retired } })) }
    : undefined;
  return (
    <RowForm one="site" name={row?.name ?? null} form={form} save={save} retire={retire} may={may}>
      {row === null ? <p className="quiet">A site is a building or a van where stock lies.</p> : null}
      <Field label="Code" name="code" autoFocus={row === null} />
      <Field label="Name" name="name" />
      {row === null ? null : (
        <span>
          <Button size="small" component={Link} to={`/setup/bins?site=${row.id}`}>
            Bins of {row.name}
          </Button>
        </span>
      )}
    </RowForm>
  );
}

/** Whether whoever works at one site sees what is free at others. */
function FreeElsewhere() {
  const { data: reference } = useReferenceQuery({});
  const [editCompany, { isLoading, error }] = useEditCompanyMutation();
  const may = useMay('setup.edit', null);
  if (!reference || reference.sites.length < 2) return null;
  return (
    <Check
      label={
        <>
          People of one site see how much is free at the others
          {error ? (
            <span className="late" role="alert">
              {' '}
              {problemOf(error)?.title}
            </span>
          ) : null}
        </>
      }
      checked={reference.freeSeenElsewhere}
      disabled={!may || isLoading}
      onChange={(checked) => void editCompany({ body: { freeSeenElsewhere: checked } })}
    />
  );
}
