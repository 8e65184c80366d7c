import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { CellChoice } from '../../kit/CellField';
import type { Standing } from '@larder/contract/handover';
import { count } from '../../kit/format';

/** Our accounts, and to which of theirs each goes. */
export function Mapping({ standing, map, busy }: { standing: Standing; map: ((accountId: number, code: string) => void) | null; busy: boolean }) {
  return (
    <Card aria-label="Accounts">
      <h2>
        Accounts<span>ours, and theirs</span>
      </h2>
      {standing.outside.length === 0 ? (
        <p className="pad quiet">Import the accounts of the accounting service first; then each of ours is mapped to one of them.</p>
      ) : null}
      <Table size="small">
        <TableBody>
          {standing.mapping.map((account) => (
            <TableRow key={account.accountId}>
              <TableCell>
                <span className="code quiet">{account.code}</span> {account.name}
                {account.outsideCode === null && account.waiting > 0 ? (
                  <Box component="small" className="low" sx={{ display: 'block' }}>
                    {count(account.waiting, 'entry waits', 'entries wait')}
                  </Box>
                ) : null}
                {standing.outside.length > 0 && map === null ? (
                  <small className="quiet name">{account.outsideCode === null ? 'not mapped' : `theirs: ${account.outsideCode}`}</small>
                ) : null}
                {standing.outside.length > 0 && map ? (
                  <CellChoice
                    width="100%"
                    label={`Theirs for ${account.code} ${account.name}`}
                    value={account.outsideCode ?? ''}
                    disabled={busy}
                    onChange={(typed) => map(account.accountId, typed)}
                    tall
                  >
                    <option value="">not mapped</option>
                    {standing.outside.map(({ code, name }) => (
                      <option key={code} value={code}>
                        {code} {name}
                      </option>
                    ))}
                  </CellChoice>
                ) : null}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
