import Box from '@mui/material/Box';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { availability, SalesOrder } from '@larder/contract/outbound';
import { decimal, least } from '@larder/core/decimal';
import { createContext, use } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { fieldsOf } from '../../kit/formFields';
import { quantity, shortDay } from '../../kit/format';
import { MenuButton, type Way } from '../../kit/MenuButton';
import { useOfRow, usePut, useRow } from '../../kit/row';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { menuOfLine } from '../../shared/LineSheet';
import { Breaks, OtherPrice } from '../../shared/PriceSaid';
import { useReferenceQuery } from '../../shared/reference';
import { broughtOf, straightOf, type QuoteForm } from './quoteForm';
import { useSwap } from './useSwap';
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

/** Beside a line as it is typed: where it comes from, what the customer pays for more, and what can be done about it. */
export function LineCover({ index }: OfLine) {
  const line = useOfRow(`lines.${index}`, partsOf);
  const itemId = line?.itemId ?? 0;
  const terms = use(PricesContext)(itemId);
  const { control } = useFormContext<QuoteForm>();
  const ofOrder = useWatch({ control, name: 'siteId' });
  const { data: me } = useMeQuery({});
  const { data: reference } = useReferenceQuery({});
  const typed = useDelayed(line?.base ?? '0', 150);
  const { currentData: found } = useAvailabilityQuery({ query: { siteId: line?.siteId ?? ofOrder, itemId, quantity: typed } }, { skip: typed === '0' });
  const take = usePut<DraftLine>(`lines.${index}`);
  const swap = useSwap(index);
  const mayTransfer = useMay('stock.transfer', line?.siteId ?? ofOrder);
  if (!line || !me) return null;
  const { today } = me.company;
  const sites = reference?.sites ?? [];
  const short = found?.stocked ? Number(found.short) : 0;
  const ways = [
    ...(found && short > 0
      ? gapWays(found, { typed, ofOrder, today, promisedOn: line.promisedOn, mayBring: mayTransfer && Number(line.brought) === 0, take, swap })
      : []),
    ...backWays(line, today, take, swap),
    ...ownWays(line, sites, ofOrder, take),
  ];
  return (
    <>
      {found ? <Cover found={found} typed={typed} today={today} /> : null}
      {Number(line.direct) > 0 ? <small className="quiet name">{quantity(line.direct)} straight from a supplier</small> : null}
      {line.bring && Number(line.brought) > 0 ? (
        <small className="quiet name">
          {quantity(line.brought)} brought from {line.bring.site}
        </small>
      ) : null}
      {line.promisedOn ? <small className="quiet name">promised for {shortDay(line.promisedOn, today)}</small> : null}
      {terms ? <Terms index={index} terms={terms} /> : null}
      {line.hasDay ? <Day label={`Ship ${line.sku} by`} hideLabel name={`lines.${index}.shipBy`} today={today} /> : null}
      {line.siteId ? (
        <From
          label={`${line.sku} comes from`}
          name={`lines.${index}.siteId`}
          ids
          none="as the order"
          options={sites.map(({ id, name }) => ({ value: String(id), label: name }))}
        />
      ) : null}
      <MenuButton
        words={short > 0 ? `Fill ${quantity(String(short))}` : 'More'}
        label={short > 0 ? `Fill what ${line.sku} is short of` : `More for ${line.sku}`}
        ways={ways}
        place={menuOfLine}
      />
    </>
  );
}

interface OfLine {
  index: number;
}

/** What of a line its cover goes by. */
const partsOf = (now: DraftLine) => ({
  itemId: now.itemId,
  sku: now.sku,
  siteId: now.siteId,
  base: decimal(baseQuantity(now) ?? '0')
    .minus(straightOf(now))
    .toFixed(),
  direct: straightOf(now),
  bring: now.bring,
  brought: broughtOf(now),
  asked: now.asked,
  promisedOn: now.promisedOn,
  hasDay: now.shipBy !== undefined,
});
type Parts = ReturnType<typeof partsOf>;
type Found = ResponseOf<typeof availability>;
type Take = (part: Partial<DraftLine>) => void;
type Swap = (sku: string) => Promise<void>;

