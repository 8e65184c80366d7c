import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import { Link } from 'react-router';
import type { BookEffects } from '@larder/contract/bills';
import { problemOf } from '../kit/problem';
import { amountsIn, money } from '../kit/format';

interface BookEffectPanelProps {
  title: string;
  effects: BookEffects | undefined;
  error?: unknown;
  idle: string;
}

/** What a posting does to the accounts: in words first, then the figures. */
export function BookEffectPanel({ title, effects, error, idle }: BookEffectPanelProps) {
  const problem = problemOf(error);
  return (
    <Card aria-label={title} aria-live="polite">
      <h2>{title}</h2>
      {problem ? <p className="pad late">{problem.title}</p> : null}
      {!problem && !effects ? <p className="pad quiet">{idle}</p> : null}
      {!problem && effects && effects.words.length + effects.entry.length === 0 ? <p className="pad quiet">Nothing changes in the accounts.</p> : null}
      {!problem && effects ? (
        <>
          {effects.words.map((sentence) => (
            <Box component="p" key={sentence} className="pad" sx={{ paddingBottom: 0 }}>
              {amountsIn(sentence)}
            </Box>
          ))}
          {effects.entry.length > 0 ? (
            <Table size="small" sx={{ margin: '10px 0' }}>
              <TableHead>
                <TableRow>
                  <TableCell>Account</TableCell>
                  <TableCell align="right">Debit</TableCell>
                  <TableCell align="right">Credit</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {effects.entry.map(({ accountId, code, name, amount }) => (
                  <TableRow key={accountId}>
                    <TableCell>
                      <Link to={`/books/accounts/${accountId}`}>
                        <span className="code quiet">{code}</span> {name}
                      </Link>
                    </TableCell>
                    <TableCell align="right">{Number(amount) > 0 ? money(amount) : ''}</TableCell>
                    <TableCell align="right">{Number(amount) < 0 ? money(amount.slice(1)) : ''}</TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          ) : null}
        </>
      ) : null}
    </Card>
  );
}
