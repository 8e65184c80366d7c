import Button from '@mui/material/Button';
import { PageHead, Side, Split, Stack } from '../../kit/layout';
import { useNavigate } from 'react-router';
import type { LandedLine, OrderedCharge, Sheet } from '@larder/contract/landed';
import { sum } from '@larder/core/decimal';
import { BottomBar } from '../../kit/BottomBar';
import { problemOf } from '../../kit/problem';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { useWatch } from 'react-hook-form';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useDelayed } from '../../kit/delayed';
import { putInRow } from '../../kit/row';
import { money } from '../../kit/format';
import { Refused } from '../../kit/states';
import { Clashes } from '../../shared/Clashes';
import { useCreateSheetMutation, useEditSheetMutation, useForeseeSheetEditQuery, useForeseeSheetQuery, useUndoSheetMutation } from './api';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { ChargeCards } from './ChargeCards';
import { SheetTable } from './SheetTable';
import { chargeField, chargesOf, firstCharges, ready, sentSheet, workSheet, type ChargeDraft, type SheetDraft } from './sheetDraft';
import { SheetTotals } from './SheetTotals';

/** A worksheet as it is worked on: charges, shares, totals, and what posting it would do. */
export function Working({
  sheet,
  lines,
  ordered,
  movementIds,
  currency,
}: {
  sheet: Sheet | null;
  lines: readonly LandedLine[];
  /** Charges that the orders name; a new worksheet begins with them. */
  ordered: readonly OrderedCharge[];
  movementIds: readonly number[];
  currency: string;
}) {
  const navigate = useNavigate();
  const say = useSay();
  const form = useForm({
    came: { charges: sheet ? chargesOf(sheet) : firstCharges(ordered, currency) },
    version: sheet?.version ?? null,
    rowKeys: { charges: (charge) => (charge.id === undefined ? `new ${charge.name}` : String(charge.id)) },
    body: ({ charges: typed }: SheetDraft) => sentSheet(movementIds, sheet?.note ?? '', typed),
    checkedBy: async () => (await import('@larder/contract/landed')).createSheet.body,
    sentAs: chargeField,
  });
  const charges = useWatch({ control: form.control, name: 'charges' });
  const [create] = useCreateSheetMutation();
  const [edit] = useEditSheetMutation();
  const [undo] = useUndoSheetMutation();
  const worked = workSheet(lines, charges);
  const body = sentSheet(movementIds, sheet?.note ?? '', charges);
  const whole = charges.length > 0 && charges.every((charge, index) => ready(charge) && charge.name.trim() !== '' && worked.without[index]?.length === 0);
  const asked = useDelayed({ body, whole }, 300);
  const params = { id: sheet?.id ?? 0 };
  const onNew = useForeseeSheetQuery({ body: asked.body }, { skip: sheet !== null || !asked.whole });
  const onEdit = useForeseeSheetEditQuery(
    { params, body: { ...asked.body, version: sheet?.version ?? 1 } },
    { skip: sheet === null || sheet.undone || !asked.whole },
  );
  const { data: foreseen, error: unforeseen } = sheet ? onEdit : onNew;
  const save = async () => {
    const saved = await form.send(async (sent, typed, version) => {
      if (!sheet) return create({ body: sent });
      const result = await edit({ params, body: { ...sent, version } });
      if (result.data) form.kept(typed, version + 1);
      return result;
    });
    if (!saved) return;
    say({ text: sheet ? `The changes of ${sheet.number} are posted.` : 'The worksheet is posted.' });
    if (!sheet && saved.id) void navigate(`/books/landed/${saved.id}`, { replace: true });
  };
  const change = (index: number, part: Partial<ChargeDraft>) => putInRow(form.setValue, `charges.${index}`, part);
  const mayPost = useMay('books.bill');
  const locked = !mayPost || (sheet?.undone ?? false);
  return (
    <FormFrame form={form} save={() => whole && !locked && void save()} foreseen={whole ? problemOf(unforeseen) : null}>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>{sheet ? sheet.number : 'Landed cost'}</h1>
          <span className="quiet">
            {[...new Set(lines.map(({ supplier, orderNumber }) => `${supplier}${orderNumber ? ` ${orderNumber}` : ''}`))].join(', ')}
          </span>
          {sheet?.undone ? <Side className="late">undone</Side> : null}
        </PageHead>
        <Refused error={form.refused} />
        {sheet ? <Clashes of={{ kind: 'worksheet', id: sheet.id }} writing={form} names={{ charges: 'the same charges' }} /> : null}
        <ChargeCards currency={currency} without={worked.without} locked={locked} />
        <SheetTable worked={worked} charges={charges} change={change} locked={locked} />
        <Split even>
          <SheetTotals lines={lines} charges={charges} worked={worked} />
          <BookEffectPanel
            title={sheet ? 'What changing it will do' : 'What this will change'}
            effects={whole && !sheet?.undone ? foreseen : undefined}
            error={whole ? unforeseen : undefined}
            idle={sheet?.undone ? 'It was undone; nothing of it stands.' : 'Name each charge and its amount; what it does to stock and accounts stands here.'}
          />
        </Split>
        <BottomBar
          hint={locked ? 'Its shares, as they stand' : 'Untick a share to leave that line out of the charge'}
          next={
            locked
              ? undefined
              : {
                  label: sheet ? `Post the changes of ${sheet.number}` : `Post ${money(sum(worked.estimates).toFixed(2))} of charges`,
                  run: () => void save(),
                  disabled: form.isBusy || !whole,
                }
          }
        >
          {sheet && !locked ? (
            <Button disabled={form.isBusy} onClick={() => void form.send(() => undo({ params, body: {} }))}>
              Undo {sheet.number}
            </Button>
          ) : null}
        </BottomBar>
      </Stack>
    </FormFrame>
  );
}