interface GapFacts {
  typed: string;
  ofOrder: number;
  today: string;
  promisedOn: string | null | undefined;
  mayBring: boolean;
  take: Take;
  swap: Swap;
}

/** What can be done about what is short: from another site or item that has enough, straight from a supplier, or promised for when it comes. */
function gapWays(found: Found, { typed, ofOrder, today, promisedOn, mayBring, take, swap }: GapFacts): Way[] {
  const enough = ({ free }: { free: string }) => Number(free) >= Number(typed);
  const other = found.elsewhere.find(enough);
  const substitute = found.substitutes.find(enough);
  const day = found.availableOn;
  const [gives] = found.elsewhere;
  return [
    ...(mayBring && gives
      ? [
          {
            words: `Bring ${quantity(leastOf(found.short, gives.free))} from ${gives.site}`,
            run: () => take({ bring: { siteId: gives.siteId, site: gives.site, quantity: leastOf(found.short, gives.free) } }),
          },
        ]
      : []),
    ...(other
      ? [{ words: `Ship from ${other.site}: ${quantity(other.free)} free`, run: () => take({ siteId: other.siteId === ofOrder ? null : other.siteId }) }]
      : []),
    ...(substitute ? [{ words: `Swap for ${substitute.sku}: ${quantity(substitute.free)} free`, run: () => void swap(substitute.sku) }] : []),
    { words: `Have ${quantity(found.short)} sent straight from a supplier`, run: () => take({ direct: found.short }) },
    ...(day !== null && day !== promisedOn ? [{ words: `Promise ${shortDay(day, today)}`, run: () => take({ promisedOn: day }) }] : []),
  ];
}

const leastOf = (a: string, b: string): string => least(decimal(a), decimal(b)).toFixed();

/** What was chosen for a line, taken back. */
const backWays = ({ direct, brought, promisedOn, asked }: Parts, today: string, take: Take, swap: Swap): Way[] => [
  ...(Number(direct) > 0 ? [{ words: 'Not from a supplier after all', run: () => take({ direct: '0' }) }] : []),
  ...(Number(brought) > 0 ? [{ words: 'Not from another site after all', run: () => take({ bring: null }) }] : []),
  ...(promisedOn ? [{ words: `Take back the promise of ${shortDay(promisedOn, today)}`, run: () => take({ promisedOn: null }) }] : []),
  ...(asked ? [{ words: `Back to ${asked.sku}`, run: () => void swap(asked.sku) }] : []),
];

/** A day and a site of its own. */
const ownWays = ({ hasDay, siteId }: Parts, sites: readonly { id: number }[], ofOrder: number, take: Take): Way[] => [
  ...(hasDay ? [] : [{ words: 'Another day', run: () => take({ shipBy: null }) }]),
  ...(siteId || sites.length < 2 ? [] : [{ words: 'Another site', run: () => take({ siteId: sites.find(({ id }) => id !== ofOrder)?.id ?? null }) }]),
];

/** How many are here, how many short, what comes when and on which order. */
function Cover({ found, typed, today }: { found: Found; typed: string; today: string }) {
  if (!found.stocked) return <small className="quiet">not kept in stock</small>;
  const parts = coverParts(Number(typed), Number(found.short), found.coming);
  return <CoverBar {...parts} words={coverWords(parts, found.coming, found.availableOn, today)} />;
}

/** What the customer calls it, and pays for it. */
function Terms({ index, terms }: OfLine & { terms: NonNullable<ReturnType<CustomerTerms['of']>> }) {
  const line = useRow<DraftLine>(`lines.${index}`);
  const take = usePut<DraftLine>(`lines.${index}`);
  return line ? (
    <Box component="small" sx={{ whiteSpace: 'normal', display: 'block', maxWidth: 210 }}>
      {terms.code ? <span className="code quiet">{terms.code} </span> : null}
      <Breaks breaks={terms.breaks} />
      <OtherPrice line={line} terms={terms} take={take} />
    </Box>
  ) : null;
}
