import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import { isNumber } from '@larder/core/number';
import { decimal } from '@larder/core/decimal';
import type { ItemRow } from '@larder/contract/catalog';
import { Fragment, useEffect, useMemo, useRef, useState, type ComponentType, type KeyboardEvent, type RefObject } from 'react';
import { flushSync } from 'react-dom';
import { useFieldArray, useFormContext, useFormState } from 'react-hook-form';
import { plainPrice } from '../kit/format';
import { Gap } from '../kit/ListRows';
import { Sorted } from '../kit/Sortable';
import { useVirtualRows } from '../kit/virtualRows';
import { LineEntry } from './LineEntry';
import { LineRow } from './LineRow';
import type { DraftLine } from './draftLines';

/** A form that holds lines under one of two names. */
export type WithLines = { lines: DraftLine[]; added: DraftLine[] };
export type LinesName = keyof WithLines;

interface LineSheetProps {
  /** Where the lines are in the form that is around them. */
  name?: LinesName;
  /** Whether lines are bought or sold: which unit they begin with. */
  way: 'buys' | 'sells';
  /** A last column: what is said of a line as it is typed. */
  aside?: { name: string; Cell: ComponentType<{ index: number }> };
  /** Decimals of the document's currency. */
  places?: number;
  /** Whose lines they are, when they are sold. */
  customerId?: number | undefined;
}

/** Where the menu of what can be done about a line is found by its key. */
export const menuOfLine = 'line';

/** Columns keep their widths, so that a key in one line does not lay out all of them anew; on a phone they are as wide as they must be, and scrolled. */
const set = { tableLayout: { xs: 'auto', sm: 'fixed' } };

/** The lines of a document being written: quantities and prices in place, the next line by words, code or scan. Of many only those in sight are drawn, and only the one that is typed in anew. */
export function LineSheet({ name = 'lines', way, aside, places = 2, customerId }: LineSheetProps) {
  const { control, getValues, setValue } = useFormContext<WithLines>();
  const { fields, append, remove, move } = useFieldArray<WithLines, LinesName>({ control, name });
  const table = useRef<HTMLTableElement>(null);
  const [typedIn, setTypedIn] = useState<number | null>(null);
  const rows = useVirtualRows({ table, count: fields.length, keyOf: (index) => fields[index]?.id ?? index, kept: typedIn, beyond: 5 });
  useFirstWrong(name, table, rows.show);
  const add = (item: ItemRow, quantity: string, scannedUnit: number | null) => {
    const lines = getValues(name);
    const chosen = item.units.find((one) => (scannedUnit === null ? one[way] : one.unitId === scannedUnit));
    const at = lines.findIndex((line) => line.itemId === item.id && line.unit === (chosen?.unit ?? item.unit) && !line.siteId);
    const there = lines[at];
    if (there === undefined) append(newLine(item, chosen, way, quantity), { shouldFocus: false });
    else if (isNumber(there.quantity, 'quantity')) setValue(`${name}.${at}.quantity`, decimal(there.quantity).plus(quantity).toFixed(), { shouldDirty: true });
  };
  const sells = way === 'sells';
  const columns = (aside ? 7 : 6) + (sells ? 1 : 0);
  const shared = { name, remove, places, hasDiscount: sells, Aside: aside?.Cell };
  /** Alt with an arrow moves the line that is typed in, which keeps the focus. */
  const reorder = (event: KeyboardEvent<HTMLElement>) => {
    const step = event.altKey ? { ArrowUp: -1, ArrowDown: 1 }[event.key] : undefined;
    const at = step === undefined ? null : lineAt(event);
    const to = (at ?? 0) + (step ?? 0);
    if (at === null || to < 0 || to >= fields.length) return;
    event.preventDefault();
    const label = (event.target as HTMLElement).getAttribute('aria-label')?.replace(String(at + 1), String(to + 1));
    flushSync(() => {
      move(at, to);
      setTypedIn(to);
    });
    rows.show(to);
    if (label) table.current?.querySelector<HTMLElement>(`[aria-label="${label}"]`)?.focus();
  };
  /** Ctrl and a full stop open what can be done about the line that is typed in, or, from the one that is still being found, about the last. */
  const openMenu = (event: KeyboardEvent<HTMLElement>) => {
    const at = lineAt(event) ?? fields.length - 1;
    const button = table.current?.querySelector<HTMLElement>(`[data-index="${at}"] [data-menu="${menuOfLine}"]`);
    if (!button) return;
    event.preventDefault();
    button.click();
  };
  const ids = useMemo(() => fields.map(({ id }) => id), [fields]);
  return (
    <Card component="div">
      <Sorted ids={ids} noun="line" move={move}>
        <Table ref={table} aria-label="Lines" aria-rowcount={fields.length + 2} sx={set}>
          <TableHead>
            <TableRow>
              <TableCell sx={{ width: 46 }}>Line</TableCell>
              <TableCell>Item</TableCell>
              <TableCell align="right" sx={{ width: 210 }}>
                Quantity
              </TableCell>
              <TableCell align="right" sx={{ width: 210 }}>
                Price
              </TableCell>
              {sells ? (
                <TableCell align="right" sx={{ width: 76 }}>
                  % off
                </TableCell>
              ) : null}
              <TableCell align="right" sx={{ width: 104 }}>
                Amount
              </TableCell>
              {aside ? <TableCell sx={{ width: sells ? 226 : 250 }}>{aside.name}</TableCell> : null}
              <TableCell sx={{ width: 96 }} />
            </TableRow>
          </TableHead>
          <TableBody
            onFocus={(event) => setTypedIn(lineAt(event))}
            onKeyDown={(event) => (event.ctrlKey && event.key === '.' ? openMenu(event) : reorder(event))}
          >
            {rows.items.map(({ index, before }) => (
              <Fragment key={fields[index]?.id ?? index}>
                <Gap height={before} span={columns} />
                <LineRow {...shared} id={fields[index]?.id ?? ''} index={index} measure={rows.measure} />
              </Fragment>
            ))}
            <Gap height={rows.below} span={columns} />
            <TableRow aria-rowindex={fields.length + 2}>
              <TableCell className="quiet">{fields.length + 1}</TableCell>
              <TableCell colSpan={columns - 1}>
                <LineEntry add={add} pastes customerId={customerId} />
              </TableCell>
            </TableRow>
          </TableBody>
        </Table>
      </Sorted>
    </Card>
  );
}

