import Button from '@mui/material/Button';
import type { HolderPage as Holder } from '@larder/contract/loans';
import { holderSorts, type HolderSort } from '@larder/core/stock/loans';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, PageHead, Side, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useEditHolderMutation, useHolderQuery } from './api';
import { BackSheet } from './BackSheet';
import { sortWords } from './HolderPicker';
import { whatOf } from './HoldersPage';
import { LoanLines } from './LoanLines';

/** A holder, with all that they have; it is taken back from here, of one loan or of several. */
export function HolderPage() {
  const { id = '' } = useParams();
  const { data, error } = useHolderQuery({ params: { id: Number(id) } });
  const { data: me } = useMeQuery({});
  useTitle(data?.name ?? 'Holder');
  if (!data || !me) return <Waiting error={error} />;
  return <Opened key={data.id} one={data} today={me.company.today} />;
}

function Opened({ one, today }: { one: Holder; today: string }) {
  const [mode, setMode] = useState<'look' | 'back' | 'change'>('look');
  const may = useMay('stock.lend');
  const look = () => setMode('look');
  return (
    <>
      <PageHead>
        <h1>{one.name}</h1>
        <span className="quiet">{[whatOf(one), one.email, one.phone].filter(Boolean).join(', ')}</span>
        <Link to="/stock/holders">Who holds what</Link>
        <Side>
          <a href={`/api/holders/${one.id}/paper`} target="_blank" rel="noreferrer">
            What they have as PDF
          </a>
        </Side>
      </PageHead>
      {mode === 'back' ? <BackSheet lines={one.lines} from={one.name} done={look} /> : null}
      {mode === 'change' ? <ChangeSheet one={one} done={look} /> : null}
      {mode === 'look' ? (
        <>
          {one.lines.length === 0 ? (
            <Card state component="p">
              {one.name} has nothing of yours.
            </Card>
          ) : (
            <LoanLines lines={one.lines} today={today} isOfOne={false} />
          )}
          <BottomBar next={may && one.lines.length > 0 ? { label: 'Take things back', run: () => setMode('back') } : undefined}>
            {may && one.sort !== null ? <Button onClick={() => setMode('change')}>Change</Button> : null}
          </BottomBar>
        </>
      ) : null}
    </>
  );
}

interface HolderDraft {
  name: string;
  sort: HolderSort;
  email: string;
  phone: string;
}
const { Choice, Field } = fieldsOf<HolderDraft>();

function ChangeSheet({ one, done }: { one: Holder; done: () => void }) {
  const say = useSay();
  const [edit] = useEditHolderMutation();
  const form = useForm({
    came: { name: one.name, sort: one.sort ?? 'person', email: one.email, phone: one.phone } as HolderDraft,
    version: one.version,
    body: (typed: HolderDraft) => ({ ...typed, version: one.version }),
    checkedBy: async () => (await import('@larder/contract/loans')).editHolder.body,
  });
  const save = async () => {
    const saved = await form.send((body, _, version) => edit({ params: { id: one.id }, body: { ...body, version } }));
    if (!saved) return;
    say({ text: `${saved.name} is changed.` });
    done();
  };
  return (
    <FormFrame form={form} save={() => void save()}>
      <Stack sx={{ maxWidth: 560 }}>
        <Refused error={form.refused} />
        <Card pad fields component="div">
          <Field label="Name" name="name" />
          <Choice label="What it is" name="sort" options={holderSorts.map((sort) => ({ value: sort, label: sortWords[sort] }))} />
          <Field label="Mail" name="email" />
          <Field label="Telephone" name="phone" />
        </Card>
      </Stack>
      <BottomBar next={{ label: `Save ${one.name}`, run: () => void save(), disabled: form.isBusy }}>
        <Button onClick={done}>Never mind</Button>
      </BottomBar>
    </FormFrame>
  );
}
