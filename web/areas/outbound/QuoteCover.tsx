import type { SalesOrder } from '@larder/contract/outbound';
import { useRow } from '../../kit/row';
import { useFormContext, useWatch } from 'react-hook-form';
import { useDelayed } from '../../kit/delayed';
import { EffectPanel } from '../../kit/EffectPanel';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useMeQuery } from '../../shared/me';
import type { QuoteForm } from './quoteForm';
import { CoverBar } from '../../kit/CoverBar';
import { useAvailabilityQuery, useForeseeConfirmQuery } from './api';
import { coverWords, coverParts } from './cover';

/** What confirming a saved quote will change. */
export function ConfirmEffects({ order }: { order: SalesOrder }) {
  const { currentData, error } = useForeseeConfirmQuery({ params: { id: order.id }, body: { version: order.version } });
  return <EffectPanel title="What confirming will change" effects={currentData?.effects} error={error} idle="One moment…" />;
}

/** Beside a line as it is typed: how many are here, how many short, what comes when and on which order. */
export function LineCover({ index }: { index: number }) {
  const { control } = useFormContext<QuoteForm>();
  const siteId = useWatch({ control, name: 'siteId' });
  const line = useRow<DraftLine>(`lines.${index}`);
  const { data: me } = useMeQuery({});
  const typed = useDelayed((line && baseQuantity(line)) ?? '0', 150);
  const { currentData } = useAvailabilityQuery({ query: { siteId, itemId: line?.itemId ?? 0, quantity: typed } }, { skip: typed === '0' || !line });
  if (!currentData || !me) return null;
  if (!currentData.stocked) return <small className="quiet">not kept in stock</small>;
  const parts = coverParts(Number(typed), Number(currentData.short), currentData.coming);
  return <CoverBar {...parts} words={coverWords(parts, currentData.coming, currentData.availableOn, me.company.today)} />;
}
