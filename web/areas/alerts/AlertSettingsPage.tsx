import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { alertKinds, alertWords, type AlertKind } from '@larder/core/planning/alerts';
import type { alertWishes } from '@larder/contract/alerts';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useWatch } from 'react-hook-form';
import { useSearchParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf, useField } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useVersionOf } from '../../kit/row';
import { Several } from '../../kit/Several';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useSitesSeen } from '../../shared/sitesSeen';
import { AlertWays } from './AlertWays';
import { useAlertWishesQuery, useSetAlertWishesMutation } from './api';

type Wishes = ResponseOf<typeof alertWishes>;
interface Row {
  kind: AlertKind;
  told: 'no' | 'at once' | 'round-up';
  byMail: boolean;
  siteIds: number[];
  categoryIds: number[];
}
interface Draft {
  rows: Row[];
  roundUpAt: string;
}
const { CellChoice, CellCheck, Field } = fieldsOf<Draft>();

const draftOf = ({ wishes, roundUpAt }: Wishes, stop: string | null): Draft => ({
  roundUpAt,
  rows: alertKinds.map((kind) => {
    const wish = wishes.find((one) => one.kind === kind);
    const told = wish === undefined || kind === stop ? 'no' : wish.how;
    return { kind, told, byMail: wish?.byMail ?? false, siteIds: wish?.siteIds ?? [], categoryIds: wish?.categoryIds ?? [] };
  }),
});
const orAll = (ids: number[]) => (ids.length === 0 ? null : ids);
const bodyOf = ({ rows, roundUpAt }: Draft) => ({
  roundUpAt,
  wishes: rows.flatMap(({ kind, told, byMail, siteIds, categoryIds }) =>
    told === 'no' ? [] : [{ kind, how: told, byMail, siteIds: orAll(siteIds), categoryIds: orAll(categoryIds) }],
  ),
});

const ways = [
  { value: 'no', label: 'no' },
  { value: 'at once', label: 'as it happens' },
  { value: 'round-up', label: 'in the round-up' },
];

/** What I am told: of which sites and categories, as it happens or in a round-up, on screen or by mail too. */
export function AlertSettingsPage() {
  useTitle('What I am told');
  const { data, error } = useAlertWishesQuery({});
  if (!data) return <Waiting error={error} />;
  return <Settings wishes={data} />;
}

function Settings({ wishes }: { wishes: Wishes }) {
  const say = useSay();
  const [asked] = useSearchParams();
  const stop = alertKinds.find((kind) => kind === asked.get('stop')) ?? null;
  const [set] = useSetAlertWishesMutation();
  const came = draftOf(wishes, null);
  const form = useForm({
    came,
    version: useVersionOf(came),
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/alerts')).setAlertWishes.body,
    sentAs: { roundUpAt: 'roundUpAt' },
  });
  const save = async () => {
    const kept = await form.send(async (body, typed, version) => {
      const result = await set({ body });
      if (result.data) form.kept(typed, version);
      return result;
    });
    if (kept) say({ text: 'What you are told is kept.' });
  };
  const stopIt = () => {
    form.setValue('rows', draftOf(wishes, stop).rows, { shouldDirty: true });
    void save();
  };
  const isOn = stop !== null && wishes.wishes.some(({ kind }) => kind === stop);
  return (
    <FormFrame form={form} save={() => void save()}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Alerts</h1>
          <AlertWays />
        </PageHead>
        <Refused error={form.refused} />
        {isOn && stop ? <Notice>You came to be told of “{alertWords[stop].name}” no more.</Notice> : null}
        <WithoutMail email={wishes.email} />
        <Card aria-label="What I am told">
          <Table>
            <TableHead>
              <TableRow>
                <TableCell>When</TableCell>
                <TableCell>I am told</TableCell>
                <TableCell>By mail too</TableCell>
                <TableCell>Of sites</TableCell>
                <TableCell>Of categories</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {alertKinds.map((kind, nth) => (
                <WishRow key={kind} kind={kind} nth={nth} />
              ))}
            </TableBody>
          </Table>
        </Card>
        <Card pad sx={{ maxWidth: 320 }} aria-label="Round-up">
          <Field label="Round-up at" name="roundUpAt" placeholder="07:30" />
        </Card>
        <BottomBar
          hint="On screen at once, or all that is so at one time of day"
          next={
            isOn && stop
              ? { label: `Stop ${alertWords[stop].name}`, run: stopIt }
              : { label: 'Save what I am told', run: () => void save(), disabled: form.isBusy }
          }
        />
      </Stack>
    </FormFrame>
  );
}

/** Whoever wants mail and has no address is told so at once. */
function WithoutMail({ email }: { email: string }) {
  const rows = useWatch<Draft, 'rows'>({ name: 'rows' });
  if (email !== '' || !rows.some(({ byMail, told }) => byMail && told !== 'no')) return null;
  return <Notice>You have no mail address here, so nothing can be mailed to you. Whoever sets the business up can give you one under Setup, People.</Notice>;
}

function WishRow({ kind, nth }: { kind: AlertKind; nth: number }) {
  const told = useWatch<Draft>({ name: `rows.${nth}.told` }) as Row['told'];
  const sites = useSitesSeen();
  const { data: reference } = useReferenceQuery({});
  const isOff = told === 'no';
  const { name, when } = alertWords[kind];
  return (
    <TableRow>
      <TableCell>
        <b>{name}</b>
        <small className="quiet name">{when}</small>
      </TableCell>
      <TableCell>
        <CellChoice label={`${name}: I am told`} name={`rows.${nth}.told`} options={ways} />
      </TableCell>
      <TableCell>{isOff ? null : <CellCheck label={`${name}: by mail too`} name={`rows.${nth}.byMail`} />}</TableCell>
      <TableCell sx={{ minWidth: 190 }}>{isOff ? null : <Some label={`${name}: sites`} name={`rows.${nth}.siteIds`} all={sites} />}</TableCell>
      <TableCell sx={{ minWidth: 190 }}>
        {isOff ? null : <Some label={`${name}: categories`} name={`rows.${nth}.categoryIds`} all={reference?.categories ?? []} />}
      </TableCell>
    </TableRow>
  );
}

/** Some of all; none chosen means all. */
function Some({ label, name, all }: { label: string; name: string; all: readonly { id: number; name: string }[] }) {
  const { value, onChange } = useField(name);
  const ids = value as number[];
  const options = all.map(({ id, name: called }) => ({ id: String(id), name: called }));
  return (
    <Several
      label={label}
      hideLabel
      placeholder={ids.length === 0 ? 'all' : ''}
      options={options}
      value={options.filter(({ id }) => ids.includes(Number(id)))}
      onChange={(chosen) => onChange(chosen.map(({ id }) => Number(id)))}
    />
  );
}
