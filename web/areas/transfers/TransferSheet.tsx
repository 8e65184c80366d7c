import type { Transfer } from '@larder/contract/transfers';
import type { ReactNode } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { MenuButton } from '../../kit/MenuButton';
import { problemOf } from '../../kit/problem';
import { Refused } from '../../kit/states';
import { useCarriersQuery } from '../../shared/carriers';
import { useMayAt } from '../../shared/may';
import { useReferenceQuery } from '../../shared/reference';
import { useForeseeTransferChangeQuery, useForeseeTransferQuery, useTransferFiguresQuery } from './api';
import { TransferLines } from './TransferLines';
import { arrivesAfter, isGoing, quantityBy, rowKeys, transferBody, transferField, type Rule, type TransferBody, type TransferDraft } from './transferForm';

const { Choice, Day, Field, LongField } = fieldsOf<TransferDraft>();

interface TransferSheetProps<A> {
  /** Null for one that is new. */
  one: Transfer | null;
  came: TransferDraft;
  today: string;
  send: (body: TransferBody, version: number) => PromiseLike<{ data?: A | undefined; error?: unknown }>;
  done: (answer: A) => void;
  /** The way back. */
  children: ReactNode;
}

/** A transfer as it is written: from where to where, when and how, and what; seen before it is kept. */
export function TransferSheet<A>({ one, came, today, send, done, children }: TransferSheetProps<A>) {
  const { data: reference } = useReferenceQuery({});
  const { data: carriers } = useCarriersQuery({});
  const mayAt = useMayAt('stock.transfer');
  const form = useForm({
    came,
    version: one?.version ?? null,
    rowKeys,
    body: (typed: TransferDraft) => transferBody(typed),
    checkedBy: async () => (await import('@larder/contract/transfers')).createTransfer.body,
    sentAs: transferField,
  });
  const lines = useFieldArray({ control: form.control, name: 'lines' });
  const typed = useWatch({ control: form.control }) as TransferDraft;
  const going = typed.lines.filter(isGoing);
  const asked = useDelayed(transferBody(typed), 300);
  const whole = asked.lines.length > 0 && asked.fromSiteId !== null && asked.toSiteId !== null;
  const fresh = useForeseeTransferQuery({ body: asked }, { skip: !whole || one !== null });
  const changed = useForeseeTransferChangeQuery(
    { params: { id: one?.id ?? 0 }, body: { ...asked, version: one?.version ?? 1 } },
    { skip: one === null || !form.isTyped },
  );
  const { currentData, error } = one ? changed : fresh;
  const [fromSiteId, toSiteId] = [typed.fromSiteId ?? undefined, typed.toSiteId ?? undefined];
  const items = useDelayed([...new Set(typed.lines.map(({ itemId }) => itemId))].join(','), 150);
  const salesLines = typed.lines.flatMap(({ salesLineId }) => salesLineId ?? []).join(',');
  const { data: figures } = useTransferFiguresQuery({ query: { fromSiteId, toSiteId, items, salesLines } }, { skip: items === '' });
  const rows = figures?.rows ?? [];
  const figuresOf = ({ itemId, salesLineId }: TransferDraft['lines'][number]) =>
    rows.find((row) => row.itemId === itemId && row.salesLineId === salesLineId) ?? rows.find((row) => row.itemId === itemId);
  const fill = (rule: Rule) =>
    form.getValues('lines').forEach((line, index) => {
      const found = figuresOf(line);
      if (found) form.setValue(`lines.${index}.quantity`, quantityBy(rule, found), { shouldDirty: true });
    });
  const sites = (reference?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: name }));
  const nameOf = (id: number | null) => sites.find(({ value }) => value === String(id))?.label ?? 'there';
  const save = async () => {
    const answer = await form.send((_, now, version) => send(transferBody(now), version));
    if (answer) done(answer);
  };
  const mayHere = [typed.fromSiteId, typed.toSiteId].some((id) => id !== null && mayAt(id)) || typed.fromSiteId === null || typed.toSiteId === null;
  const may = !form.isBusy && mayHere && (one ? form.isTyped : going.length > 0);
  return (
    <FormFrame form={form} save={() => may && void save()} foreseen={whole ? problemOf(error) : null}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>{one ? `Change ${one.number}` : 'New transfer'}</h1>
            <span className="quiet">{one ? 'as far as it is not picked' : 'what is free where it comes from is reserved for it at once'}</span>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad fields aria-label="Transfer">
            <Choice
              label="From"
              name="fromSiteId"
              ids
              none="Choose a site"
              options={sites}
              disabled={one !== null}
              // Where there is only one other site it goes there.
              chosen={(id) => {
                const others = sites.filter(({ value }) => value !== id);
                if (others.length === 1) form.setValue('toSiteId', Number(others[0]?.value));
              }}
            />
            <Choice label="To" name="toSiteId" ids none="Choose a site" options={sites} disabled={one !== null} />
            <Day label="Send by" name="sendBy" today={today} needed proposed={today} />
            <Day label="Should arrive" name="expectedOn" today={today} proposed={arrivesAfter(typed.sendBy)} />
            <Choice
              label="Goes by"
              name="carrierId"
              ids
              none="Our own van"
              options={(carriers?.rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
            <Field label="Tracking" name="tracking" />
          </Card>
          <TransferLines
            ids={lines.fields.map(({ id }) => id)}
            figuresOf={figuresOf}
            append={lines.append}
            remove={lines.remove}
            autoFocus={came.lines.length === 0 && came.fromSiteId !== null && came.toSiteId !== null}
            ends={{ from: nameOf(typed.fromSiteId), to: nameOf(typed.toSiteId) }}
            beside={
              <MenuButton
                words="Fill all"
                label="Fill the quantity of all lines"
                ways={[
                  { words: 'All that is free there', run: () => fill('free') },
                  { words: 'What is short where it goes', run: () => fill('short') },
                  { words: 'Up to its level where it goes', run: () => fill('level') },
                ]}
              />
            }
          />
          <Card pad stack aria-label="Note">
            <LongField label="Note" name="note" rows={2} />
          </Card>
        </Stack>
        <EffectPanel
          title="What this will change"
          effects={whole ? currentData?.effects : undefined}
          error={whole ? error : undefined}
          idle="Say from where to where, and how many of what."
        />
        <BottomBar
          hint={mayHere ? undefined : 'One of the sites must be yours'}
          next={{ label: one ? `Save ${one.number}` : `Transfer ${count(going.length, 'line')}`, run: () => void save(), disabled: !may }}
        >
          {children}
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
