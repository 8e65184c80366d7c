import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { Right } from '@larder/contract/rights';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { Fields, inRow } from '../../kit/layout';
import { mayIn } from '../../shared/rightsInWords';

/** A role given to somebody; at all sites where none is named. */
export interface RoleForm {
  roleId: number | null;
  siteId: number | null;
}
interface RolesForm {
  roles: RoleForm[];
}
const { Choice } = fieldsOf<RolesForm>();

interface RolesOfProps {
  roles: readonly { id: number; name: string; rights: readonly Right[] }[];
  sites: readonly { id: number; name: string; retired: boolean }[];
}

/** The roles of the person in the form around, each at a site or at all, and what each lets them do. */
export function RolesOf({ roles, sites }: RolesOfProps) {
  const { control } = useFormContext<RolesForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'roles' });
  const given = useWatch({ control, name: 'roles' });
  const siteOptions = (siteId: number | null | undefined) =>
    sites.filter(({ id, retired }) => !retired || id === siteId).map(({ id, name }) => ({ value: String(id), label: name }));
  return (
    <>
      {fields.map(({ id }, index) => {
        const role = roles.find((each) => each.id === given[index]?.roleId);
        return (
          <div key={id}>
            <Fields sx={inRow('1fr 1fr auto')}>
              <Choice
                label="Role"
                name={`roles.${index}.roleId`}
                ids
                none="Choose"
                options={roles.map(({ id: value, name }) => ({ value: String(value), label: name }))}
              />
              <Choice label="At" name={`roles.${index}.siteId`} ids none="all sites" options={siteOptions(given[index]?.siteId)} />
              <Box>
                <Button aria-label={`Remove role ${index + 1}`} disabled={fields.length === 1} onClick={() => remove(index)}>
                  Remove
                </Button>
              </Box>
            </Fields>
            {role ? <p className="quiet">May {mayIn(role.rights, given[index]?.siteId ?? null)}.</p> : null}
          </div>
        );
      })}
      <span>
        <Button size="small" onClick={() => append({ roleId: null, siteId: null }, { focusName: `roles.${fields.length}.roleId` })}>
          Add a role
        </Button>
      </span>
    </>
  );
}
