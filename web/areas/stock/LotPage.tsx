import Button from '@mui/material/Button';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Link, useParams } from 'react-router';
import { isOwned, type PlaceKind } from '@larder/core/ledger/types';
import type { Lot } from '@larder/contract/lots';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf, ReadOnly } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { dueDay } from '../../kit/format';
import { Refused, Saved, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { Clashes } from '../../shared/Clashes';
import { AttributeSheet } from '../../shared/AttributeSheet';
import { May, useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { Reminders } from '../../shared/Reminders';
import { LotLife, LotPlaces } from './LotLife';
import { TraceCards } from './TraceCards';
import { useTrailQuery } from '../../shared/stock';
import { useEditLotMutation, useLotQuery } from './api';

/** A lot or a serial unit: where it is, its facts, and its whole life. */
export function LotPage() {
  const id = Number(useParams().id);
  const { data, error } = useLotQuery({ params: { id } });
  useTitle(data ? `${data.sku} ${data.code}` : 'Lot');
  if (!data) return <Waiting error={error} />;
  return <LotSheet key={data.id} lot={data} />;
}

type LotForm = Pick<Lot, 'useBy' | 'condition' | 'boughtOn' | 'warrantyUntil' | 'attributes'> & { tag: string };
const { Day, Field } = fieldsOf<LotForm>();

const names = {
  useBy: 'the use-by day',
  tag: 'our tag',
  condition: 'the condition',
  boughtOn: 'the day it was bought',
  warrantyUntil: 'the end of its warranty',
  attributes: 'the same attributes',
};

function LotSheet({ lot }: { lot: Lot }) {
  const { data: me } = useMeQuery({});
  const today = me?.company.today ?? '';
  const { useBy, condition, boughtOn, warrantyUntil, attributes } = lot;
  const mayEdit = useMay('items.edit', null);
  const form = useForm({
    came: { useBy, tag: lot.tag ?? '', condition, boughtOn, warrantyUntil, attributes },
    version: lot.version,
    rowKeys: { attributes: ({ attributeId }) => String(attributeId) },
    body: (typed: LotForm) => ({ ...typed, version: lot.version }),
    checkedBy: async () => (await import('@larder/contract/lots')).editLot.body,
  });
  const [edit] = useEditLotMutation();
  const { data: life } = useTrailQuery({ query: { lotId: lot.id, limit: 200 } });
  const here = lot.places.filter(({ kind }) => isOwned(kind as PlaceKind));
  const bin = here.find(({ kind }) => kind === 'bin');
  const save = () =>
    form.send(async (body, typed, version) => {
      const result = await edit({ params: { id: lot.id }, body: { ...body, version } });
      if (result.data) form.kept(typed, result.data.version);
      return result;
    });
  return (
    <FormFrame form={form} save={() => mayEdit && void save()}>
      <ReadOnly value={!mayEdit}>
        <Split>
          <Stack>
            <PageHead sx={{ margin: 0 }}>
              <h1 className="code">{lot.code}</h1>
              <Link to={`/items/${lot.itemId}`}>
                {lot.kind === 'serial' ? 'serial of' : 'lot of'} <span className="code">{lot.sku}</span> {lot.name}
              </Link>
              {lot.useBy ? <span className={lot.useBy < today ? 'late' : 'quiet'}>use by {dueDay(lot.useBy, today)}</span> : null}
              <Saved on={form.isSaved} />
            </PageHead>
            <Refused error={form.refused} />
            <Clashes of={{ kind: 'lot', id: lot.id }} writing={form} names={names} />
            <Card aria-label="Here">
              <h2>Here</h2>
              {here.length === 0 ? <p className="pad quiet">None of it is here any more.</p> : null}
              <LotPlaces places={here} />
            </Card>
            <TraceCards lot={lot} today={today} sendBack={bin ? `item=${lot.itemId}&lot=${lot.id}&bin=${bin.placeId}` : null} />
            <Card aria-label="Its life">
              <h2>Its life</h2>
              <LotLife rows={life?.rows ?? []} />
            </Card>
          </Stack>
          <Stack>
            <Card pad stack aria-label="Facts">
              {lot.kind === 'lot' ? <Day label="Use by" name="useBy" today={today} /> : null}
              {lot.kind === 'serial' ? (
                <>
                  <Field label="Our tag" name="tag" />
                  <Field label="Condition" name="condition" />
                  <Day label="Bought on" lies="behind" name="boughtOn" today={today} />
                  <Day label="Warranty until" name="warrantyUntil" today={today} />
                </>
              ) : null}
            </Card>
            {lot.kind === 'serial' ? <AttributeSheet subject="unit" /> : null}
            <Reminders of={{ lotId: lot.id }} today={today} />
          </Stack>
          <BottomBar next={mayEdit ? { label: `Save ${lot.code}`, run: () => void save(), disabled: form.isBusy } : undefined}>
            <May to="outbound.sell">
              <Button component={Link} to={`/stock/lots/${lot.id}/recall`}>
                Recall
              </Button>
            </May>
            <Button href={`/api/stock/lots/${lot.id}/trace/file`} download>
              Export who got it
            </Button>
            {bin && lot.kind === 'serial' ? (
              <May to="stock.lend">
                <Button component={Link} to={`/stock/loans/new?items=${lot.itemId}&lot=${lot.id}`}>
                  Lend it
                </Button>
              </May>
            ) : null}
            <Button component={Link} to={`/labels?lots=${lot.id}`}>
              Label
            </Button>
          </BottomBar>
        </Split>
      </ReadOnly>
    </FormFrame>
  );
}
