import Button from '@mui/material/Button';
import { PageHead, Side, Split, Stack } from '../../kit/layout';
import { useNavigate } from 'react-router';
import type { LandedLine, OrderedCharge, Sheet } from '@larder/contract/landed';
import { sum } from '@larder/core/decimal';
import { BottomBar } from '../../kit/BottomBar';
import { problemOf } from '../../kit/problem';
import { refusalOf } from '../../kit/draft';
import { useDelayed } from '../../kit/delayed';
import { money } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useWriting } from '../../kit/writing';
import { Clashes } from '../../shared/Clashes';
import { useCreateSheetMutation, useEditSheetMutation, useForeseeSheetEditQuery, useForeseeSheetQuery, useUndoSheetMutation } from './api';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { ChargeCards } from './ChargeCards';
import { SheetTable } from './SheetTable';
import { chargesOf, firstCharges, ready, sentSheet, workSheet, type ChargeDraft } from './sheetDraft';
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
  const came = { charges: sheet ? chargesOf(sheet) : firstCharges(ordered, currency) };
  const writing = useWriting(came, sheet?.version ?? null, { charges: (charge) => (charge.id === undefined ? `new ${charge.name}` : String(charge.id)) });
  const { charges } = writing.form;
  const setCharges = (changed: ChargeDraft[]) => writing.put({ charges: changed });
  const [create, creating] = useCreateSheetMutation();
  const [edit, editing] = useEditSheetMutation();
  const [undo, undoing] = useUndoSheetMutation();
  const { refused, busy, problem } = refusalOf(creating, editing, undoing);
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
    if (sheet) {
      const { data } = await edit({ params, body: { ...body, version: sheet.version } });
      if (data) writing.kept(writing.form, sheet.version + 1);
      return;
    }
    const { data } = await create({ body });
    if (data?.id) void navigate(`/books/landed/${data.id}`, { replace: true });
  };
  const faults = [...(problem?.errors ?? []), ...(whole ? (problemOf(unforeseen)?.errors ?? []) : [])];
  const faultOf = (index: number, wanted: 'amount' | 'currency' | 'rate' | 'rest') =>
    faults.find(({ field }) => {
      const [list, at, name = ''] = field.split('.');
      return list === 'charges' && at === String(index) && (wanted === 'rest' ? !['amount', 'currency', 'rate'].includes(name) : name === wanted);
    })?.sentence;
  const change = (index: number, part: Partial<ChargeDraft>) => setCharges(charges.map((charge, one) => (one === index ? { ...charge, ...part } : charge)));
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>{sheet ? sheet.number : 'Landed cost'}</h1>
        <span className="quiet">{[...new Set(lines.map(({ supplier, orderNumber }) => `${supplier}${orderNumber ? ` ${orderNumber}` : ''}`))].join(', ')}</span>
        {sheet?.undone ? <Side className="late">undone</Side> : null}
      </PageHead>
      <Refused error={refused} />
      {sheet ? <Clashes of={{ kind: 'worksheet', id: sheet.id }} writing={writing} names={{ charges: 'the same charges' }} /> : null}
      <ChargeCards
        charges={charges}
        change={change}
        setCharges={setCharges}
        currency={currency}
        without={worked.without}
        faultOf={faultOf}
        locked={sheet?.undone ?? false}
      />
      <SheetTable worked={worked} charges={charges} change={change} locked={sheet?.undone ?? false} />
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
        hint="Untick a share to leave that line out of the charge"
        next={
          sheet?.undone
            ? undefined
            : {
                label: sheet ? `Post the changes of ${sheet.number}` : `Post ${money(sum(worked.estimates).toFixed(2))} of charges`,
                run: () => void save(),
                disabled: busy || !whole,
              }
        }
      >
        {sheet && !sheet.undone ? (
          <Button disabled={busy} onClick={() => void undo({ params, body: {} })}>
            Undo {sheet.number}
          </Button>
        ) : null}
      </BottomBar>
    </Stack>
  );
}
