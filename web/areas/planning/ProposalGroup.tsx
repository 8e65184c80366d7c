import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { TopUpRow } from '@larder/contract/planning';
import { useState, type ReactNode } from 'react';
import { CellField } from '../../kit/CellField';
import { CellCheck, Check } from '../../kit/Check';
import { count, money, quantity } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import { Card } from '../../kit/layout';
import { arithmetic, breakInWords, keyOf, noteInWords, totals } from './proposals';

interface ProposalGroupProps {
  name: string;
  group: readonly (TopUpRow & { days?: number | null })[];
  mayChoose: (row: TopUpRow) => boolean;
  chosen: ReadonlySet<string>;
  toggle: (rows: readonly TopUpRow[], on: boolean) => void;
  many: (row: TopUpRow) => string;
  type: (row: TopUpRow, quantity: string) => void;
  errorOf: (row: TopUpRow) => string | undefined;
  selected: string | null;
  select: (row: TopUpRow) => void;
  /** Said under the rows: what an order comes to, and what it should. */
  children?: ReactNode;
}

/** So many of a group are shown until somebody wants all. */
const first = 40;

/** What is proposed to be brought from one site, to be made, or to be ordered from one supplier. */
export function ProposalGroup({ name, group, mayChoose, chosen, toggle, many, type, errorOf, selected, select, children }: ProposalGroupProps) {
  const [isWhole, setWhole] = useState(false);
  const shown = isWhole ? group : group.slice(0, first);
  const able = group.filter(mayChoose);
  const own = group.filter((row) => chosen.has(keyOf(row))).map((row) => ({ row, many: many(row) }));
  const all = totals(group.map((row) => ({ row, many: many(row) })));
  return (
    <Card aria-label={name}>
      <h2>
        <Check
          label={name === 'No supplier' ? 'No supplier yet: give the item one first' : name}
          disabled={able.length === 0}
          checked={able.length > 0 && able.every((row) => chosen.has(keyOf(row)))}
          onChange={(checked) => toggle(able, checked)}
        />
        <span>{own.length > 0 ? comesTo(totals(own)) : all.amount === null ? '' : money(all.amount)}</span>
      </h2>
      <Table>
        <TableBody>
          {shown.map((row) => (
            <TableRow key={keyOf(row)} className="selectable" aria-selected={selected === keyOf(row)} onClick={() => select(row)}>
              <TableCell sx={{ width: 36 }}>
                <CellCheck
                  disabled={!mayChoose(row)}
                  label={`Choose ${row.sku} for ${row.site}`}
                  checked={chosen.has(keyOf(row))}
                  onChange={(checked) => toggle([row], checked)}
                />
              </TableCell>
              <TableCell className="wide-only" sx={{ width: 40 }}>
                <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} size={26} />
              </TableCell>
              <TableCell sx={{ minWidth: 150 }}>
                <span className="code">{row.sku}</span> {row.name}
                <Box component="small" className="quiet" sx={{ display: 'block' }}>
                  {row.site}: {arithmetic(row)}
                  {row.days === undefined || row.days === null ? '' : `; runs low in about ${Math.round(row.days)} days`}
                </Box>
                <Said row={row} many={many(row)} take={(quantity) => type(row, quantity)} />
              </TableCell>
              <TableCell align="right">
                <CellField
                  number
                  label={`Order of ${row.sku} for ${row.site}`}
                  value={many(row)}
                  onChange={(typed) => type(row, typed)}
                  disabled={!mayChoose(row)}
                  error={errorOf(row)}
                />
              </TableCell>
              <TableCell className="wide-only" align="right" sx={{ width: 90 }}>
                {totals([{ row, many: many(row) }]).amount ?? ''}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {shown.length < group.length ? (
        <p className="pad">
          <Button size="small" onClick={() => setWhole(true)}>
            Show all {count(group.length, 'proposal')}
          </Button>
        </p>
      ) : null}
      {children}
    </Card>
  );
}

/** What is to be said of a proposal beside its arithmetic: why it is not as usual, and a better price with how to take it. */
function Said({ row, many, take }: { row: TopUpRow; many: string; take: (quantity: string) => void }) {
  const better = breakInWords(row);
  const note = noteInWords(row);
  return (
    <>
      {note === '' ? null : (
        <Box component="small" sx={{ display: 'block' }}>
          {note}
        </Box>
      )}
      {better === null || row.nextBreak === null || many === row.nextBreak.quantity ? null : (
        <Box component="small" sx={{ display: 'block' }}>
          {better}{' '}
          <Button
            size="small"
            onClick={(event) => {
              event.stopPropagation();
              take(row.nextBreak?.quantity ?? many);
            }}
          >
            Take {quantity(row.nextBreak.quantity)}
          </Button>
        </Box>
      )}
    </>
  );
}

const comesTo = ({ amount, weightKg, volumeM3 }: ReturnType<typeof totals>): string =>
  [
    'chosen',
    amount === null ? '' : money(amount),
    weightKg === null ? '' : `${quantity(weightKg)} kg`,
    volumeM3 === null || Number(volumeM3) === 0 ? '' : `${volumeM3} m³`,
  ]
    .filter((part) => part !== '')
    .join(', ')
    .replace('chosen, ', 'chosen: ');
