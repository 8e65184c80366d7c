import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { decimal } from '@larder/core/decimal';
import { readNumber } from '@larder/core/number';
import { advice } from '@larder/core/inbound/terms';
import { DayField } from '../../kit/DayField';
import { price, quantity } from '../../kit/format';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { agreedPrice, type ItemTerms } from './useTerms';

interface LineTermsProps {
  line: DraftLine;
  terms: ItemTerms | undefined;
  today: string;
  take: (part: Partial<DraftLine>) => void;
}

/** What the supplier's terms say of a line: minimum, packs, breaks, and another price than the one typed; each can be taken. */
export function LineTerms({ today, ...props }: LineTermsProps) {
  const { line, take } = props;
  return (
    <>
      <Said {...props} />
      {line.expectedOn === undefined ? (
        <Button size="small" aria-label={`Another day for ${line.sku}`} onClick={() => take({ expectedOn: null })}>
          Another day
        </Button>
      ) : (
        <DayField label={`Day of ${line.sku}`} hideLabel value={line.expectedOn} today={today} onChange={(expectedOn) => take({ expectedOn })} />
      )}
    </>
  );
}

function Said({ line, terms, take }: Omit<LineTermsProps, 'today'>) {
  const base = baseQuantity(line);
  if (!terms || base === null || decimal(base).isZero()) return null;
  const said = advice(terms, decimal(base));
  const agreed = agreedPrice(line, terms);
  const inUnit = (many: string) => decimal(many).div(line.factor).toDecimalPlaces(4).toFixed();
  return (
    <Box component="small" sx={{ whiteSpace: 'normal', display: 'block', maxWidth: 230 }}>
      {terms.code ? <span className="code quiet">{terms.code} </span> : null}
      {terms.breaks.length > 0 ? (
        <span className="quiet">{terms.breaks.map(({ from, price: each }) => `from ${quantity(from)} at ${price(each)}`).join(', ')}</span>
      ) : null}
      {said ? (
        <Box component="span" sx={{ display: 'block' }}>
          <span className="low">{said.sentence}</span>{' '}
          <Button size="small" onClick={() => take({ quantity: inUnit(said.take) })}>
            Take {quantity(inUnit(said.take))}
          </Button>
        </Box>
      ) : null}
      {line.ownPrice && agreed !== null && !decimal(agreed).eq(decimalOr(line.price, agreed)) ? (
        <Box component="span" sx={{ display: 'block' }}>
          <span className="low">Agreed is {agreed}.</span>{' '}
          <Button size="small" onClick={() => take({ ownPrice: false, price: agreed })}>
            Take it
          </Button>
        </Box>
      ) : null}
    </Box>
  );
}

const decimalOr = (text: string, other: string) => readNumber(text, 'quantity') ?? decimal(other);
