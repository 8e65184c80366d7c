import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from './layout';
import type { Effects } from '@larder/contract/values';
import { lost, problemOf } from './problem';
import { money, price, quantity } from './format';

interface EffectPanelProps {
  title: string;
  effects: Effects | undefined;
  error?: unknown;
  /** What to say before there is anything to foresee. */
  idle: string;
}

const write = (measure: string, text: string) => (measure === 'value' ? money(text) : measure === 'unit cost' ? price(text) : quantity(text));

/** What this will change: each figure now and after, from the same code that will do it. */
export function EffectPanel({ title, effects, error, idle }: EffectPanelProps) {
  const problem = problemOf(error);
  return (
    <Card aria-label={title} aria-live="polite">
      <h2>{title}</h2>
      {problem ? (
        problem.type === lost.type ? (
          <p className="pad quiet">What it changes is told when there is a connection.</p>
        ) : (
          <p className="pad late">{problem.title}</p>
        )
      ) : null}
      {!problem && !effects ? <p className="pad quiet">{idle}</p> : null}
      {!problem && effects ? <EffectTable effects={effects} /> : null}
    </Card>
  );
}

/** Figures of one item stand together under its name; a posting of one item needs no name. */
function EffectTable({ effects }: { effects: Effects }) {
  const sites = new Set(effects.rows.map(({ where }) => where).filter((where) => where !== ''));
  const items = [...new Map(effects.rows.map((row) => [row.itemId, row])).values()];
  const said = [...effects.notes, ...(effects.costNotes ?? [])];
  if (effects.rows.length === 0 && said.length > 0) return <Notes notes={said} />;
  return (
    <>
      <Table size="small">
        <TableHead>
          <TableRow>
            <TableCell />
            <TableCell align="right">now</TableCell>
            <TableCell align="right">after</TableCell>
          </TableRow>
        </TableHead>
        {items.map((item) => (
          <TableBody key={item.itemId}>
            <TableRow className="group">
              <TableCell component="th" colSpan={3} scope="rowgroup">
                <span className="code">{item.sku}</span> <span className="quiet">{item.name}</span>
              </TableCell>
            </TableRow>
            {effects.rows
              .filter(({ itemId }) => itemId === item.itemId)
              .map((row) => (
                <TableRow key={`${row.where} ${row.measure}`}>
                  <TableCell>
                    {row.measure}
                    {row.where && sites.size > 1 ? <small className="quiet"> {row.where}</small> : null}
                  </TableCell>
                  <TableCell className="quiet" align="right">
                    {write(row.measure, row.before)}
                  </TableCell>
                  <TableCell align="right">{write(row.measure, row.after)}</TableCell>
                </TableRow>
              ))}
          </TableBody>
        ))}
      </Table>
      {sites.size === 1 ? <p className="pad quiet">At {[...sites][0]}.</p> : null}
      {effects.costNotes === null || effects.rows.some((row) => row.measure === 'value') ? null : <p className="pad quiet">Nothing changes in value.</p>}
      <Notes notes={said} />
    </>
  );
}

const Notes = ({ notes }: Pick<Effects, 'notes'>) =>
  notes.map((note) => (
    <p key={note} className="pad">
      {note}
    </p>
  ));
