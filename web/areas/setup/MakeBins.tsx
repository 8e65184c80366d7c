import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Stack } from '../../kit/layout';
import { useWatch } from 'react-hook-form';
import { binCodes } from '@larder/core/setup/bins';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useSay } from '../../shared/say';
import { useCreateBinsMutation } from './api';

interface BinsForm {
  pattern: string;
  zone: string;
  use: 'sale' | 'quarantine';
}
const { Field, Choice } = fieldsOf<BinsForm>();
const none: BinsForm = { pattern: '', zone: '', use: 'sale' };

export function MakeBins({ siteId, taken }: { siteId: number; taken: readonly string[] }) {
  const [create] = useCreateBinsMutation();
  const say = useSay();
  const isFresh = (code: string) => !taken.includes(code.toLowerCase());
  const form = useForm({
    came: none,
    body: ({ pattern, zone, use }: BinsForm) => ({ siteId, codes: readPattern(pattern).codes.filter(isFresh), sellable: use === 'sale', zone }),
    checkedBy: async () => (await import('@larder/contract/setup')).createBins.body,
    sentAs: { codes: 'pattern' },
  });
  const { codes } = readPattern(useWatch({ control: form.control, name: 'pattern' }));
  const fresh = codes.filter(isFresh);
  const known = codes.length - fresh.length;
  const make = async () => {
    const made = await form.send((body) => create({ body }));
    if (!made) return;
    form.reset({ ...form.getValues(), pattern: '' });
    say({ text: `${count(fresh.length, 'bin')} made.` });
  };
  return (
    <FormFrame form={form} save={() => void make()}>
      <Card aria-label="Make bins">
        <h2>Make bins</h2>
        <Stack pad>
          {form.refused && form.refused.errors.length === 0 ? <Refused error={form.refused} /> : null}
          <Field label="Pattern" name="pattern" placeholder="B-{01..06}-{1..4}" hint={(pattern) => readPattern(pattern).fault} />
          <Field label="Zone" name="zone" placeholder="when the site has several" />
          <Choice
            label="For"
            name="use"
            options={[
              { value: 'sale', label: 'sale' },
              { value: 'quarantine', label: 'quarantine' },
            ]}
          />
          {codes.length > 0 ? (
            <Box component="p" className="code quiet" sx={{ whiteSpace: 'normal' }}>
              {codes.slice(0, 8).join(', ')}
              {codes.length > 8 ? ` … ${codes.at(-1) ?? ''}` : ''}
            </Box>
          ) : null}
          {known > 0 ? (
            <p className="quiet">{count(known, 'of them is there already and left as it is', 'of them are there already and left as they are')}.</p>
          ) : null}
          <Button disabled={form.isBusy || fresh.length === 0} onClick={() => void make()}>
            Make {count(fresh.length, 'bin')}
          </Button>
        </Stack>
      </Card>
    </FormFrame>
  );
}

function readPattern(pattern: string): { codes: string[]; fault: string | undefined } {
  try {
    return { codes: pattern.trim() === '' ? [] : binCodes(pattern), fault: undefined };
  } catch (error) {
    return { codes: [], fault: error instanceof RangeError ? error.message : 'This pattern cannot be read.' };
  }
}