/** The line that has the focus; null for the one that is still being found. */
function lineAt({ target }: { target: EventTarget }): number | null {
  const index = (target as Element).closest<HTMLElement>('[data-index]')?.dataset.index;
  return index === undefined ? null : Number(index);
}

/** After a refusal the first wrong line comes into sight and has the focus, unless something before the lines is wrong as well. */
function useFirstWrong(name: LinesName, table: RefObject<HTMLTableElement | null>, show: (index: number) => void): void {
  const { control } = useFormContext<WithLines>();
  const { errors, submitCount } = useFormState({ control, name });
  const wrong = Object.keys(errors[name] ?? {}).find((key) => /^\d+$/.test(key));
  useEffect(() => {
    if (submitCount === 0 || wrong === undefined) return;
    const isWrong = (element: Element | null | undefined) => element?.getAttribute('aria-invalid') === 'true';
    let tries = 0;
    let frame = requestAnimationFrame(function reach() {
      if (isWrong(document.activeElement)) return;
      if (tries === 0) show(Number(wrong));
      const field = table.current?.querySelector<HTMLElement>(`[data-index="${wrong}"] [aria-invalid="true"]`);
      if (field) field.focus();
      else if ((tries += 1) < 10) frame = requestAnimationFrame(reach);
    });
    return () => cancelAnimationFrame(frame);
  }, [submitCount]); // eslint-disable-line react-hooks/exhaustive-deps
}

/** A line of an item, in a unit of its own or its base unit, at what so many cost. */
function newLine(item: ItemRow, chosen: ItemRow['units'][number] | undefined, way: 'buys' | 'sells', quantity: string): DraftLine {
  const unit = { unit: chosen?.unit ?? item.unit, unitId: chosen?.unitId ?? null, factor: chosen?.factor ?? '1' };
  const each = (way === 'buys' ? item.purchasePrice : item.salesPrice) ?? '0';
  return {
    itemId: item.id,
    sku: item.sku,
    name: item.name,
    ...unit,
    units: item.units,
    baseUnit: item.unit,
    quantity,
    price: plainPrice(decimal(each).times(unit.factor).toFixed()),
    pricePer: '1',
    ...(way === 'sells' ? { discount: '' } : {}),
  };
}
