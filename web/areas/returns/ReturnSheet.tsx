import Button from '@mui/material/Button';
import type { CustomerReturn } from '@larder/contract/returns';
import { useState } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused } from '../../kit/states';
import { LineEntry } from '../../shared/LineEntry';
import { needsBin } from '@larder/core/outbound/comingBack';
import { useMay, useMayAt } from '../../shared/may';
import { PartyField } from '../../shared/PartyField';
import { useReferenceQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useCreateReturnMutation, useDiscardReturnMutation, useEditReturnMutation, useForeseeCustomerReturnQuery } from './api';
import { BackLines } from './BackLines';
import { HeldGoods } from './HeldGoods';
import { isBack, isSame, olderLine, returnBody, returnField, rowKeys, type ReturnDraft } from './returnForm';
import { useTaking } from './useTaking';

const { Choice, Day, Field, LongField } = fieldsOf<ReturnDraft>();

interface SheetProps {
  /** Null for one that is new. */
  one: CustomerReturn | null;
  came: ReturnDraft;
  today: string;
}

/** Goods that a customer brings back: found among what they have, with condition, bin and reason; seen before it is posted. */
export function ReturnSheet({ one, came, today }: SheetProps) {
  const navigate = useNavigate();
  const say = useSay();
  const address = useAddress();
  const [counted, setCounted] = useState(false);
  const [create] = useCreateReturnMutation();
  const [edit] = useEditReturnMutation();
  const [discard, discarding] = useDiscardReturnMutation();
  const { data: reference } = useReferenceQuery({});
  const mayAt = useMayAt('outbound.return');
  const mayOlder = useMay('outbound.return-older');
  const form = useForm({
    came,
    version: one?.version ?? null,
    rowKeys,
    body: (typed: ReturnDraft) => returnBody(typed, true, counted),
    checkedBy: async () => (await import('@larder/contract/returns')).createReturn.body,
    sentAs: returnField,
  });
  const lines = useFieldArray({ control: form.control, name: 'lines' });
  const typed = useWatch({ control: form.control }) as ReturnDraft;
  const taking = useTaking(form, lines);
  const back = typed.lines.filter(isBack);
  const asked = useDelayed(returnBody(typed, true, counted), 300);
  const ready =
    asked.lines.length > 0 &&
    asked.customerId > 0 &&
    asked.lines.every(({ reasonId, binId, condition }) => reasonId !== null && (binId !== null || !needsBin(condition)));
  const { currentData, error } = useForeseeCustomerReturnQuery({ body: asked }, { skip: !ready });
  const foreseen = ready ? problemOf(error) : null;
  const asking = !counted && [form.refused, foreseen].find((problem) => problem?.asks.includes('counted-since'));
  const send = async (receive: boolean) => {
    const made = await form.send((body, _, version) =>
      one ? edit({ params: { id: one.id }, body: { ...body, receive, version } }) : create({ body: { ...body, receive } }),
    );
    if (!made?.id) return;
    const number = made.number ?? '';
    say(
      receive
        ? { text: `${number}: ${count(back.length, 'line')} came back.`, undo: { movementId: made.movementId, what: number } }
        : { text: `${number} is written down; it waits for the goods.` },
    );
    void navigate(`/outbound/returns/${made.id}`, { replace: true });
  };
  const drop = async () => {
    if (!one || (await discard({ params: { id: one.id }, body: { version: one.version, discarded: true } })).error) return;
    say({ text: `${one.number} is discarded.` });
    void navigate('/outbound/returns');
  };
  const may = !form.isBusy && back.length > 0;
  return (
    <FormFrame form={form} save={() => may && void send(false)} foreseen={foreseen}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>{one ? `Return ${one.number}` : 'Goods come back'}</h1>
            <span className="quiet">{one ? 'expected; receive it when the goods are here' : 'what a customer brings back'}</span>
          </PageHead>
          {asking ? (
            <Asking question={asking.title} answers={[{ label: 'Take them all the same', run: () => setCounted(true) }]} />
          ) : (
            <Refused error={form.refused ?? problemOf(discarding.error)} />
          )}
          <Card pad fields aria-label="Return">
            <PartyField
              as="customer"
              label="Customer"
              name="customer"
              autoFocus={came.customer === null}
              // What another customer had is not theirs.
              chosen={(party) => party?.id !== came.customer?.id && lines.replace(form.getValues('lines').filter(({ salesLineId }) => salesLineId === null))}
            />
            <Choice
              label="Came back to"
              name="siteId"
              ids
              none="Choose a site"
              options={(reference?.sites ?? []).filter(({ id }) => mayAt(id)).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Day label="Came on" lies="behind" name="cameOn" today={today} needed proposed={today} />
            <Field label="Their number for it" name="reference" />
          </Card>
          {lines.fields.length > 0 ? <BackLines ids={lines.fields.map(({ id }) => id)} remove={lines.remove} /> : null}
          <HeldGoods
            customerId={typed.customer?.id}
            orderId={Number(address.get('order')) || undefined}
            itemId={Number(address.get('item')) || undefined}
            lotId={Number(address.get('lot')) || undefined}
            today={today}
            {...taking}
            isTaken={(held) => typed.lines.some((line) => isSame(line, held))}
          />
          {mayOlder ? (
            <Card pad stack aria-label="Sold before these records">
              <h2>Sold before these records</h2>
              <LineEntry
                label="Item sold before these records"
                takesScans={false}
                add={(item, quantity) =>
                  lines.append(olderLine(item, quantity, form.getValues('lines').at(-1)), { focusName: `lines.${lines.fields.length}.quantity` })
                }
              />
            </Card>
          ) : null}
          <Card pad aria-label="Note">
            <LongField label="Note" name="note" rows={2} />
          </Card>
        </Stack>
        <EffectPanel
          title="What this will change"
          effects={ready ? currentData?.effects : undefined}
          error={ready && !asking ? error : undefined}
          idle="Take what comes back from what they have, and say why. What is thrown away never comes into stock."
        />
        <BottomBar hint="Each scan takes one" next={{ label: `Take back ${count(back.length, 'line')}`, run: () => void send(true), disabled: !may }}>
          {one ? (
            <Button disabled={form.isBusy || discarding.isLoading} onClick={() => void drop()}>
              Discard
            </Button>
          ) : null}
          <Button disabled={!may} onClick={() => void send(false)}>
            {one ? 'Save' : 'Expect it later'}
          </Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
