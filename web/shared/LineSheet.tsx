import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import { isNumber } from '@larder/core/number';
import { decimal } from '@larder/core/decimal';
import type { ItemRow } from '@larder/contract/catalog';
import type { Problem } from '@larder/contract/values';
import type { ReactNode } from 'react';
import { plainPrice } from '../kit/format';
import { LineEntry } from './LineEntry';
import { LineRow } from './LineRow';
import { type DraftLine, lineKey } from './draftLines';

interface LineSheetProps {
  lines: readonly DraftLine[];
  change: (lines: DraftLine[]) => void;
  /** Whether lines are bought or sold: which unit they begin with. */
  way: 'buys' | 'sells';
  problem: Problem | null;
  /** A last column: what is said of a line as it is typed. */
  aside?: { name: string; cell: (line: DraftLine) => ReactNode };
  /** Decimals of the document's currency. */
  places?: number;
}

/** The lines of a document being written: quantities and prices in place, the next line by words, code or scan. */
export function LineSheet({ lines, change, way, problem, aside, places = 2 }: LineSheetProps) {
  const add = (item: ItemRow, quantity: string, scannedUnit: number | null) => {
    const chosen = item.units.find((one) => (scannedUnit === null ? one[way] : one.unitId === scannedUnit));
    const at = lines.findIndex((line) => line.itemId === item.id && line.unitId === (chosen?.unitId ?? null));
    const each = (way === 'buys' ? item.purchasePrice : item.salesPrice) ?? '0';
    if (at < 0) {
      const unit = { unit: chosen?.unit ?? item.unit, unitId: chosen?.unitId ?? null, factor: chosen?.factor ?? '1' };
      change([
        ...lines,
        {
          itemId: item.id,
          sku: item.sku,
          name: item.name,
          ...unit,
          units: item.units,
          baseUnit: item.unit,
          quantity,
          price: plainPrice(decimal(each).times(unit.factor).toFixed()),
          pricePer: '1',
        },
      ]);
    } else
      change(
        lines.map((line, index) =>
          index === at && isNumber(line.quantity, 'quantity') ? { ...line, quantity: decimal(line.quantity).plus(quantity).toFixed() } : line,
        ),
      );
  };
  const put = (index: number, part: Partial<DraftLine>) => change(lines.map((line, at) => (at === index ? { ...line, ...part } : line)));
  const errorAt = (index: number, name: string) => problem?.errors.find(({ field }) => field === `lines.${index}.${name}`)?.sentence;
  return (
    <Card component="div">
      <Table aria-label="Lines">
        <TableHead>
          <TableRow>
            <TableCell>Line</TableCell>
            <TableCell>Item</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right">Price</TableCell>
            <TableCell align="right">Amount</TableCell>
            {aside ? <TableCell>{aside.name}</TableCell> : null}
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {lines.map((line, index) => (
            <LineRow
              key={lineKey(line)}
              line={line}
              index={index}
              put={(part) => put(index, part)}
              remove={() => change(lines.filter((_, at) => at !== index))}
              errorAt={(name) => errorAt(index, name)}
              places={places}
              aside={aside?.cell(line)}
            />
          ))}
          <TableRow>
            <TableCell className="quiet">{lines.length + 1}</TableCell>
            <TableCell colSpan={aside ? 6 : 5}>
              <LineEntry add={add} />
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Card>
  );
}
