import { Link } from 'react-router';
import { PeekWaiting } from '../../kit/ListPage';
import { LotLife, LotPlaces } from './LotLife';
import { useLotQuery, useTrailQuery } from './api';

/** What a lot or serial unit is about: where it is, and what happened to it last. */
export function LotPeek({ id }: { id: number }) {
  const { data, error } = useLotQuery({ params: { id } });
  const { data: life } = useTrailQuery({ query: { lotId: id, limit: 12 } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <aside className="card" aria-label={`About ${data.code}`}>
      <h2>
        <span className="code">{data.code}</span>
        <span>
          {data.sku} {data.name}
        </span>
      </h2>
      <LotPlaces places={data.places} />
      <h2>What happened last</h2>
      <LotLife rows={life?.rows ?? []} short />
      <p className="pad">
        <Link className="button small" to={`/items/${data.itemId}`}>
          Item
        </Link>
      </p>
    </aside>
  );
}
