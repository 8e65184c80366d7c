import Button from '@mui/material/Button';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Link, useParams } from 'react-router';
import { isOwned, type PlaceKind } from '@larder/core/ledger/types';
import type { Lot } from '@larder/contract/lots';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf } from '../../kit/draft';
import { Field } from '../../kit/Field';
import { dueDay } from '../../kit/format';
import { Refused, Saved, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useWriting } from '../../kit/writing';
import { Clashes } from '../../shared/Clashes';
import { AttributeSheet } from '../../shared/AttributeSheet';
import { useMeQuery } from '../../shared/me';
import { LotLife, LotPlaces } from './LotLife';
import { TraceCards } from './TraceCards';
import { useEditLotMutation, useLotQuery, useTrailQuery } from './api';

/** A lot or a serial unit: where it is, its facts, and its whole life. */
export function LotPage() {
  const id = Number(useParams().id);
  const { data, error } = useLotQuery({ params: { id } });
  useTitle(data ? `${data.sku} ${data.code}` : 'Lot');
  if (!data) return <Waiting error={error} />;
  return <LotSheet key={data.id} lot={data} />;
}

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
  const came = { useBy, tag: lot.tag ?? '', condition, boughtOn, warrantyUntil, attributes };
  const writing = useWriting(came, lot.version, { attributes: ({ attributeId }) => String(attributeId) });
  const { form, put } = writing;
  const [edit, editing] = useEditLotMutation();
  const { refused, busy, at } = refusalOf(editing);
  const { data: life } = useTrailQuery({ query: { lotId: lot.id, limit: 200 } });
  const here = lot.places.filter(({ kind }) => isOwned(kind as PlaceKind));
  const bin = here.find(({ kind }) => kind === 'bin');
  const save = async () => {
    const { data } = await edit({ params: { id: lot.id }, body: { ...form, version: lot.version } });
    if (data) writing.kept(form, data.version);
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1 className="code">{lot.code}</h1>
          <Link to={`/items/${lot.itemId}`}>
            {lot.kind === 'serial' ? 'serial of' : 'lot of'} <span className="code">{lot.sku}</span> {lot.name}
          </Link>
          {lot.useBy ? <span className={lot.useBy < today ? 'late' : 'quiet'}>use by {dueDay(lot.useBy, today)}</span> : null}
          <Saved on={writing.isSaved} />
        </PageHead>
        <Refused error={refused} />
        <Clashes of={{ kind: 'lot', id: lot.id }} writing={writing} names={names} />
        <Card aria-label="Here">
          <h2>Here</h2>
          {here.length === 0 ? <p className="pad quiet">None of it is here any more.</p> : null}
          <LotPlaces places={here} />
        </Card>
        <TraceCards lotId={lot.id} today={today} sendBack={bin ? `item=${lot.itemId}&lot=${lot.id}&bin=${bin.placeId}` : null} />
        <Card aria-label="Its life">
          <h2>Its life</h2>
          <LotLife rows={life?.rows ?? []} />
        </Card>
      </Stack>
      <Stack>
        <Card pad stack aria-label="Facts">
          {lot.kind === 'lot' ? <DayField label="Use by" value={form.useBy} today={today} onChange={(useBy) => put({ useBy })} error={at('useBy')} /> : null}
          {lot.kind === 'serial' ? (
            <>
              <Field label="Our tag" value={form.tag} onChange={(tag) => put({ tag })} error={at('tag')} />
              <Field label="Condition" value={form.condition} onChange={(condition) => put({ condition })} error={at('condition')} />
              <DayField label="Bought on" lies="behind" value={form.boughtOn} today={today} onChange={(boughtOn) => put({ boughtOn })} error={at('boughtOn')} />
              <DayField
                label="Warranty until"
                value={form.warrantyUntil}
                today={today}
                onChange={(warrantyUntil) => put({ warrantyUntil })}
                error={at('warrantyUntil')}
              />
            </>
          ) : null}
        </Card>
        {lot.kind === 'serial' ? <AttributeSheet subject="unit" values={form.attributes} change={(attributes) => put({ attributes })} errorAt={at} /> : null}
      </Stack>
      <BottomBar next={{ label: `Save ${lot.code}`, run: () => void save(), disabled: busy }}>
        <Button href={`/api/stock/lots/${lot.id}/trace/file`} download>
          Export who got it
        </Button>
        <Button component={Link} to={`/labels?lots=${lot.id}`}>
          Label
        </Button>
      </BottomBar>
    </Split>
  );
}
