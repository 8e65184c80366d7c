import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import type { SalesOrder } from '@larder/contract/outbound';
import { createContext, use } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { fieldsOf } from '../../kit/formFields';
import { usePut, useRow } from '../../kit/row';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useMeQuery } from '../../shared/me';
import { Breaks, OtherPrice } from '../../shared/PriceSaid';
import type { QuoteForm } from './quoteForm';
import { CoverBar } from '../../kit/CoverBar';
import { useAvailabilityQuery, useForeseeConfirmQuery } from './api';
import { coverWords, coverParts } from './cover';
import type { CustomerTerms } from './useCustomerTerms';

const { Day } = fieldsOf<QuoteForm>();

/** What confirming a saved quote will change. */
export function ConfirmEffects({ order }: { order: SalesOrder }) {
  const { currentData, error } = useForeseeConfirmQuery({ params: { id: order.id }, body: { version: order.version, free: true, expired: true } });
  return <EffectPanel title="What confirming will change" effects={currentData?.effects} error={error} idle="One moment…" />;
}

/** What the customer pays, for the lines of a quote. */
export const PricesContext = createContext<CustomerTerms['of']>(() => undefined);

/** Beside a line as it is typed: where it comes from, what the customer pays for more, and a day of its own. */
export function LineCover({ index }: { index: number }) {
  const line = useRow<DraftLine>(`lines.${index}`);
  const take = usePut<DraftLine>(`lines.${index}`);
  const { data: me } = useMeQuery({});
  const terms = use(PricesContext)(line?.itemId ?? 0);
  if (!line) return null;
  return (
    <>
      <Cover line={line} />
      {terms ? (
        <Box component="small" sx={{ whiteSpace: 'normal', display: 'block', maxWidth: 210 }}>
          {terms.code ? <span className="code quiet">{terms.code} </span> : null}
          <Breaks breaks={terms.breaks} />
          <OtherPrice line={line} terms={terms} take={take} />
        </Box>
      ) : null}
      {line.shipBy === undefined ? (
        <Button size="small" aria-label={`Another day for ${line.sku}`} onClick={() => take({ shipBy: null })}>
          Another day
        </Button>
      ) : (
        <Day label={`Ship ${line.sku} by`} hideLabel name={`lines.${index}.shipBy`} today={me?.company.today ?? ''} />
      )}
    </>
  );
}

/** How many are here, how many short, what comes when and on which order. */
function Cover({ line }: { line: DraftLine }) {
  const { control } = useFormContext<QuoteForm>();
  const siteId = useWatch({ control, name: 'siteId' });
  const { data: me } = useMeQuery({});
  const typed = useDelayed(baseQuantity(line) ?? '0', 150);
  const { currentData } = useAvailabilityQuery({ query: { siteId, itemId: line.itemId, quantity: typed } }, { skip: typed === '0' });
  if (!currentData || !me) return null;
  if (!currentData.stocked) return <small className="quiet">not kept in stock</small>;
  const parts = coverParts(Number(typed), Number(currentData.short), currentData.coming);
  return <CoverBar {...parts} words={coverWords(parts, currentData.coming, currentData.availableOn, me.company.today)} />;
}
