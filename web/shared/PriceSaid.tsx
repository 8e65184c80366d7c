import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { decimal } from '@larder/core/decimal';
import { readNumber } from '@larder/core/number';
import { price, quantity } from '../kit/format';
import { agreedPrice, type Agreed } from './agreedPrices';
import type { DraftLine } from './draftLines';

/** From how many on an item costs another price. */
export const Breaks = ({ breaks }: Pick<Agreed, 'breaks'>) =>
  breaks.length > 0 ? <span className="quiet">{breaks.map(({ from, price: each }) => `from ${quantity(from)} at ${price(each)}`).join(', ')}</span> : null;

/** That a line has another price than what was agreed, which can be taken. */
export function OtherPrice({ line, terms, take }: { line: DraftLine; terms: Agreed; take: (part: Partial<DraftLine>) => void }) {
  const agreed = agreedPrice(line, terms);
  if (!line.ownPrice || agreed === null || decimal(agreed).eq(readNumber(line.price, 'price') ?? agreed)) return null;
  return (
    <Box component="span" sx={{ display: 'block' }}>
      <span className="low">Agreed is {agreed}.</span>{' '}
      <Button size="small" onClick={() => take({ ownPrice: false, price: agreed })}>
        Take it
      </Button>
    </Box>
  );
}
