import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableFooter from '@mui/material/TableFooter';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { CellCheck } from '../../kit/Check';
import { CellField } from '../../kit/CellField';
import type { LandedLine } from '@larder/contract/landed';
import { money, price, quantity } from '../../kit/format';
import type { ChargeDraft, WorkedSheet } from './sheetDraft';

interface SheetTableProps {
  worked: WorkedSheet;
  charges: readonly ChargeDraft[];
  change: (index: number, part: Partial<ChargeDraft>) => void;
  locked: boolean;
}

/** SKU of a line, with the lot or serial where one is kept. */
const goods = ({ sku, lot }: LandedLine): string => (lot === null ? sku : `${sku} ${lot}`);

/** The lines with ordered, billed and landed unit cost, and what of each charge falls on them. */
export function SheetTable({ worked, charges, change, locked }: SheetTableProps) {
  return (
    <Card sheet aria-label="Lines">
      <Table aria-label="Landed lines">
        <TableHead>
          <TableRow>
            <TableCell>Goods</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right">Ordered at</TableCell>
            <TableCell align="right">Billed at</TableCell>
            {charges.map((charge, index) => (
              <TableCell key={index} align="right">
                {charge.name || `Charge ${index + 1}`}
              </TableCell>
            ))}
            <TableCell align="right">Landed at</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {worked.lines.map(({ line, ordered, billed, shares, landed }) => (
            <TableRow key={line.lineId}>
              <TableCell>
                <span className="code">{goods(line)}</span>
                <span className="name">{line.name}</span>
                {Number(line.here) < 1 ? <small className="quiet name">{quantity((Number(line.here) * 100).toFixed(0))}% still here</small> : null}
              </TableCell>
              <TableCell align="right">{quantity(line.quantity)}</TableCell>
              <TableCell className="quiet" align="right">
                {price(ordered.toFixed(6))}
              </TableCell>
              <TableCell className="quiet" align="right">
                {price(billed.toFixed(6))}
              </TableCell>
              {charges.map((charge, index) => {
                const out = charge.leftOut.includes(line.lineId);
                const leave = () => change(index, { leftOut: out ? charge.leftOut.filter((id) => id !== line.lineId) : [...charge.leftOut, line.lineId] });
                return (
                  <TableCell key={index} align="right">
                    <Box component="label" sx={{ whiteSpace: 'nowrap' }}>
                      {charge.by === 'typed' ? (
                        <CellField
                          number
                          width={60}
                          label={`Part of ${charge.name || 'the charge'} on ${goods(line)}`}
                          value={charge.typed[line.lineId] ?? ''}
                          disabled={locked || charge.billed}
                          onChange={(typed) => change(index, { typed: { ...charge.typed, [line.lineId]: typed } })}
                        />
                      ) : null}{' '}
                      {shares[index] === null || shares[index] === undefined ? '' : money(shares[index].toFixed(2))}{' '}
                      <CellCheck
                        label={`${charge.name || 'The charge'} falls on ${goods(line)}`}
                        checked={!out}
                        disabled={locked || charge.billed}
                        onChange={leave}
                      />
                    </Box>
                  </TableCell>
                );
              })}
              <TableCell className="strong" align="right">
                {price(landed.toFixed(6))}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
        <TableFooter>
          <TableRow>
            <TableCell component="th" colSpan={2} scope="row">
              In all
            </TableCell>
            <TableCell className="quiet" align="right" colSpan={2}>
              {money(worked.goods.toFixed(2))}
            </TableCell>
            {worked.estimates.map((estimate, index) => (
              <TableCell key={index} align="right">
                {money(estimate.toFixed(2))}
              </TableCell>
            ))}
            <TableCell className="strong" align="right">
              {money(worked.total.toFixed(2))}
            </TableCell>
          </TableRow>
        </TableFooter>
      </Table>
    </Card>
  );
}
