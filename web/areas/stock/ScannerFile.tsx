import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { readScannerFile, type ScannedFault, type ScannerFile as Read } from '@larder/core/stock/scannerFile';
import { useState } from 'react';
import { DropFile } from '../../kit/DropFile';
import { count, quantity } from '../../kit/format';
import { Stack } from '../../kit/layout';
import { useLazyItemsMeantQuery } from '../../shared/items';
import { useBinsQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import type { Scanned } from './correctionForm';

/** As many as a correction may have, and so many codes are looked up at once. */
export const most = 500;
const shownAtFirst = 50;

export type FileLine = Scanned & { binId: number; bin: string; sku: string; line: number };
interface Understood {
  columns: Read['columns'];
  lines: FileLine[];
  faults: ScannedFault[];
}

/** Fills the sheet from what a scanner wrote: what it is taken for is shown first. */
export function ScannerFile({ take }: { take: (lines: readonly FileLine[]) => void }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <span>
      <Button onClick={() => setOpen(true)}>From a scanner’s file</Button>
      <Dialog open={isOpen} onClose={() => setOpen(false)} aria-labelledby="scanner-file">
        {isOpen ? (
          <Sheet
            take={(lines) => {
              take(lines);
              setOpen(false);
            }}
            close={() => setOpen(false)}
          />
        ) : null}
      </Dialog>
    </span>
  );
}

function Sheet({ take, close }: { take: (lines: readonly FileLine[]) => void; close: () => void }) {
  const { siteId } = useSite();
  const { data: bins } = useBinsQuery({ query: { siteId } });
  const [lookUp] = useLazyItemsMeantQuery();
  const [understood, setUnderstood] = useState<Understood | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const usable = (bins?.rows ?? []).filter(({ retired }) => !retired);
  const read = async (file: File) => {
    setFault(null);
    const { columns, lines, faults } = readScannerFile(
      await file.text(),
      usable.map(({ code }) => code),
    );
    const codes = [...new Set(lines.map(({ code }) => code))];
    const meant = new Map<string, { id: number; sku: string }[]>();
    for (let from = 0; from < codes.length; from += most) {
      const { data } = await lookUp({ body: { codes: codes.slice(from, from + most) } });
      if (!data) return setFault('The codes of this file could not be looked up. Choose it again.');
      for (const row of data.rows) meant.set(row.code, row.items);
    }
    const known = (code: string) => meant.get(code) ?? [];
    setUnderstood({
      columns,
      lines: lines.flatMap(({ bin, code, quantity: many, line }) => {
        const [item, other] = known(code);
        const at = usable.find((one) => one.code === bin);
        return item && !other && at ? [{ itemId: item.id, sku: item.sku, lotId: null, binId: at.id, bin, quantity: many.toFixed(), line }] : [];
      }),
      faults: [
        ...faults,
        ...lines.flatMap(({ code, bin, line }) => {
          const found = known(code).length;
          return found === 1
            ? []
            : [{ line, text: `${bin} ${code}`, said: found === 0 ? `No item has the code ${code}.` : `${code} means more than one item.` }];
        }),
      ].sort((a, b) => a.line - b.line),
    });
  };
  return (
    <Stack pad sx={{ width: 640, maxWidth: '100%' }}>
      <DialogTitle id="scanner-file">From a scanner’s file</DialogTitle>
      <DropFile
        label="Scanner’s file"
        choose="Choose a file"
        accept={{ 'text/csv': ['.csv'], 'text/plain': ['.txt', '.tsv'] }}
        take={(file) => void read(file)}
        refuse={() => setFault('That is no text of a scanner. Choose a CSV or text file.')}
      >
        Bin, code and quantity in any order; or a bin and then all that lies in it
      </DropFile>
      {fault === null ? null : (
        <p className="late" role="alert">
          {fault}
        </p>
      )}
      {understood ? <Shown {...understood} /> : null}
      <Box sx={{ display: 'flex', gap: 8, justifyContent: 'flex-end' }}>
        {understood && understood.lines.length > 0 ? (
          <Button variant="contained" onClick={() => take(understood.lines)}>
            Take {count(understood.lines.length, 'line')}
          </Button>
        ) : null}
        <Button onClick={close}>Close</Button>
      </Box>
    </Stack>
  );
}

/** What the file was taken for, and what of it cannot be taken. */
function Shown({ columns, lines, faults }: Understood) {
  return (
    <>
      <p className="quiet">
        {columns === null ? 'A bin, and then what lies in it, one by one.' : `Columns: ${columns.map((part) => part ?? 'left out').join(', ')}.`}{' '}
        {count(lines.length, 'line')} in {count(new Set(lines.map(({ bin }) => bin)).size, 'bin')}.
        {lines.length > most ? ` A sheet has ${most}: the others come when those are corrected.` : ''}
      </p>
      {faults.length > 0 ? (
        <Box component="ul" className="late" sx={{ margin: 0, paddingLeft: 18, maxHeight: 140, overflow: 'auto' }} aria-label="Not taken" tabIndex={0}>
          {faults.slice(0, shownAtFirst).map(({ line, said }) => (
            <li key={line}>
              Line {line}: {said}
            </li>
          ))}
          {faults.length > shownAtFirst ? <li>and {count(faults.length - shownAtFirst, 'more line')}</li> : null}
        </Box>
      ) : null}
      {lines.length > 0 ? (
        <Box sx={{ maxHeight: 260, overflow: 'auto' }} tabIndex={0} role="group" aria-label="What is taken">
          <Table size="small" aria-label="Lines of the file">
            <TableHead>
              <TableRow>
                <TableCell>Bin</TableCell>
                <TableCell>Item</TableCell>
                <TableCell align="right">Quantity</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {lines.slice(0, shownAtFirst).map((line) => (
                <TableRow key={`${line.bin} ${line.sku} ${line.line}`}>
                  <TableCell className="code">{line.bin}</TableCell>
                  <TableCell className="code">{line.sku}</TableCell>
                  <TableCell align="right">{quantity(line.quantity)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Box>
      ) : null}
    </>
  );
}
