import { Card, PageHead, Side } from '../../kit/layout';
import { Link, useSearchParams } from 'react-router';
import { isDay } from '@larder/core/day';
import { BottomBar } from '../../kit/BottomBar';
import { shortDay } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Onward } from '../../kit/Onward';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { ExportButton } from '../../shared/ExportButton';
import { useItemQuery } from '../../shared/items';
import { useTrailListInfiniteQuery } from '../../shared/stock';
import { TrailTable } from '../../shared/TrailTable';

/** Movements, newest first: who, when, why, which document, from where to where, how many, at what cost. */
export function TrailPage() {
  useTitle('Trail');
  const [search] = useSearchParams();
  const itemId = Number(search.get('item')) || undefined;
  const until = search.get('until') ?? '';
  const measure = (['on-hand', 'bench'] as const).find((one) => one === search.get('measure')) ?? ('all' as const);
  const filter = {
    itemId,
    siteId: Number(search.get('site')) || undefined,
    placeId: Number(search.get('place')) || undefined,
    lotId: Number(search.get('lot')) || undefined,
    measure,
    until: isDay(until) ? until : undefined,
  };
  const list = useGoing(useTrailListInfiniteQuery({ query: filter }));
  const { currentData: item } = useItemQuery({ params: { id: itemId ?? 0 } }, { skip: itemId === undefined });
  if (!list.rows) return <Waiting error={list.error} />;
  return (
    <>
      <PageHead>
        <h1>Trail</h1>
        {item && itemId ? (
          <Link to={`/items/${itemId}`}>
            <span className="code">{item.sku}</span> {item.name}
          </Link>
        ) : (
          <span className="quiet">every movement, newest first</span>
        )}
        {filter.until === undefined ? null : <span className="quiet">up to {shortDay(filter.until)}</span>}
        <Side>
          <ExportButton list="trail" only={{ itemId }} />
        </Side>
      </PageHead>
      {list.rows.length === 0 ? (
        <Card state component="p">
          Nothing has moved here yet. Receipts, picks and corrections will be listed as they are posted.
        </Card>
      ) : (
        <TrailTable rows={list.rows} ofOneItem={itemId !== undefined} />
      )}
      <Onward list={list} />
      <BottomBar hint="The trail only grows: what was wrong is undone, and both stay" />
    </>
  );
}
