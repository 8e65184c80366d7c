import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Stack, Ways } from '../../kit/layout';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useDecideLevelsMutation } from './api';

const { Field } = fieldsOf<{ reason: string }>();

interface RefuseLevelsProps {
  rows: readonly { itemId: number; siteId: number; sku: string }[];
  close: (refused: boolean) => void;
}

/** Refuses suggestions, with why: the list says so, and asks again once the past says something else. */
export function RefuseLevels({ rows, close }: RefuseLevelsProps) {
  const say = useSay();
  const [decide] = useDecideLevelsMutation();
  const form = useForm({
    came: { reason: '' },
    body: ({ reason }) => ({ decision: 'refuse' as const, reason, rows: rows.map(({ itemId, siteId }) => ({ itemId, siteId })) }),
    checkedBy: async () => (await import('@larder/contract/levels')).decideLevels.body,
  });
  const what = rows.length === 1 ? `what is suggested for ${rows[0]?.sku ?? ''}` : count(rows.length, 'suggestion');
  const refuse = async () => {
    if (!(await form.send((body) => decide({ body })))) return;
    say({ text: `Refused ${what}.` });
    close(true);
  };
  return (
    <Dialog open onClose={() => close(false)}>
      <FormFrame form={form} fleeting save={() => void refuse()}>
        <Stack pad sx={{ width: 400 }}>
          <DialogTitle>Refuse {what}</DialogTitle>
          <Refused error={form.refused} />
          <p className="quiet">Levels stay as they are. It is asked again once the past says something else.</p>
          <Field label="Why" name="reason" autoFocus />
          <Ways>
            <Button variant="contained" disabled={form.isBusy} onClick={() => void refuse()}>
              Refuse
            </Button>
            <Button onClick={() => close(false)}>Keep it open</Button>
          </Ways>
        </Stack>
      </FormFrame>
    </Dialog>
  );
}
