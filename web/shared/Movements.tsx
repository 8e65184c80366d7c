import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { Card } from '../kit/layout';
import type { MovementRef } from '@larder/contract/inbound';
import { money, moment, quantity } from '../kit/format';
import { UndoButton } from './UndoButton';

/** The postings of a document, newest first, each with its undo. */
export function Movements({ movements }: { movements: readonly MovementRef[] }) {
  if (movements.length === 0) return null;
  return (
    <Card aria-label="Postings">
      <h2>Postings</h2>
      <Table>
        <TableBody>
          {movements.map((one) => (
            <TableRow key={one.id}>
              <TableCell>
                {one.undoes ? 'undo' : one.kind.replace('-', ' ')} of {quantity(one.quantity)}
                <Box component="small" className="quiet" sx={{ display: 'block' }}>
                  {moment(one.postedAt)}, {one.person}
                  {Number(one.value) === 0 ? '' : `, ${money(one.value)}`}
                </Box>
              </TableCell>
              <TableCell align="right">
                {one.undone ? (
                  <span className="quiet">undone</span>
                ) : one.undoes ? null : (
                  <UndoButton movementId={one.id} what={`the ${one.kind.replace('-', ' ')} of ${quantity(one.quantity)}`} />
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}
