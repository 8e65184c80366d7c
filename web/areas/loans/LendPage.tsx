import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { CanBeLent } from '@larder/contract/loans';
import { useMemo, useState } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { CellChoice } from '../../kit/CellField';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, quantity } from '../../kit/format';
import { ItemCell } from '../../kit/ItemCell';
import { Card, Choices, PageHead, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { problemOf } from '../../kit/problem';
import { useScan, type Heard } from '../../kit/scan';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useLazyReadCodeQuery } from '../../shared/items';
import { LineEntry } from '../../shared/LineEntry';
import { useMeQuery } from '../../shared/me';
import { useSay } from '../../shared/say';
import { useSite } from '../../shared/site';
import { useCanBeLentQuery, useForeseeLendQuery, useLendMutation } from './api';
import { HolderPicker } from './HolderPicker';
import { fromOneSite, isLent, lendBody, lendField, placeOf, quantityBy, withScanned, type LendDraft, type LendRow } from './loanForm';

const { Cell, Day, LongField } = fieldsOf<LendDraft>();
const idsOf = (text: string | null): number[] => (text ?? '').split(',').flatMap((id) => Number(id) || []);

/** Lends things to a holder: chosen elsewhere, by words or by scan, seen before it is done. */
export function LendPage() {
  useTitle('Lend things');
  const [search] = useSearchParams();
  const { siteId } = useSite();
  const { data: me, error } = useMeQuery({});
  // Only at first: what is on it is the page's from then on.
  const [chosen] = useState({ items: idsOf(search.get('items')), lotId: Number(search.get('lot')) || null });
  const { data, error: unknown } = useCanBeLentQuery({ query: { items: chosen.items.join(','), siteId } }, { skip: chosen.items.length === 0 });
  if (!me || (chosen.items.length > 0 && !data)) return <Waiting error={error ?? unknown} />;
  const rows = (data?.rows ?? []).map(({ itemId, sku, name }): LendRow => ({ itemId, sku, name, binId: null, lotId: chosen.lotId, quantity: '1' }));
  return <Sheet rows={rows} today={me.company.today} />;
}

