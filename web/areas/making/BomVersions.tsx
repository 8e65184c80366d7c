import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import type { Bom } from '@larder/contract/making';
import { Link } from 'react-router';
import { shortDay } from '../../kit/format';
import { Card } from '../../kit/layout';

/** The versions there are of a bill, the last first. */
export const BomVersions = ({ bom, today }: { bom: Bom; today: string }) => (
  <Card aria-label="Versions">
    <h2>Versions</h2>
    <Table>
      <TableBody>
        {bom.versions.map(({ id, number, name, startsOn, state }) => (
          <TableRow key={id} selected={id === bom.id}>
            <TableCell>
              {id === bom.id ? <span className="strong">{number}</span> : <Link to={`/making/boms/${id}`}>{number}</Link>} {name}
            </TableCell>
            <TableCell className="quiet">from {shortDay(startsOn, today)}</TableCell>
            <TableCell align="right">{state}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  </Card>
);
