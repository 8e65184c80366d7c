import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { SalesOrder } from '@larder/contract/outbound';
import { decimal } from '@larder/core/decimal';
import { useMemo, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Fields, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useVersionOf } from '../../kit/row';
import { useScan } from '../../kit/scan';
import { Refused } from '../../kit/states';
import { Tabs } from '../../kit/Tabs';
import { useSay } from '../../shared/say';
import { usePackOrderMutation } from './api';
import {
  anotherParcel,
  benchRows,
  contentsInWords,
  looseIn,
  openParcels,
  packBody,
  packField,
  packingSites,
  packScan,
  parcelsOf,
  reckonedWeight,
  type BenchRow,
  type PackForm,
  type Packing,
} from './packForm';

const { Cell, Field } = fieldsOf<PackForm>();

interface PackSheetProps {
  order: SalesOrder;
  packing: Packing;
  mayShipFrom: (siteId: number) => boolean;
  done: () => void;
}

/** Packs what lies on the bench for an order, site by site where it lies at several. */
export function PackSheet({ order, packing, mayShipFrom, done }: PackSheetProps) {
  const sites = packingSites(packing).filter(({ siteId }) => mayShipFrom(siteId));
  const [chosen, setChosen] = useState<number | null>(null);
  const siteId = sites.some((one) => one.siteId === chosen) ? (chosen as number) : (sites[0]?.siteId ?? 0);
  return (
    <>
      {sites.length > 1 ? (
        <Tabs
          label="Site"
          options={sites.map((one) => [String(one.siteId), one.site] as const)}
          value={String(siteId)}
          onChange={(key) => setChosen(Number(key))}
        />
      ) : null}
      <SitePacking key={siteId} order={order} packing={packing} siteId={siteId} done={done} />
    </>
  );
}

const nameOf = ({ number }: { number: string }, index: number): string => (number === '' ? `Parcel ${index + 1}` : number);

/** The parcels of one site: one of them at a time, and beside it what is in all of them. A scan goes into the one that is open. */
function SitePacking({ order, packing, siteId, done }: Omit<PackSheetProps, 'mayShipFrom'> & { siteId: number }) {
  const rows = useMemo(() => benchRows(packing, siteId), [packing, siteId]);
  const [selected, setSelected] = useState(0);
  const [scanned, setScanned] = useState<string | null>(null);
  const [pack] = usePackOrderMutation();
  const say = useSay();
  const form = useForm({
    came: { parcels: parcelsOf(packing, siteId, rows) },
    version: useVersionOf(rows),
    body: (typed: PackForm) => packBody(typed, packing, siteId, rows),
    checkedBy: async () => (await import('@larder/contract/shipping')).packOrder.body,
    sentAs: packField,
    reveal: (field) => setSelected(Number(/^parcels\.(\d+)/.exec(field)?.[1] ?? selected)),
  });
  const { parcels } = useWatch({ control: form.control }) as PackForm;
  const at = Math.min(selected, parcels.length - 1);
  const put = (all: PackForm['parcels']) => form.setValue('parcels', all, { shouldDirty: true });
  useScan((code) => {
    // From the first scan on only what is scanned counts.
    const isFirst = scanned === null && !form.isTyped && openParcels(packing, siteId).length === 0;
    const before = form.getValues('parcels').map((one) => (isFirst ? { ...one, rows: one.rows.map(() => ({ quantity: '' })) } : one));
    const { said, ...found } = packScan(before, rows, code);
    const counted = ({ quantity: many }: { quantity: string }, index: number) =>
      found.row === index
        ? {
            quantity: decimal(many || 0)
              .plus(found.quantity)
              .toFixed(),
          }
        : { quantity: many };
    put(before.map((one, index) => (index === at ? { ...one, rows: one.rows.map(counted) } : one)));
    setScanned(found.row === null ? said : `${said} into ${nameOf(before[at] ?? { number: '' }, at)}`);
    return found.row === null ? 'refused' : true;
  });
  const add = () => {
    put([...parcels, anotherParcel(parcels, rows)]);
    setSelected(parcels.length);
  };
  const remove = () => {
    put(parcels.filter((_, index) => index !== at));
    setSelected(Math.max(0, at - 1));
  };
  const save = async () => {
    const packed = await form.send((body) => pack({ params: { id: order.id }, body }));
    if (!packed) return;
    say({ text: packed.parcels.length === 0 ? `Nothing of ${order.number} is packed.` : `Packed ${packed.parcels.map(({ number }) => number).join(', ')}.` });
    done();
  };
  const parcel = parcels[at];
  /** It was packed before. */
  const isKnown = parcel !== undefined && parcel.id !== null;
  return (
    <FormFrame form={form} save={() => void save()}>
      <Split>
        <Stack>
          {scanned === null ? null : <Notice role="status">{scanned}</Notice>}
          <Refused error={form.refused} />
          <span>
            <Tabs
              label="Parcels"
              options={parcels.map((one, index) => [String(index), nameOf(one, index)] as const)}
              value={String(at)}
              onChange={(key) => setSelected(Number(key))}
            />{' '}
            <Button size="small" onClick={add}>
              Another parcel
            </Button>
          </span>
          {parcel ? (
            <>
              <Contents key={at} at={at} rows={rows} parcels={parcels} name={nameOf(parcel, at)} />
              <Card pad aria-label="Weight and size">
                <Fields sx={{ gridTemplateColumns: 'repeat(auto-fit, minmax(110px, 1fr))' }}>
                  <Field label="Weight, kg" name={`parcels.${at}.weight`} placeholder={reckonedWeight(parcel, rows) ?? 'weigh it'} />
                  <Field label="Length, cm" name={`parcels.${at}.length`} read={wholeOrNone} />
                  <Field label="Width, cm" name={`parcels.${at}.width`} read={wholeOrNone} />
                  <Field label="Height, cm" name={`parcels.${at}.height`} read={wholeOrNone} />
                </Fields>
              </Card>
            </>
          ) : null}
        </Stack>
        <Summary parcels={parcels} rows={rows} />
        <BottomBar
          hint="Scan each piece into the parcel that is open, or type how many"
          next={{
            label: parcels.length === 0 ? 'Leave it unpacked' : `Pack ${count(parcels.length, 'parcel')}`,
            run: () => void save(),
            disabled: form.isBusy,
          }}
        >
          <Button onClick={done}>Back to the order</Button>
          {parcels.length > 1 || isKnown ? <Button onClick={remove}>{isKnown ? `Take ${parcel.number} apart` : 'Remove this parcel'}</Button> : null}
        </BottomBar>
      </Split>
    </FormFrame>
  );
}