function Sheet({ rows: came, today }: { rows: LendRow[]; today: string }) {
  const navigate = useNavigate();
  const say = useSay();
  const { siteId } = useSite();
  const [said, setSaid] = useState<string | null>(null);
  const [lend] = useLendMutation();
  const [readCode] = useLazyReadCodeQuery();
  const [items, setItems] = useState(() => came.map(({ itemId }) => itemId));
  const { data } = useCanBeLentQuery({ query: { items: [...new Set(items)].join(','), siteId } }, { skip: items.length === 0 });
  const found = useMemo(() => fromOneSite(data?.rows ?? []), [data]);
  const foundOf = (row: LendRow) => found.find(({ itemId }) => itemId === row.itemId);
  const form = useForm({
    came: { holder: null, dueOn: null, note: '', rows: came } as LendDraft,
    body: (now: LendDraft) => lendBody(now, found),
    checkedBy: async () => (await import('@larder/contract/loans')).lend.body,
    sentAs: lendField,
  });
  const lines = useFieldArray({ control: form.control, name: 'rows' });
  const typed = useWatch({ control: form.control }) as LendDraft;
  const asked = useDelayed(lendBody(typed, found), 300);
  const whole = asked.lines.length > 0 && asked.holderId !== null;
  const { currentData, error } = useForeseeLendQuery({ body: asked }, { skip: !whole });
  const lent = typed.rows.filter(isLent);
  const put = (rows: LendRow[]) => {
    form.setValue('rows', rows, { shouldDirty: true });
    setItems([...new Set(rows.map(({ itemId }) => itemId))]);
  };
  const refuse = (words: string): 'refused' => {
    setSaid(words);
    return 'refused';
  };
  const scan = async (code: string): Promise<Heard> => {
    const { data: read } = await readCode({ query: { code } }, true);
    const [item, other] = read?.items ?? [];
    if (!read || !item) return refuse(`${code} means no item here.`);
    if (other) return refuse(`${code} is on ${read.items.map(({ sku }) => sku).join(' and ')}: type which one.`);
    put(withScanned(form.getValues('rows'), { itemId: item.itemId, sku: item.sku, name: item.name, lotId: item.lotId }, read.quantity ?? item.factor));
    setSaid(`${item.sku}${read.serial ? ` ${read.serial}` : ''} is on the list.`);
    return true;
  };
  useScan(scan);
  const fill = (rule: 'one' | 'all') =>
    form.getValues('rows').forEach((row, index, rows) => {
      form.setValue(`rows.${index}.quantity`, quantityBy(rule, placeOf(row, foundOf(row), rows)), { shouldDirty: true });
    });
  const post = async () => {
    const posted = await form.send((body) => lend({ body }));
    if (!posted) return;
    const words = count(lent.length, 'line');
    say({ text: `Lent ${words} to ${typed.holder?.name ?? ''}.`, undo: { movementId: posted.movementId, what: `the loan of ${words}` } });
    void navigate(`/stock/loans/${posted.id ?? ''}`, { replace: true });
  };
  return (
    <FormFrame form={form} save={() => void post()} foreseen={whole ? problemOf(error) : null}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Lend things</h1>
            <span className="quiet">they stay yours, and are not free until they are back</span>
          </PageHead>
          <Refused error={form.refused} />
          {said === null ? null : <Notice role="status">{said}</Notice>}
          <Card pad fields component="div">
            <HolderPicker name="holder" autoFocus />
            <Day label="To be back" name="dueOn" today={today} />
            <LongField label="Note" name="note" rows={1} />
          </Card>
          <Card component="div" sheet>
            {typed.rows.length > 1 ? (
              <Choices sx={{ padding: '8px 14px' }}>
                <Button size="small" onClick={() => fill('one')}>
                  One of each
                </Button>
                <Button size="small" onClick={() => fill('all')}>
                  All there is
                </Button>
              </Choices>
            ) : null}
            <Table aria-label="What is lent" className="floor">
              <TableHead>
                <TableRow>
                  <TableCell>Item</TableCell>
                  <TableCell>From</TableCell>
                  <TableCell align="right">Lend</TableCell>
                  <TableCell />
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.rows.map((row, index) => (
                  <TableRow key={lines.fields[index]?.id ?? index}>
                    <ItemCell of={row} />
                    <TableCell className="under">
                      <PlaceChoice
                        row={row}
                        found={foundOf(row)}
                        rows={typed.rows}
                        choose={(binId, lotId) => {
                          form.setValue(`rows.${index}.binId`, binId, { shouldDirty: true });
                          form.setValue(`rows.${index}.lotId`, lotId, { shouldDirty: true });
                        }}
                      />
                    </TableCell>
                    <TableCell align="right" className="under">
                      <span className="phone-only">lend </span>
                      <Cell number label={`Lend of ${row.sku}, row ${index + 1}`} name={`rows.${index}.quantity`} tall />
                    </TableCell>
                    <TableCell>
                      <Button
                        size="small"
                        onClick={() => put(typed.rows.filter((_, at) => at !== index))}
                        aria-label={`Leave out ${row.sku}, row ${index + 1}`}
                      >
                        Leave out
                      </Button>
                    </TableCell>
                  </TableRow>
                ))}
                <TableRow>
                  <TableCell colSpan={4}>
                    <LineEntry
                      takesScans={false}
                      isNewLine
                      add={(item, many) =>
                        put(
                          item.tracking === 'serial'
                            ? [...typed.rows, { itemId: item.id, sku: item.sku, name: item.name, binId: null, lotId: null, quantity: '1' }]
                            : withScanned(typed.rows, { itemId: item.id, sku: item.sku, name: item.name, lotId: null }, many || '1'),
                        )
                      }
                    />
                  </TableCell>
                </TableRow>
              </TableBody>
            </Table>
          </Card>
        </Stack>
        <EffectPanel
          title="What this will change"
          effects={whole ? currentData?.effects : undefined}
          error={whole ? error : undefined}
          idle="Say who gets it, and what."
        />
        <BottomBar
          hint="Scan what is lent, or type it"
          next={{ label: `Lend ${count(lent.length, 'line')}`, run: () => void post(), disabled: form.isBusy || lent.length === 0 }}
        >
          <Button component={Link} to="/stock/loans">
            All loans
          </Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}

interface PlaceChoiceProps {
  row: LendRow;
  rows: readonly LendRow[];
  found: CanBeLent | undefined;
  choose: (binId: number, lotId: number | null) => void;
}

/** Which bin, lot or unit a row is taken from. */
function PlaceChoice({ row, rows, found, choose }: PlaceChoiceProps) {
  if (!found) return null;
  const place = placeOf(row, found, rows);
  const keyOf = ({ binId, lotId }: { binId: number; lotId: number | null }) => `${binId}/${lotId ?? ''}`;
  if (found.places.length === 0) return <span className="late">There is none here.</span>;
  return (
    <CellChoice
      tall
      label={`From where ${row.sku} is taken, row ${rows.indexOf(row) + 1}`}
      value={place ? keyOf(place) : ''}
      onChange={(key) => {
        const chosen = found.places.find((one) => keyOf(one) === key);
        if (chosen) choose(chosen.binId, chosen.lotId);
      }}
    >
      {place ? null : <option value="">choose…</option>}
      {found.places.map((one) => (
        <option key={keyOf(one)} value={keyOf(one)}>
          {one.lot === null ? '' : `${one.lot} in `}
          {one.bin} ({one.site}): {quantity(one.quantity)}
        </option>
      ))}
    </CellChoice>
  );
}
