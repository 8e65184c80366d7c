import Button from '@mui/material/Button';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { FieldValues } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import type { Form } from '../../kit/form';
import { ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, Split, Stack } from '../../kit/layout';
import { ListTable, type Column } from '../../kit/ListTable';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';

interface Row {
  id: number | string;
  name: string;
  retired: boolean;
}

interface SectionProps<R extends Row> {
  /** What its rows are called, and one of them. */
  name: string;
  one: string;
  rows: readonly R[];
  columns: readonly Column<R>[];
  /** The form of a row, or of a new one; drawn anew for each. */
  form: (row: R | null, added: () => void) => ReactNode;
  /** Rows are as many as there are: none is added. */
  fixed?: boolean;
  children?: ReactNode;
}

const retiredColumn = { name: 'In use', cell: (row: Row) => (row.retired ? <span className="quiet">retired</span> : 'yes') };

/** One of the lists that a business is set up by: its rows, and beside them the one that is looked at, to be changed. */
export function Section<R extends Row>({ name, one, rows, columns, form, fixed = false, children }: SectionProps<R>) {
  const [selected, setSelected] = useState(fixed ? 0 : -1);
  const [made, setMade] = useState(0);
  const row = rows[selected] ?? null;
  const mayAdd = useMay('setup.edit', null) && !fixed;
  const key = row === null ? `new ${made}` : row.id;
  return (
    <Split>
      <Stack>
        <ListTable
          label={name}
          columns={[...columns, ...(rows.some(({ retired }) => retired) ? [retiredColumn] : [])]}
          rows={rows}
          keyOf={({ id }) => id}
          selected={selected}
          select={setSelected}
          open={() => undefined}
          empty={`No ${one} yet. Add the first one beside this list.`}
        />
        {mayAdd && row !== null ? (
          <span>
            <Button size="small" onClick={() => setSelected(-1)}>
              Add a {one}
            </Button>
          </span>
        ) : null}
        {children}
      </Stack>
      {row === null && !mayAdd ? null : <div key={key}>{form(row, () => setMade((many) => many + 1))}</div>}
    </Split>
  );
}

interface RowFormProps<F extends FieldValues, B> {
  /** What one row is called, and the name of this one; null for a new one. */
  one: string;
  name: string | null;
  form: Form<F, B>;
  save: () => void;
  /** Retires it, or takes it back; left out where it cannot be. */
  retire?: { retired: boolean; run: () => void } | undefined;
  /** Whoever may change it. */
  may: boolean;
  children: ReactNode;
}

/** The form of one row of a list. */
export function RowForm<F extends FieldValues, B>({ one, name, form, save, retire, may, children }: RowFormProps<F, B>) {
  const title = name === null ? `New ${one}` : name;
  return (
    <FormFrame form={form} save={() => may && save()}>
      <ReadOnly value={!may}>
        <Card aria-label={title}>
          <h2>{title}</h2>
          <Stack pad>
            <Refused error={form.refused} />
            {children}
          </Stack>
        </Card>
        <BottomBar
          hint={may ? 'Ctrl S saves as well' : 'Changed by those who may set up the business'}
          next={may ? { label: name === null ? `Add the ${one}` : `Save ${name}`, run: save, disabled: form.isBusy } : undefined}
        >
          <SetupWays />
          {may && retire ? (
            <Button disabled={form.isBusy} onClick={retire.run}>
              {retire.retired ? 'Take back into use' : 'Retire'}
            </Button>
          ) : null}
        </BottomBar>
      </ReadOnly>
    </FormFrame>
  );
}

/** Where else the business is set up. */
const SetupWays = () => (
  <>
    <Button component={Link} to="/import?kind=items">
      Import a file
    </Button>
    <Button component={Link} to="/post">
      Post room
    </Button>
  </>
);
