import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import type { ItemRow } from '@larder/contract/catalog';
import { useWatch } from 'react-hook-form';
import { useForm } from '../kit/form';
import { fieldsOf } from '../kit/formFields';
import { FormFrame } from '../kit/FormFrame';
import { Stack } from '../kit/layout';
import { Refused } from '../kit/states';
import { useTeachCodeMutation } from './items';
import { LineEntry } from './LineEntry';
import { useSay } from './say';

interface TeachForm {
  item: ItemRow | null;
  unitId: number | null;
}
const { Choice } = fieldsOf<TeachForm>();

/** Teaches a code that nothing has to an item, for one of its units, on the spot. */
export function TeachCode({ code, close }: { code: string; close: (taught: boolean) => void }) {
  const [teach] = useTeachCodeMutation();
  const say = useSay();
  const form = useForm({
    came: { item: null as ItemRow | null, unitId: null as number | null },
    body: ({ unitId }: TeachForm) => ({ code, unitId }),
    checkedBy: async () => (await import('@larder/contract/catalog')).teachCode.body,
  });
  const item = useWatch({ control: form.control, name: 'item' });
  const asks = form.refused?.asks.includes('shared-barcode') ?? false;
  const learn = async () => {
    if (!item || !(await form.send((body) => teach({ params: { id: item.id }, body: { ...body, shared: asks } })))) return;
    say({ text: `${code} is known as ${item.sku} now.` });
    close(true);
  };
  return (
    <Dialog open onClose={() => close(false)}>
      <FormFrame form={form} save={() => void learn()} fleeting>
        <Stack pad sx={{ width: 440, minHeight: 300, alignContent: 'start' }}>
          <DialogTitle>
            Which item has the code <span className="code">{code}</span>?
          </DialogTitle>
          <Refused error={form.refused} />
          {asks ? <p>On both, a scan asks which is meant.</p> : null}
          {item ? (
            <p>
              <span className="code">{item.sku}</span> {item.name}{' '}
              <Button size="small" onClick={() => form.reset()}>
                Another
              </Button>
            </p>
          ) : (
            <LineEntry label="Item with this code" takesScans={false} add={(found) => form.setValue('item', found)} />
          )}
          {item && item.units.length > 0 ? (
            <Choice
              label="It is on"
              name="unitId"
              ids
              none={item.unit}
              options={item.units.map((unit) => ({ value: String(unit.unitId), label: `the ${unit.unit} of ${unit.factor}` }))}
            />
          ) : null}
          <Box component="span" sx={{ display: 'flex', gap: 8, justifyContent: 'flex-end' }}>
            <Button onClick={() => close(false)}>Leave it</Button>
            <Button variant="contained" disabled={!item || form.isBusy} onClick={() => void learn()}>
              {asks ? 'Keep it on both' : 'Teach it'}
            </Button>
          </Box>
        </Stack>
      </FormFrame>
    </Dialog>
  );
}
