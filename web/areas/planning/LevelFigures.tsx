import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { money, quantity } from '../../kit/format';
import { boundBy, roughly } from './levelWords';

interface Side {
  point: string;
  upTo: string;
  daysOut: number;
  averageStock: number;
}

interface LevelFiguresProps {
  now: Partial<Side>;
  suggested: Side;
  unitCost: string;
}

/** Levels as they are and as suggested, and what each would have meant over the last year. */
export function LevelFigures({ now, suggested, unitCost }: LevelFiguresProps) {
  const bound = (stock: number | undefined) => (stock === undefined ? undefined : (boundBy(stock, unitCost) ?? undefined));
  const rows: [string, string | undefined, string | undefined][] = [
    ['Reorder point', now.point && quantity(now.point), quantity(suggested.point)],
    ['Order up to', now.upTo && quantity(now.upTo), quantity(suggested.upTo)],
    ['Days out of stock, last year', now.daysOut?.toString(), String(suggested.daysOut)],
    ['Average stock held', now.averageStock === undefined ? undefined : roughly(now.averageStock), roughly(suggested.averageStock)],
  ];
  const money2 = (text: string | undefined) => (text === undefined ? undefined : money(text));
  if (unitCost !== '') rows.push(['Money it binds', money2(bound(now.averageStock)), money2(bound(suggested.averageStock))]);
  return (
    <Table aria-label="As it is, and as suggested">
      <TableHead>
        <TableRow>
          <TableCell />
          <TableCell align="right">As it is</TableCell>
          <TableCell align="right">Suggested</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map(([name, is, said]) => (
          <TableRow key={name}>
            <TableCell>{name}</TableCell>
            <TableCell align="right">{is ?? <span className="quiet">none</span>}</TableCell>
            <TableCell align="right">
              <b>{said}</b>
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
