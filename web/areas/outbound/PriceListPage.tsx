import Button from '@mui/material/Button';
import type { PriceList } from '@larder/contract/prices';
import { useNavigate, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf, ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Refused, Saved, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { ExportButton } from '../../shared/ExportButton';
import { Clashes } from '../../shared/Clashes';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useCreatePriceListMutation, useEditPriceListMutation, usePriceListQuery, useRetirePriceListMutation } from './api';
import { priceForm, priceRowKey, sentPrices, type PriceForm } from './priceForm';
import { PriceRows } from './PriceRows';

const { Check, Field } = fieldsOf<PriceForm>();
const names = { name: 'the name', forAll: 'whom it is for', rows: 'the same prices' };

/** A price list: what its customers pay. `new` adds one. */
export function PriceListPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const { currentData: data, error } = usePriceListQuery({ params: { id: Number(id) } }, { skip: isNew });
  useTitle(isNew ? 'New price list' : (data?.name ?? 'Price list'));
  if (!isNew && data?.id !== Number(id)) return <Waiting error={error} />;
  return <PriceSheet key={id} list={isNew ? null : (data as PriceList)} />;
}

function PriceSheet({ list }: { list: PriceList | null }) {
  const mayEdit = useMay('items.edit', null);
  const navigate = useNavigate();
  const say = useSay();
  const [create] = useCreatePriceListMutation();
  const [edit] = useEditPriceListMutation();
  const [retireList] = useRetirePriceListMutation();
  const form = useForm({
    came: priceForm(list),
    version: list?.version ?? null,
    rowKeys: { rows: priceRowKey },
    body: sentPrices,
    checkedBy: async () => (await import('@larder/contract/prices')).createPriceList.body,
  });
  const save = async () => {
    const saved = await form.send(async (body, typed, version) => {
      if (!list) return create({ body });
      const result = await edit({ params: { id: list.id }, body: { ...body, version } });
      if (result.data) form.kept(typed, result.data.version);
      return result;
    });
    if (!saved || list) return;
    say({ text: `${saved.name} is added.` });
    void navigate(`/outbound/prices/${saved.id}`, { replace: true });
  };
  const retire = async () => {
    if (!list) return;
    const done = await form.send((_body, _typed, version) => retireList({ params: { id: list.id }, body: { retired: !list.retired, version } }));
    if (done) say({ text: done.retired ? `${done.name} is retired.` : `${done.name} is in use again.` });
  };
  return (
    <FormFrame form={form} save={() => mayEdit && void save()}>
      <ReadOnly value={!mayEdit}>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>{list?.name ?? 'New price list'}</h1>
            {list ? (
              <span className="quiet">
                {list.forAll ? 'for everybody' : `${count(list.customers, 'customer')} buy${list.customers === 1 ? 's' : ''} by it`}
              </span>
            ) : null}
            {list?.retired ? <span className="late">retired</span> : null}
            <Saved on={form.isSaved} />
          </PageHead>
          <Refused error={form.refused} />
          {list ? <Clashes of={{ kind: 'price list', id: list.id }} writing={form} names={names} /> : null}
          <Card pad fields aria-label="List">
            <Field label="Name" name="name" autoFocus={list === null} />
            <Check label="For everybody whose own list says nothing else" name="forAll" />
          </Card>
          <PriceRows />
          <BottomBar
            hint="Prices are of one base unit; the largest quantity that is reached counts"
            next={mayEdit ? { label: list ? `Save ${list.name}` : 'Add the price list', run: () => void save(), disabled: form.isBusy } : undefined}
          >
            {list ? <ExportButton list="prices" only={{ priceListId: list.id }} /> : null}
            {mayEdit && list ? (
              <Button disabled={form.isBusy} onClick={() => void retire()}>
                {list.retired ? 'Take back into use' : 'Retire'}
              </Button>
            ) : null}
          </BottomBar>
        </Stack>
      </ReadOnly>
    </FormFrame>
  );
}
