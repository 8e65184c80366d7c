import Button from '@mui/material/Button';
import type { Bom } from '@larder/contract/making';
import { useController } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { sentenceIn, useForm } from '../../kit/form';
import { fieldsOf, ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Refused, Saved } from '../../kit/states';
import { Clashes } from '../../shared/Clashes';
import { LineEntry } from '../../shared/LineEntry';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useCreateBomMutation, useEditBomMutation, useRetireBomMutation } from './api';
import { BomCosts } from './BomCosts';
import { bomBody, bomField, bomRowKeys, namedItem, type BomDraft } from './bomForm';
import { BomPartRows } from './BomPartRows';
import { BomVersions } from './BomVersions';
import { ByProducts } from './ByProducts';
import { CostPanel } from './CostPanel';

const { Day, Field, LongField } = fieldsOf<BomDraft>();
const names = {
  name: 'the name of this version',
  startsOn: 'the day it holds from',
  makes: 'how many it is for',
  steps: 'the steps',
  note: 'the note',
  parts: 'the same part',
};

interface BomSheetProps {
  /** Null for one that is new. */
  bom: Bom | null;
  came: BomDraft;
  today: string;
}

/** A bill of materials as it is written, and what one costs by it. */
export function BomSheet({ bom, came, today }: BomSheetProps) {
  const may = useMay('making.write', null);
  const mayPlan = useMay('making.plan');
  const seesCost = useMay('costs.see');
  const navigate = useNavigate();
  const say = useSay();
  const [create] = useCreateBomMutation();
  const [edit] = useEditBomMutation();
  const [retireBom] = useRetireBomMutation();
  const form = useForm({
    came,
    version: bom?.version ?? null,
    rowKeys: bomRowKeys,
    body: bomBody,
    checkedBy: async () => (await import('@larder/contract/making')).createBom.body,
    sentAs: bomField,
  });
  const save = async () => {
    const saved = await form.send(async (body, typed, version) => {
      if (!bom) return create({ body });
      const result = await edit({ params: { id: bom.id }, body: { ...body, version } });
      if (result.data) form.kept(typed, result.data.version);
      return result;
    });
    if (!saved || bom) return;
    say({ text: `What ${saved.sku} is made of is written down.` });
    void navigate(`/making/boms/${saved.id}`, { replace: true });
  };
  const retire = async () => {
    if (!bom) return;
    const done = await form.send((_body, _typed, version) => retireBom({ params: { id: bom.id }, body: { retired: bom.state !== 'retired', version } }));
    if (done) say({ text: done.state === 'retired' ? `Version ${done.number} is retired.` : `Version ${done.number} is back.` });
  };
  return (
    <FormFrame form={form} save={() => may && void save()}>
      <ReadOnly value={!may}>
        <Split>
          <Stack>
            <PageHead sx={{ margin: 0 }}>
              <h1>{bom ? bom.sku : came.item ? `New version of ${came.item.sku}` : 'New bill of materials'}</h1>
              {bom ? <span className="quiet">{bom.name}</span> : null}
              {bom && bom.state !== 'in use' ? <span className={bom.state === 'retired' ? 'late' : 'quiet'}>{bom.state}</span> : null}
              <Saved on={form.isSaved} />
            </PageHead>
            <Refused error={form.refused} />
            {bom ? <Clashes of={{ kind: 'bill of materials', id: bom.id }} writing={form} names={names} /> : null}
            <Card pad fields aria-label="Bill of materials">
              {bom ? null : <Made />}
              <Field label="Parts are for so many" name="makes" />
              <Day label="In use from" name="startsOn" today={today} needed proposed={today} />
              <Field label="Name of this version" name="name" placeholder="the only one" />
            </Card>
            <BomPartRows autoFocus={bom === null && came.item !== null} />
            <BomCosts />
            <ByProducts />
            <Card pad stack aria-label="Steps and note">
              <LongField label="Steps, for the job sheet" name="steps" rows={4} />
              <LongField label="Note" name="note" rows={2} />
            </Card>
          </Stack>
          <Stack>
            {seesCost ? <CostPanel isNew={bom === null} /> : null}
            {bom ? <BomVersions bom={bom} today={today} /> : null}
          </Stack>
          <BottomBar
            hint="What was ordered to be made keeps the parts it was ordered with"
            next={may ? { label: bom ? `Save ${bom.sku}` : 'Add the bill of materials', run: () => void save(), disabled: form.isBusy } : undefined}
          >
            {bom ? (
              <>
                <Button component={Link} to={`/making/items/${bom.itemId}`}>
                  How many can be made
                </Button>
                {mayPlan ? (
                  <Button component={Link} to={`/making/orders/new?item=${bom.itemId}`}>
                    Plan work
                  </Button>
                ) : null}
                {may ? (
                  <>
                    <Button component={Link} to={`/making/boms/new?copy=${bom.id}`}>
                      New version
                    </Button>
                    <Button disabled={form.isBusy} onClick={() => void retire()}>
                      {bom.state === 'retired' ? 'Take back into use' : 'Retire'}
                    </Button>
                  </>
                ) : null}
              </>
            ) : null}
          </BottomBar>
        </Split>
      </ReadOnly>
    </FormFrame>
  );
}

/** What is made: found once, and another when it was the wrong one. */
function Made() {
  const { field, fieldState } = useController<BomDraft, 'item'>({ name: 'item' });
  const item = field.value;
  const error = sentenceIn(fieldState.error);
  return (
    <Stack sx={{ gap: 4, gridColumn: '1 / -1' }}>
      {item ? (
        <span>
          Makes <span className="code strong">{item.sku}</span> {item.name}{' '}
          <Button size="small" onClick={() => field.onChange(null)}>
            Another item
          </Button>
        </span>
      ) : (
        <LineEntry label="What is made" takesScans={false} autoFocus add={(found) => field.onChange(namedItem(found))} />
      )}
      {error ? <small className="late">{error}</small> : null}
    </Stack>
  );
}
