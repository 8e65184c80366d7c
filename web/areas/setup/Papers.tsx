import Button from '@mui/material/Button';
import type { Papers as PapersForm, getPapers } from '@larder/contract/papers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useState } from 'react';
import { BottomBar } from '../../kit/BottomBar';
import { base64Of } from '../../kit/base64';
import { DropFile } from '../../kit/DropFile';
import { useForm } from '../../kit/form';
import { fieldsOf, ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { useVersionOf } from '../../kit/row';
import { Refused, Waiting } from '../../kit/states';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useKeepLogoMutation, useKeepPapersMutation, usePapersQuery } from './api';

type Known = ResponseOf<typeof getPapers>;
const { Field, LongField } = fieldsOf<PapersForm>();

/** What stands on the papers of the business: where it is, how it is paid, its picture, and words of its own on each kind. */
export function Papers() {
  const { data, error } = usePapersQuery({});
  return data ? <PapersSheet now={data} /> : <Waiting error={error} />;
}

const nameOf = (kind: string): string => `${kind.charAt(0).toUpperCase()}${kind.slice(1)}`;

function PapersSheet({ now: { hasLogo, ...now } }: { now: Known }) {
  const may = useMay('setup.edit', null);
  const say = useSay();
  const [keep] = useKeepPapersMutation();
  const form = useForm({
    came: now,
    version: useVersionOf(now),
    rowKeys: { words: ({ kind }) => kind },
    body: (typed: PapersForm) => typed,
    checkedBy: async () => (await import('@larder/contract/papers')).keepPapers.body,
  });
  const save = async () => {
    const kept = await form.send(async (body, typed, version) => {
      const result = await keep({ body });
      if (result.data) form.kept(typed, version);
      return result;
    });
    if (kept) say({ text: 'What stands on papers is kept.' });
  };
  return (
    <FormFrame form={form} save={() => may && void save()}>
      <ReadOnly value={!may}>
        <Split>
          <Stack>
            <Refused error={form.refused} />
            <Card aria-label="The business">
              <h2>The business</h2>
              <Stack pad>
                <LongField label="Address of the business" name="address" rows={3} />
                <Field label="Tax number" name="taxNumber" />
                <LongField label="How invoices are paid" name="payTo" rows={2} />
              </Stack>
            </Card>
            {now.words.map(({ kind }, index) => (
              <Card key={kind} aria-label={nameOf(kind)}>
                <h2>{nameOf(kind)}</h2>
                <Stack pad>
                  <LongField label={`Above the lines of a ${kind}`} name={`words.${index}.opening`} rows={2} />
                  <LongField label={`Below the lines of a ${kind}`} name={`words.${index}.closing`} rows={2} />
                </Stack>
              </Card>
            ))}
          </Stack>
          <Logo has={hasLogo} may={may} />
          <BottomBar next={may ? { label: 'Save papers', run: () => void save(), disabled: form.isBusy } : undefined} />
        </Split>
      </ReadOnly>
    </FormFrame>
  );
}

const types = { 'image/png': ['.png'], 'image/jpeg': ['.jpg', '.jpeg'], 'image/webp': ['.webp'], 'image/gif': ['.gif'] };

const wanted = 'Give a PNG, JPEG, WebP or GIF of at most 10 MB.';

/** The picture on every paper. */
function Logo({ has, may }: { has: boolean; may: boolean }) {
  const say = useSay();
  const [keep, { error, isLoading }] = useKeepLogoMutation();
  const [times, setTimes] = useState(0);
  const [fault, setFault] = useState('');
  const put = async (base64: string | null) => {
    setFault('');
    if ((await keep({ body: { base64 } })).error) return;
    setTimes((n) => n + 1);
    say({ text: base64 === null ? 'Papers have no picture any more.' : 'The picture stands on every paper from now on.' });
  };
  const take = async (file: File) => (file.size > 10_000_000 ? setFault(wanted) : put(await base64Of(file)));
  const problem = problemOf(error);
  const said = fault || (problem?.errors[0]?.sentence ?? problem?.title);
  return (
    <Card aria-label="Picture">
      <h2>Picture</h2>
      <Stack pad>
        {said ? (
          <p className="late" role="alert">
            {said}
          </p>
        ) : null}
        {has ? <img src={`/api/setup/papers/logo?${times}`} alt="The picture on papers" width={166} /> : <p className="quiet">Papers have no picture yet.</p>}
        {may ? (
          <>
            <DropFile label="Picture for papers" choose="Choose a picture" accept={types} take={(file) => void take(file)} refuse={() => setFault(wanted)}>
              A PNG, JPEG, WebP or GIF; it is made small enough by itself.
            </DropFile>
            {has ? (
              <span>
                <Button size="small" disabled={isLoading} onClick={() => void put(null)}>
                  Remove the picture
                </Button>
              </span>
            ) : null}
          </>
        ) : null}
      </Stack>
    </Card>
  );
}