interface ContentsProps {
  at: number;
  name: string;
  rows: readonly BenchRow[];
  parcels: PackForm['parcels'];
}

/** What of the bench goes into one parcel. */
const Contents = ({ at, name, rows, parcels }: ContentsProps) => (
  <Card component="div">
    <Table aria-label={`What is in ${name}`} className="floor">
      <TableHead>
        <TableRow>
          <TableCell>Item</TableCell>
          <TableCell align="right">On the bench</TableCell>
          <TableCell align="right">In no parcel</TableCell>
          <TableCell align="right">In this parcel</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map((row, index) => {
          const left = looseIn(parcels, row, index);
          return (
            <TableRow key={row.key}>
              <ItemCell of={row}>{row.lot === null ? null : <small className="quiet">{row.lot}</small>}</ItemCell>
              <TableCell align="right" className="quiet">
                <span className="phone-only">of </span>
                {quantity(row.quantity)}
              </TableCell>
              <TableCell align="right" className={Number(left) < 0 ? 'late' : 'quiet'}>
                {Number(left) === 0 ? '' : Number(left) < 0 ? `${quantity(left.slice(1))} too many` : quantity(left)}
                {Number(left) > 0 ? <span className="phone-only"> left</span> : null}
              </TableCell>
              <TableCell className="under" align="right">
                <Cell number tall label={`${row.sku}${row.lot === null ? '' : ` ${row.lot}`} in ${name}`} name={`parcels.${at}.rows.${index}.quantity`} />
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  </Card>
);

/** What is in all parcels, and what each weighs. */
function Summary({ parcels, rows }: { parcels: PackForm['parcels']; rows: readonly BenchRow[] }) {
  const left = rows.filter((row, index) => Number(looseIn(parcels, row, index)) > 0);
  return (
    <Card aria-label="Parcels">
      <h2>Parcels</h2>
      {parcels.map((parcel, index) => {
        const weight = parcel.weight.trim() === '' ? reckonedWeight(parcel, rows) : parcel.weight.trim();
        return (
          <p key={index} className="pad">
            <b>{nameOf(parcel, index)}</b> <span className="quiet">{weight === null ? 'not weighed' : `${weight} kg`}</span>
            <small className="name">{contentsInWords(parcel, rows) || 'nothing yet'}</small>
          </p>
        );
      })}
      {left.length > 0 ? <p className="pad quiet">{count(left.length, 'item')} on the bench in no parcel: that can go another time.</p> : null}
    </Card>
  );
}
