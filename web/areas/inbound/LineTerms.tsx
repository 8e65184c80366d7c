import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { decimal } from '@larder/core/decimal';
import { createContext, use } from 'react';
import { useOfRow, usePut, useRow } from '../../kit/row';
import { advice } from '@larder/core/inbound/terms';
import { fieldsOf } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useMeQuery } from '../../shared/me';
import { Breaks, OtherPrice } from '../../shared/PriceSaid';
import type { DraftForm } from './draftForm';
import type { ItemTerms, OrderTerms } from './useTerms';

const { Day } = fieldsOf<DraftForm>();

/** What the supplier's terms say, for the lines of a draft; of an order in another currency they say nothing. */
export const TermsContext = createContext<OrderTerms['of']>(() => undefined);

/** What the supplier's terms say of a line: minimum, packs, breaks, and another price than the one typed; each can be taken. */
export function LineTerms({ index }: { index: number }) {
  const itemId = useOfRow(`lines.${index}`, (line: DraftLine) => line.itemId);
  const terms = use(TermsContext)(itemId ?? 0);
  return (
    <>
      {terms ? <Said index={index} terms={terms} /> : null}
      <OwnDay index={index} />
    </>
  );
}

/** A day of its own for a line, which is expected with its order until somebody asks for another. */
function OwnDay({ index }: { index: number }) {
  const line = useOfRow(`lines.${index}`, ({ sku, expectedOn }: DraftLine) => ({ sku, hasDay: expectedOn !== undefined }));
  const put = usePut<DraftLine>(`lines.${index}`);
  const { data: me } = useMeQuery({});
  if (!line) return null;
  if (line.hasDay) return <Day label={`Day of ${line.sku}`} hideLabel name={`lines.${index}.expectedOn`} today={me?.company.today ?? ''} />;
  return (
    <Button size="small" aria-label={`Another day for ${line.sku}`} onClick={() => put({ expectedOn: null })}>
      Another day
    </Button>
  );
}

function Said({ index, terms }: { index: number; terms: ItemTerms }) {
  const line = useRow<DraftLine>(`lines.${index}`);
  const take = usePut<DraftLine>(`lines.${index}`);
  const base = line ? baseQuantity(line) : null;
  if (!line || base === null || decimal(base).isZero()) return null;
  const said = advice(terms, decimal(base));
  const inUnit = (many: string) => decimal(many).div(line.factor).toDecimalPlaces(4).toFixed();
  return (
    <Box component="small" sx={{ whiteSpace: 'normal', display: 'block', maxWidth: 230 }}>
      {terms.code ? <span className="code quiet">{terms.code} </span> : null}
      <Breaks breaks={terms.breaks} />
      {said ? (
        <Box component="span" sx={{ display: 'block' }}>
          <span className="low">{said.sentence}</span>{' '}
          <Button size="small" onClick={() => take({ quantity: inUnit(said.take) })}>
            Take {quantity(inUnit(said.take))}
          </Button>
        </Box>
      ) : null}
      <OtherPrice line={line} terms={terms} take={take} />
    </Box>
  );
}
