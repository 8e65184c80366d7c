import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { editBins } from '@larder/contract/setup';
import type { BodyOf } from '@larder/contract/endpoint';
import { useForm } from '../../kit/form';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, Fields, inRow, Stack } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useEditBinsMutation } from './api';
import { useSay } from '../../shared/say';

interface ChangeForm {
  zone: string;
  walkFrom: number | string | null;
}
const { Field } = fieldsOf<ChangeForm>();

interface ChangeBinsProps {
  /** In walking order. */
  chosen: readonly number[];
  /** Told once they are changed. */
  changed: () => void;
}

/** What can be changed of all chosen bins at once, each by a button of its own. */
export function ChangeBins({ chosen, changed }: ChangeBinsProps) {
  const [edit] = useEditBinsMutation();
  const say = useSay();
  const form = useForm({
    came: { zone: '', walkFrom: null },
    body: ({ zone, walkFrom }: ChangeForm) => ({ ids: [...chosen], zone, ...(walkFrom === null ? {} : { walkFrom: walkFrom as number }) }),
    checkedBy: async () => (await import('@larder/contract/setup')).editBins.body,
  });
  if (chosen.length === 0) return null;
  const change = async (partOf: (typed: BodyOf<typeof editBins>) => Omit<BodyOf<typeof editBins>, 'ids'>) => {
    const done = await form.send((body) => edit({ body: { ids: body.ids, ...partOf(body) } }));
    if (!done) return;
    say({ text: `${count(chosen.length, 'bin')} changed.` });
    form.reset();
    changed();
  };
  const ways = [
    ['For quarantine', { sellable: false }],
    ['For sale', { sellable: true }],
    ['Retire', { retired: true }],
    ['Take back', { retired: false }],
  ] as const;
  return (
    <FormFrame form={form} save={() => void change(({ ids: _ids, ...typed }) => typed)} fleeting>
      <Card aria-label="Change the chosen bins">
        <h2>Change {count(chosen.length, 'bin')}</h2>
        <Stack pad>
          <Refused error={form.refused} />
          <Fields sx={inRow('1fr auto')}>
            <Field label="Zone" name="zone" />
            <Button disabled={form.isBusy} onClick={() => void change(({ zone }) => ({ zone }))}>
              Set
            </Button>
            <Field label="First place in the walk" name="walkFrom" read={wholeOrNone} placeholder="1" />
            <Button disabled={form.isBusy} onClick={() => void change(({ walkFrom }) => ({ walkFrom: walkFrom ?? 1 }))}>
              Set
            </Button>
          </Fields>
          <Box component="span" sx={{ display: 'flex', flexWrap: 'wrap', gap: 8 }}>
            {ways.map(([name, part]) => (
              <Button key={name} size="small" disabled={form.isBusy} onClick={() => void change(() => part)}>
                {name}
              </Button>
            ))}
          </Box>
        </Stack>
      </Card>
    </FormFrame>
  );
}
