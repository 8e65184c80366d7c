import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import type { SalesOrder } from '@larder/contract/outbound';
import { createContext, use } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { fieldsOf } from '../../kit/formFields';
import { quantity, shortDay } from '../../kit/format';
import { usePut, useRow } from '../../kit/row';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useMeQuery } from '../../shared/me';
import { Breaks, OtherPrice } from '../../shared/PriceSaid';
import { useReferenceQuery } from '../../shared/reference';
import type { QuoteForm } from './quoteForm';
import { CoverBar } from '../../kit/CoverBar';
import { useAvailabilityQuery, useForeseeConfirmQuery } from './api';
import { coverWords, coverParts } from './cover';
import type { CustomerTerms } from './useCustomerTerms';

const { CellChoice: From, Day } = fieldsOf<QuoteForm>();

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
      <Cover line={line} take={take} />
      {terms ? (
        <Box component="small" sx={{ whiteSpace: 'normal', display: 'block', maxWidth: 210 }}>
          {terms.code ? <span className="code quiet">{terms.code} </span> : null}
          <Breaks breaks={terms.breaks} />
          <OtherPrice line={line} terms={terms} take={take} />
        </Box>
      ) : null}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px' }}>
        {line.shipBy === undefined ? (
          <Button size="small" aria-label={`Another day for ${line.sku}`} onClick={() => take({ shipBy: null })}>
            Another day
          </Button>
        ) : (
          <Day label={`Ship ${line.sku} by`} hideLabel name={`lines.${index}.shipBy`} today={me?.company.today ?? ''} />
        )}
        <OwnSite line={line} index={index} take={take} />
      </Box>
    </>
  );
}

interface OfLine {
  line: DraftLine;
  take: (part: Partial<DraftLine>) => void;
}

/** The site that a line comes from, where there are several. */
function OwnSite({ line, index, take }: OfLine & { index: number }) {
  const { control } = useFormContext<QuoteForm>();
  const ofOrder = useWatch({ control, name: 'siteId' });
  const { data: reference } = useReferenceQuery({});
  const sites = reference?.sites ?? [];
  if (sites.length < 2) return null;
  if (line.siteId === undefined || line.siteId === null)
    return (
      <Button size="small" aria-label={`Another site for ${line.sku}`} onClick={() => take({ siteId: sites.find(({ id }) => id !== ofOrder)?.id ?? null })}>
        Another site
      </Button>
    );
  return (
    <From
      label={`${line.sku} comes from`}
      name={`lines.${index}.siteId`}
      ids
      none="as the order"
      options={sites.map(({ id, name }) => ({ value: String(id), label: name }))}
    />
  );
}

/** How many are here, how many short, what comes when and on which order; and where else there are enough. */
function Cover({ line, take }: OfLine) {
  const { control } = useFormContext<QuoteForm>();
  const ofOrder = useWatch({ control, name: 'siteId' });
  const siteId = line.siteId ?? ofOrder;
  const { data: me } = useMeQuery({});
  const typed = useDelayed(baseQuantity(line) ?? '0', 150);
  const { currentData } = useAvailabilityQuery({ query: { siteId, itemId: line.itemId, quantity: typed } }, { skip: typed === '0' });
  if (!currentData || !me) return null;
  if (!currentData.stocked) return <small className="quiet">not kept in stock</small>;
  const parts = coverParts(Number(typed), Number(currentData.short), currentData.coming);
  const other = Number(currentData.short) > 0 ? currentData.elsewhere.find(({ free }) => Number(free) >= Number(typed)) : undefined;
  return (
    <>
      <CoverBar {...parts} words={coverWords(parts, currentData.coming, currentData.availableOn, me.company.today)} />
      <Promised line={line} take={take} day={Number(currentData.short) > 0 ? currentData.availableOn : null} today={me.company.today} />
      {other ? (
        <Button size="small" onClick={() => take({ siteId: other.siteId === ofOrder ? null : other.siteId })}>
          Ship from {other.site}: {quantity(other.free)} free
        </Button>
      ) : null}
    </>
  );
}

/** The day that is promised for a line that is short, or the one that could be. */
function Promised({ line, take, day, today }: OfLine & { day: string | null; today: string }) {
  if (line.promisedOn)
    return (
      <Button size="small" aria-label={`Take back the day promised for ${line.sku}`} onClick={() => take({ promisedOn: null })}>
        Promised for {shortDay(line.promisedOn, today)}: take back
      </Button>
    );
  return day === null ? null : (
    <Button size="small" aria-label={`Promise ${shortDay(day, today)} for ${line.sku}`} onClick={() => take({ promisedOn: day })}>
      Promise {shortDay(day, today)}
    </Button>
  );
}
