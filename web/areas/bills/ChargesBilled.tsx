import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { useState } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { count, money } from '../../kit/format';
import { fieldsOf } from '../../kit/formFields';
import { inUse, useReferenceQuery } from '../../shared/reference';
import type { ChargeDraft, ChargeRow } from './billDraft';
import type { WorkedOf } from './BillLines';
import { LineSaid } from './LineSaid';

interface WithCharges {
  charges: ChargeRow[];
}
const { Cell, CellCheck, CellChoice } = fieldsOf<WithCharges>();

interface ChargesBilledProps {
  partyId: number;
  charges: readonly ChargeDraft[];
  workedOf: WorkedOf;
}

/** Charges that are expected, from whom the bill is of or from anybody, and what is billed of each. */
export function ChargesBilled({ partyId, charges, workedOf }: ChargesBilledProps) {
  const { control } = useFormContext<WithCharges>();
  const { fields } = useFieldArray({ control, name: 'charges' });
  // A row goes by what it is of: it stays the same one when the list is read again.
  const rows = fields.flatMap(({ chargeId }) => charges.filter(({ charge }) => charge.id === chargeId));
  const [anybodys, setAnybodys] = useState(false);
  const { data: reference } = useReferenceQuery({});
  /** Expected from somebody else, and nothing is typed for it. */
  const isOthers = ({ charge, amount }: ChargeDraft) => charge.partyId !== null && charge.partyId !== partyId && amount.trim() === '';
  const fromOthers = charges.filter(isOthers).length;
  if (charges.length === 0) return null;
  return (
    <Card aria-label="Charges">
      <Table aria-label="Charges billed" hidden={!anybodys && fromOthers === charges.length}>
        <TableHead>
          <TableRow>
            <TableCell>Charge expected</TableCell>
            <TableCell>From</TableCell>
            <TableCell align="right">Estimate</TableCell>
            <TableCell align="right">Still open</TableCell>
            <TableCell align="right">Billed now</TableCell>
            <TableCell>Tax</TableCell>
            <TableCell>Last bill</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((one) => (
            <TableRow key={one.charge.id} hidden={!anybodys && isOthers(one)}>
              <TableCell>
                {one.charge.name} <span className="code quiet">{one.charge.sheet}</span>
                <small className="quiet name">{one.charge.deliveries}</small>
                <LineSaid>{workedOf(`charges.${one.at}`)?.words}</LineSaid>
              </TableCell>
              <TableCell className="quiet">{one.charge.party ?? 'not known yet'}</TableCell>
              <TableCell className="quiet" align="right">
                {money(one.charge.estimate)}
              </TableCell>
              <TableCell align="right">{money(one.charge.open)}</TableCell>
              <TableCell align="right">
                <Cell number width={104} label={`Billed for ${one.charge.name}, ${one.charge.sheet}`} name={`charges.${one.at}.amount`} proposed={one.amount} />
              </TableCell>
              <TableCell>
                <CellChoice
                  label={`Tax on ${one.charge.name}, ${one.charge.sheet}`}
                  name={`charges.${one.at}.taxCodeId`}
                  ids
                  none="No tax"
                  options={inUse(reference?.taxes, one.taxCodeId).map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }))}
                />
              </TableCell>
              <TableCell>
                <CellCheck label={`No more bills for ${one.charge.name}, ${one.charge.sheet}`} name={`charges.${one.at}.final`} />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {fromOthers > 0 && !anybodys ? (
        <p className="pad">
          <Button size="small" onClick={() => setAnybodys(true)}>
            Show {count(fromOthers, 'charge')} expected from others
          </Button>
        </p>
      ) : null}
    </Card>
  );
}
