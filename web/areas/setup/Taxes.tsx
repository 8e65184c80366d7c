import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Button from '@mui/material/Button';
import type { setupLists } from '@larder/contract/setupLists';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { shortDay } from '../../kit/format';
import { Card, Fields, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useAddTaxRateMutation, useCreateTaxMutation, useEditTaxMutation } from './api';
import { RowForm, Section } from './Section';
import { useRowForm } from './useRowForm';

type Row = ResponseOf<typeof setupLists>['taxes'][number];
interface TaxForm {
  code: string;
  name: string;
  rate: string;
}
interface RateForm {
  fromDay: string | null;
  rate: string;
  recoverable: string;
}
const { Field } = fieldsOf<TaxForm>();
const rate = fieldsOf<RateForm>();

/** Taxes on what is bought and sold, each with its rates by day. */
export function Taxes({ rows }: { rows: readonly Row[] }) {
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? '';
  return (
    <Section
      name="Taxes"
      one="tax"
      rows={rows}
      columns={[
        { name: 'Tax', cell: ({ name }) => <b>{name}</b>, text: ({ name }) => name },
        { name: 'Code', cell: ({ code }) => <span className="code quiet">{code}</span> },
        { name: 'Rate', number: true, cell: ({ rates }) => `${rates.find(({ fromDay }) => fromDay <= today)?.rate ?? '–'} %` },
      ]}
      form={(row, added) => (
        <Stack>
          <Tax row={row} added={added} />
          {row === null ? null : <Rates row={row} today={today} />}
        </Stack>
      )}
    />
  );
}

function Tax({ row, added }: { row: Row | null; added: () => void }) {
  const [create] = useCreateTaxMutation();
  const [edit] = useEditTaxMutation();
  const given = useRowForm({
    list: 'taxes',
    row,
    came: { code: row?.code ?? '', name: row?.name ?? '', rate: row?.rates[0]?.rate ?? '' },
    body: (typed: TaxForm) => typed,
    checkedBy: async () => (await import('@larder/contract/setupLists')).createTax.body,
    send: (body) => (row ? edit({ params: { id: row.id }, body }) : create({ body })),
    said: ({ name }) => (row ? `${name} is saved.` : `${name} is added.`),
    added,
  });
  return (
    <RowForm one="tax" name={row?.name ?? null} {...given}>
      <Field label="Name" name="name" autoFocus={row === null} />
      <Field label="Code" name="code" />
      {row === null ? <Field label="Rate, per cent" name="rate" /> : null}
    </RowForm>
  );
}

/** The rates of a tax, newest first, and the next one: it begins on a day to come. */
function Rates({ row, today }: { row: Row; today: string }) {
  const may = useMay('setup.edit', null);
  const say = useSay();
  const [add] = useAddTaxRateMutation();
  const form = useForm({
    came: { fromDay: null, rate: '', recoverable: '100' },
    body: ({ fromDay, ...typed }: RateForm) => ({ ...typed, fromDay: fromDay ?? '' }),
    checkedBy: async () => (await import('@larder/contract/setupLists')).addTaxRate.body,
  });
  const keep = async () => {
    const kept = await form.send((body) => add({ params: { id: row.id }, body }));
    if (!kept) return;
    say({ text: `${row.name} has another rate.` });
    form.reset();
  };
  return (
    <Card aria-label="Rates">
      <h2>Rates</h2>
      <Table>
        <TableHead>
          <TableRow>
            <TableCell>From</TableCell>
            <TableCell align="right">Rate</TableCell>
            <TableCell align="right">Reclaimed</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {row.rates.map(({ fromDay, rate: percent, recoverable }) => (
            <TableRow key={fromDay}>
              <TableCell>{fromDay < '2001-01-01' ? 'the beginning' : shortDay(fromDay, today)}</TableCell>
              <TableCell align="right">{percent} %</TableCell>
              <TableCell align="right">{recoverable} %</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {may ? (
        <FormFrame form={form} save={() => void keep()}>
          <Stack pad>
            <Refused error={form.refused} />
            <Fields>
              <rate.Day label="Another rate from" name="fromDay" today={today} />
              <rate.Field label="Rate, per cent" name="rate" />
              <rate.Field label="Part reclaimed, per cent" name="recoverable" />
            </Fields>
            <span>
              <Button disabled={form.isBusy} onClick={() => void keep()}>
                Add the rate
              </Button>
            </span>
          </Stack>
        </FormFrame>
      ) : null}
    </Card>
  );
}
