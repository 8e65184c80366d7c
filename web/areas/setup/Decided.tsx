import type { ReactNode } from 'react';
import type { editCompany } from '@larder/contract/setup';
import type { BodyOf } from '@larder/contract/endpoint';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, Stack } from '../../kit/layout';
import { useVersionOf } from '../../kit/row';
import { Refused } from '../../kit/states';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useEditCompanyMutation } from './api';

/** What the business has decided for everybody about one thing: its fields, kept together by who may. */
export function Decided({ title, came, said, children }: { title: string; came: BodyOf<typeof editCompany>; said: string; children: ReactNode }) {
  const may = useMay('setup.edit', null);
  const say = useSay();
  const [edit] = useEditCompanyMutation();
  const form = useForm({
    came,
    version: useVersionOf(came),
    body: (typed: BodyOf<typeof editCompany>) => typed,
    checkedBy: async () => (await import('@larder/contract/setup')).editCompany.body,
  });
  const save = async () => {
    const kept = await form.send(async (body, typed, version) => {
      const result = await edit({ body });
      if (result.data) form.kept(typed, version);
      return result;
    });
    if (kept) say({ text: said });
  };
  return (
    <FormFrame form={form} save={() => may && void save()}>
      <ReadOnly value={!may}>
        <Card aria-label={title}>
          <h2>{title}</h2>
          <Stack pad sx={{ maxWidth: 460 }}>
            <Refused error={form.refused} />
            {children}
          </Stack>
        </Card>
        <BottomBar next={may ? { label: `Save ${title.toLowerCase()}`, run: () => void save(), disabled: form.isBusy } : undefined} />
      </ReadOnly>
    </FormFrame>
  );
}
