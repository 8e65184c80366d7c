import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { SentBill } from '@larder/contract/carriers';
import { decimal, sum } from '@larder/core/decimal';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf } from '../../kit/formFields';
import { count, money, shortDay } from '../../kit/format';
import { Card } from '../../kit/layout';
import { inUse, useReferenceQuery } from '../../shared/reference';
import type { ParcelDraft, ParcelRow } from './billDraft';
import type { WorkedOf } from './BillLines';
import { LineSaid } from './LineSaid';

interface WithParcels {
  parcels: ParcelRow[];
}
const { Cell, CellChoice } = fieldsOf<WithParcels>();

/** Parcels that a carrier is still to bill, and what is billed of each. */
export function ParcelsBilled({ parcels, workedOf }: { parcels: readonly ParcelDraft[]; workedOf: WorkedOf }) {
  const { control } = useFormContext<WithParcels>();
  const { fields } = useFieldArray({ control, name: 'parcels' });
  const { data: reference } = useReferenceQuery({});
  const rows = fields.flatMap(({ parcelId }) => parcels.filter(({ parcel }) => parcel.id === parcelId));
  if (rows.length === 0) return null;
  return (
    <Card aria-label="Parcels">
      <Table aria-label="Parcels billed">
        <TableHead>
          <TableRow>
            <TableCell>Parcel</TableCell>
            <TableCell className="wide-only">Tracking number</TableCell>
            <TableCell align="right">Booked at</TableCell>
            <TableCell align="right">Billed now</TableCell>
            <TableCell>Tax</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(({ at, parcel, taxCodeId }) => (
            <TableRow key={parcel.id}>
              <TableCell>
                <span className="code">{parcel.number}</span>
                <small className="quiet name">
                  {parcel.order}, {shortDay(parcel.since)}
                </small>
                <LineSaid>{workedOf(`parcels.${at}`)?.words}</LineSaid>
              </TableCell>
              <TableCell className="code quiet wide-only">{parcel.tracking}</TableCell>
              <TableCell align="right">{money(parcel.expected)}</TableCell>
              <TableCell align="right">
                <Cell number width={104} label={`Billed for ${parcel.number}`} name={`parcels.${at}.amount`} />
              </TableCell>
              <TableCell>
                <CellChoice
                  label={`Tax on ${parcel.number}`}
                  name={`parcels.${at}.taxCodeId`}
                  ids
                  none="No tax"
                  options={inUse(reference?.taxes, taxCodeId).map(({ id, name, rate }) => ({ value: String(id), label: `${name}, ${rate} %` }))}
                />
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

/** Bills that came over a carrier's interface and were not entered yet: each puts in what it asks. */
export const SentBills = ({ bills, takeIn }: { bills: readonly SentBill[]; takeIn: (bill: SentBill) => void }) =>
  bills.length === 0 ? null : (
    <Card aria-label="Bills that came">
      <h2>Bills that came</h2>
      {bills.map((bill) => (
        <p key={bill.id} className="pad">
          <span className="code">{bill.reference}</span> of {shortDay(bill.billedOn)}: {count(bill.lines.length, 'parcel')},{' '}
          <b>{money(sum(bill.lines.map(({ amount }) => decimal(amount))).toFixed(2))}</b>{' '}
          <Button size="small" onClick={() => takeIn(bill)}>
            Take in {bill.reference}
          </Button>
        </p>
      ))}
    </Card>
  );
