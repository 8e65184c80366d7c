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
        <button type="button" className="button small" aria-label={`Another day for ${line.sku}`} onClick={() => take({ expectedOn: null })}>
          Another day
        </button>
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
    <small style={{ whiteSpace: 'normal', display: 'block', maxWidth: 230 }}>
      {terms.code ? <span className="code quiet">{terms.code} </span> : null}
      {terms.breaks.length > 0 ? (
        <span className="quiet">{terms.breaks.map(({ from, price: each }) => `from ${quantity(from)} at ${price(each)}`).join(', ')}</span>
      ) : null}
      {said ? (
        <span style={{ display: 'block' }}>
          <span className="low">{said.sentence}</span>{' '}
          <button type="button" className="button small" onClick={() => take({ quantity: inUnit(said.take) })}>
            Take {quantity(inUnit(said.take))}
          </button>
        </span>
      ) : null}
      {line.ownPrice && agreed !== null && !decimal(agreed).eq(decimalOr(line.price, agreed)) ? (
        <span style={{ display: 'block' }}>
          <span className="low">Agreed is {agreed}.</span>{' '}
          <button type="button" className="button small" onClick={() => take({ ownPrice: false, price: agreed })}>
            Take it
          </button>
        </span>
      ) : null}
    </small>
  );
}

const decimalOr = (text: string, other: string) => readNumber(text, 'quantity') ?? decimal(other);
