import type { InvoicePosted } from '@larder/contract/invoices';
import { amount, quantity } from '../../kit/format';
import { Totals } from '../../kit/layout';

/** What an invoice or credit note comes to, with its tax by rate. */
export const TotalsOf = ({ of }: { of: Pick<InvoicePosted, 'net' | 'taxes' | 'total' | 'currency'> }) => (
  <Totals component="p">
    <span>
      Without tax <b>{amount(of.net)}</b>
    </span>
    {of.taxes
      .filter(({ rate }) => Number(rate) !== 0)
      .map(({ rate, tax }) => (
        <span key={rate}>
          {quantity(rate)} % tax <b>{amount(tax)}</b>
        </span>
      ))}
    <span>
      Total{' '}
      <b>
        {amount(of.total)} {of.currency}
      </b>
    </span>
  </Totals>
);
