import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { InvoiceLine } from '@larder/contract/invoices';
import type { ReactNode } from 'react';
import { fieldsOf } from '../../kit/formFields';
import { amount, count, quantity } from '../../kit/format';
import { Card } from '../../kit/layout';
import { textKey, type InvoiceDraft } from './invoiceDraft';

const { Cell } = fieldsOf<InvoiceDraft>();

interface RowsProps<L extends InvoiceLine> {
  lines: readonly L[];
  currency: string;
  /** What stands for a line's words. */
  words: (line: L) => ReactNode;
}

/** Lines of an invoice: how many of what, at which price, with which tax. */
function Rows<L extends InvoiceLine>({ lines, currency, words }: RowsProps<L>) {
  return (
    <Card aria-label="Lines">
      <Table aria-label="Lines">
        <TableHead>
          <TableRow>
            <TableCell sx={{ minWidth: 180 }}>What</TableCell>
            <TableCell align="right">Quantity</TableCell>
            <TableCell align="right" className="wide-only">
              Price
            </TableCell>
            <TableCell align="right" className="wide-only">
              Tax
            </TableCell>
            <TableCell align="right">Amount, {currency}</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {lines.map((line, index) => (
            <TableRow key={index}>
              <TableCell>
                {words(line)}
                <small className="quiet name">
                  {[line.order, line.sku, line.discount === '' ? '' : `${line.discount} off`].filter(Boolean).join(', ')}
                  {line.lots.length === 0 ? '' : `; ${count(line.lots.length, 'lot or serial', 'lots or serials')} ${line.lots.join(', ')}`}
                </small>
              </TableCell>
              <TableCell align="right">{line.asOrdered}</TableCell>
              <TableCell align="right" className="wide-only">
                {line.asOrdered === '' ? '' : line.price}
              </TableCell>
              <TableCell align="right" className="quiet wide-only">
                {Number(line.taxRate) === 0 ? '' : `${quantity(line.taxRate)} %`}
              </TableCell>
              <TableCell align="right" className="strong">
                {amount(line.amount)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

export const IssuedLines = ({ lines, currency }: { lines: readonly InvoiceLine[]; currency: string }) => (
  <Rows lines={lines} currency={currency} words={({ text }) => text} />
);

/** Lines of an invoice that is not issued yet: the words of goods may be others. */
export const DraftLines = ({ lines, currency }: { lines: readonly InvoiceLine[]; currency: string }) => (
  <Rows
    lines={lines}
    currency={currency}
    words={({ text, sku, salesLineId }) =>
      salesLineId === null ? text : <Cell label={`Words for ${sku}`} name={`texts.${textKey(salesLineId)}`} proposed={text} width="100%" />
    }
  />
);
