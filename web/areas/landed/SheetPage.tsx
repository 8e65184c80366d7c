import { useParams, useSearchParams } from 'react-router';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { useReceiptLinesQuery, useSheetQuery } from './api';
import { Working } from './SheetWorking';

/** The landed cost worksheet: charges above, the lines with their shares below, worked out as it is typed. */
export function SheetPage() {
  const { id = 'new' } = useParams();
  const isNew = id === 'new';
  const [search] = useSearchParams();
  const { currentData: sheet, error } = useSheetQuery({ params: { id: Number(id) } }, { skip: isNew });
  const chosen = search.get('receipts') ?? '';
  const { currentData: fresh, error: none } = useReceiptLinesQuery({ query: { movementIds: chosen } }, { skip: !isNew });
  const { data: me } = useMeQuery({});
  useTitle(sheet?.number ?? 'Landed cost worksheet');
  const lines = isNew ? fresh?.rows : sheet?.lines;
  if (!me || !lines || (!isNew && !sheet)) return <Waiting error={error ?? none} />;
  return (
    <Working
      key={isNew ? 'new' : sheet?.id}
      sheet={isNew ? null : (sheet ?? null)}
      lines={lines}
      ordered={isNew ? (fresh?.charges ?? []) : []}
      movementIds={isNew ? chosen.split(',').map(Number) : (sheet?.movementIds ?? [])}
      currency={me.company.currency}
    />
  );
}
