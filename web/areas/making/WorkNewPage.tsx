import Button from '@mui/material/Button';
import { addDays } from '@larder/core/day';
import { isNumber } from '@larder/core/number';
import { useState } from 'react';
import { useController, useWatch } from 'react-hook-form';
import { useNavigate, useSearchParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { sentenceIn, useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useItemQuery } from '../../shared/items';
import { LineEntry } from '../../shared/LineEntry';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { useSitesSeen } from '../../shared/sitesSeen';
import { useCreateWorkOrderMutation, useForeseeWorkOrderQuery, useWorkProposalQuery } from './api';
import { typedParts, workBody, workField, workRowKeys, type WorkDraft } from './workForm';
import { ProposedParts, WorkParts } from './WorkParts';

const { Choice, Day, Field, LongField } = fieldsOf<WorkDraft>();

/** Plans to make something: of what its bill says, or of other parts. */
export function WorkNewPage() {
  useTitle('Plan work');
  const [search] = useSearchParams();
  const { siteId } = useSite();
  const { data: me, error } = useMeQuery({});
  const sites = useSitesSeen();
  const itemId = Number(search.get('item')) || null;
  const { data: item, error: unknown } = useItemQuery({ params: { id: itemId ?? 0 } }, { skip: itemId === null });
  if (!me || sites.length === 0 || (itemId !== null && !item)) return <Waiting error={error ?? unknown} />;
  const today = me.company.today;
  const came: WorkDraft = {
    item: item ? { id: item.id, sku: item.sku, name: item.name } : null,
    siteId: Number(search.get('site')) || siteId || sites[0]?.id || null,
    quantity: search.get('many') ?? '1',
    startsOn: today,
    dueOn: search.get('due') ?? addDays(today, 3),
    steps: null,
    note: '',
    byBill: true,
    components: [],
    costs: [],
  };
  return <Sheet came={came} today={today} salesLineId={Number(search.get('line')) || null} />;
}

function Sheet({ came, today, salesLineId }: { came: WorkDraft; today: string; salesLineId: number | null }) {
  const navigate = useNavigate();
  const say = useSay();
  const sites = useSitesSeen();
  const [isReleased, setReleased] = useState(true);
  const [create] = useCreateWorkOrderMutation();
  const form = useForm({
    came,
    rowKeys: workRowKeys,
    body: (typed: WorkDraft) => workBody(typed, salesLineId, isReleased),
    checkedBy: async () => (await import('@larder/contract/workOrders')).createWorkOrder.body,
    sentAs: workField,
  });
  const typed = useWatch({ control: form.control }) as WorkDraft;
  const asked = useDelayed(workBody(typed, salesLineId, true), 300);
  const isWhole = typed.item !== null && typed.siteId !== null && isNumber(typed.quantity, 'quantity') && Number(typed.quantity) > 0;
  const query = { itemId: typed.item?.id ?? 0, siteId: typed.siteId ?? 0, quantity: asked.quantity };
  const { currentData: proposal } = useWorkProposalQuery({ query }, { skip: !isWhole });
  const { currentData, error } = useForeseeWorkOrderQuery({ body: asked }, { skip: !isWhole || asked.itemId === null });
  const post = async (release: boolean) => {
    setReleased(release);
    const sent = await form.send((body) => create({ body: { ...body, release } }));
    if (!sent) return;
    say({ text: `${sent.number ?? ''} is ${release ? 'released' : 'planned'}.` });
    void navigate(`/making/orders/${sent.id ?? ''}`, { replace: true });
  };
  const take = () => {
    const parts = proposal && proposal.bomId !== null ? typedParts(proposal) : { components: [], costs: [] };
    form.setValue('byBill', false, { shouldDirty: true });
    form.setValue('components', parts.components, { shouldDirty: true });
    form.setValue('costs', parts.costs, { shouldDirty: true });
  };
  return (
    <FormFrame form={form} save={() => void post(isReleased)} foreseen={isWhole ? problemOf(error) : null}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Plan work</h1>
            <span className="quiet">{salesLineId === null ? 'what is made, of what, and by when' : 'for a line of a sales order that is short'}</span>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad fields aria-label="Work order">
            <Made />
            <Field label="How many" name="quantity" />
            <Choice label="At" name="siteId" ids options={sites.map(({ id, name }) => ({ value: String(id), label: name }))} />
            <Day label="Starts" name="startsOn" today={today} needed proposed={today} />
            <Day label="Due" name="dueOn" today={today} needed proposed={addDays(today, 3)} />
          </Card>
          {typed.item === null ? null : !typed.byBill ? (
            <WorkParts />
          ) : proposal ? (
            proposal.bomId === null ? (
              <Card state component="p">
                No bill of {typed.item.sku} is in use.{' '}
                <Button size="small" onClick={take}>
                  Say what goes in
                </Button>
              </Card>
            ) : (
              <>
                <ProposedParts of={proposal} />
                <span>
                  <Button size="small" onClick={take}>
                    Change the parts for this order
                  </Button>
                </span>
              </>
            )
          ) : null}
          <Card pad stack aria-label="Note">
            <LongField label="Note" name="note" rows={2} />
          </Card>
        </Stack>
        <EffectPanel
          title="What releasing will change"
          effects={isWhole ? currentData?.effects : undefined}
          error={isWhole ? error : undefined}
          idle="Say what is made, and how many."
        />
        <BottomBar
          hint="Released, its parts are reserved"
          next={{
            label: `Plan and release${typed.item ? ` ${typed.quantity} ${typed.item.sku}` : ''}`,
            run: () => void post(true),
            disabled: form.isBusy || !isWhole,
          }}
        >
          <Button disabled={form.isBusy || !isWhole} onClick={() => void post(false)}>
            Plan only
          </Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}

/** What is made: found once, and another when it was the wrong one. */
function Made() {
  const { field, fieldState } = useController<WorkDraft, 'item'>({ name: 'item' });
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
        <LineEntry label="What is made" takesScans={false} autoFocus add={(found) => field.onChange({ id: found.id, sku: found.sku, name: found.name })} />
      )}
      {error ? <small className="late">{error}</small> : null}
    </Stack>
  );
}
