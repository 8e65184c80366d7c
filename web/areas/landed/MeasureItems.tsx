import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Notice } from '../../kit/Notice';
import type { LandedLine } from '@larder/contract/landed';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Refused } from '../../kit/states';
import { useMeasureItemMutation } from './api';

interface MeasureForm {
  typed: string;
}
const { Cell } = fieldsOf<MeasureForm>();

interface MeasureItemsProps {
  what: 'weight' | 'volume';
  lines: readonly LandedLine[];
}

/** Asks for the weight or size of items that have none; it is kept on the item. */
export function MeasureItems({ what, lines }: MeasureItemsProps) {
  const items = [...new Map(lines.map((line) => [line.itemId, line])).values()];
  if (items.length === 0) return null;
  return (
    <Notice role="note">
      <span>{what === 'weight' ? 'What does one weigh?' : 'How large is one?'} It is kept on the item.</span>
      {items.map((item) => (
        <Measure key={item.itemId} what={what} item={item} />
      ))}
    </Notice>
  );
}

/** The three sides of a size as it is typed: "40 x 30 x 20". */
const sidesOf = (text: string): [string, string, string] => {
  const [length = '', width = '', height = ''] = text.split(/[x×*]/i).map((part) => part.trim());
  return [length, width, height];
};

function Measure({ what, item: { itemId, sku, name, unit } }: { what: MeasureItemsProps['what']; item: LandedLine }) {
  const [keep] = useMeasureItemMutation();
  const form = useForm({
    came: { typed: '' },
    body: ({ typed }: MeasureForm) => (what === 'weight' ? { itemId, weightKg: typed.trim() } : { itemId, sizeCm: sidesOf(typed) }),
    checkedBy: async () => (await import('@larder/contract/landed')).measureItem.body,
    sentAs: () => 'typed',
  });
  const save = () => void form.send((body) => keep({ body }));
  return (
    <FormFrame form={form} save={save}>
      <Refused error={form.refused} />
      <Box
        component="form"
        sx={{ display: 'flex', gap: 8, alignItems: 'center' }}
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <Box component="span" sx={{ flex: 1 }}>
          <span className="code">{sku}</span> {name}, {unit}
        </Box>
        <Cell
          width={160}
          label={`${what === 'weight' ? 'Weight' : 'Size'} of ${sku}`}
          placeholder={what === 'weight' ? 'kg' : 'cm x cm x cm'}
          name="typed"
          tall
        />
        <Button type="submit" size="small" disabled={form.isBusy}>
          Keep
        </Button>
      </Box>
    </FormFrame>
  );
}
