import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { isNumber } from '@larder/core/number';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { quantity } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { useVersionOf } from '../../kit/row';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useItemQuery } from '../../shared/items';
import { LineEntry } from '../../shared/LineEntry';
import { useBinsQuery } from '../../shared/reference';
import { useSay } from '../../shared/say';
import { useItemStockQuery } from '../../shared/stock';
import { useApartProposalQuery, useForeseeApartQuery, useTakeApartMutation } from './api';
import { ApartCost } from './ApartCost';
import { apartBody, apartField, partRowKeys, partRows, placesAt, type ApartDraft } from './apartForm';
import { ApartParts } from './ApartParts';
import { MakingSite, useMakingSite } from './MakingSite';

const { Choice, Field } = fieldsOf<ApartDraft>();

/** Takes goods apart. What it is, and where, stands in the address, so that one comes here from where it lies. */
export function ApartPage() {
  useTitle('Take apart');
  const address = useAddress();
  const siteId = useMakingSite(address);
  const itemId = Number(address.get('item')) || null;
  const { currentData: item, error } = useItemQuery({ params: { id: itemId ?? 0 } }, { skip: itemId === null });
  if (siteId === undefined || (itemId !== null && !item)) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Take apart</h1>
        <span className="quiet">what it cost goes to its parts</span>
        <MakingSite address={address} />
      </PageHead>
      {item ? (
        <Sheet key={`${item.id} ${siteId}`} item={item} siteId={siteId} many={address.get('many') || '1'} another={() => address.put('item', '')} />
      ) : (
        <Card pad component="div">
          <LineEntry label="What is taken apart" takesScans={false} autoFocus add={(found) => address.put('item', String(found.id))} />
        </Card>
      )}
    </Stack>
  );
}

interface SheetProps {
  item: { id: number; sku: string; name: string };
  siteId: number;
  /** How many are proposed. */
  many: string;
  another: () => void;
}

function Sheet({ item, siteId, many, another }: SheetProps) {
  const say = useSay();
  const navigate = useNavigate();
  const [asksFor, setAsksFor] = useState(many);
  const { data: proposal, error: unknown } = useApartProposalQuery({ query: { itemId: item.id, siteId, quantity: asksFor } });
  const { data: stock } = useItemStockQuery({ params: { id: item.id }, query: { siteId } });
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const [takeApart] = useTakeApartMutation();
  const places = placesAt(stock, siteId);
  const parts = partRows(proposal);
  const form = useForm({
    came: { quantity: many, from: null, note: '', parts } as ApartDraft,
    version: useVersionOf(parts),
    rowKeys: partRowKeys,
    body: (typed: ApartDraft) => apartBody(typed, item.id, places),
    checkedBy: async () => (await import('@larder/contract/takingApart')).takeApart.body,
    sentAs: apartField,
  });
  const typed = useWatch({ control: form.control }) as ApartDraft;
  const asked = useDelayed(apartBody(typed, item.id, places), 300);
  // What the bill says follows how many.
  const isMany = isNumber(asked.quantity, 'quantity') && Number(asked.quantity) > 0;
  if (isMany && asked.quantity !== asksFor) setAsksFor(asked.quantity);
  const isWhole = isMany && asked.binId !== null && asked.parts.length > 0;
  const { currentData, error } = useForeseeApartQuery({ body: asked }, { skip: !isWhole });
  const post = async () => {
    const sent = await form.send((body) => takeApart({ body }));
    if (!sent) return;
    const what = `${quantity(asked.quantity)} ${item.sku}`;
    say({ text: `${what} taken apart: ${sent.number ?? ''}.`, undo: { movementId: sent.movementId, what: `taking ${what} apart` } });
    void navigate(`/making/orders/${sent.id ?? ''}`, { replace: true });
  };
  if (!proposal || !stock) return <Waiting error={unknown} />;
  return (
    <FormFrame form={form} save={() => void post()} foreseen={isWhole ? problemOf(error) : null}>
      <Split>
        <Stack>
          <Refused error={form.refused} />
          <Card pad fields component="div" aria-label="What is taken apart">
            <Box component="span" sx={{ gridColumn: '1 / -1' }}>
              Takes apart <span className="code strong">{item.sku}</span> {item.name}{' '}
              <Button size="small" onClick={another}>
                Another item
              </Button>
            </Box>
            <Field label="How many" name="quantity" />
            {places.length === 0 ? (
              <span className="late">None of it lies here.</span>
            ) : (
              <Choice
                label="From"
                name="from"
                options={places.map(({ key, words, quantity: there }) => ({ value: key, label: `${words}: ${quantity(there)}` }))}
              />
            )}
            <Field label="Note" name="note" />
          </Card>
          {proposal.bill === null ? (
            <p className="quiet">No bill of {item.sku} is in use: say what comes of it.</p>
          ) : (
            <p className="quiet">What bill {proposal.bill} says, without its waste. Correct what is missing or no good.</p>
          )}
          <ApartParts rows={typed.parts} bins={bins?.rows ?? []} outcome={isWhole ? currentData?.outcome : undefined} />
        </Stack>
        <Stack>
          {isWhole && currentData ? <ApartCost outcome={currentData.outcome} /> : null}
          <EffectPanel
            title="What this will change"
            effects={isWhole ? currentData?.effects : undefined}
            error={isWhole ? error : undefined}
            idle="Say how many are taken apart, and what comes of them."
          />
        </Stack>
        <BottomBar
          hint="What is missing is lost, to making variance"
          next={{ label: `Take ${quantity(typed.quantity)} ${item.sku} apart`, run: () => void post(), disabled: form.isBusy || places.length === 0 }}
        />
      </Split>
    </FormFrame>
  );
}
