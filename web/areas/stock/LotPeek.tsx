import Button from '@mui/material/Button';
import { Card } from '../../kit/layout';
import { Link } from 'react-router';
import { PeekWaiting } from '../../kit/ListPage';
import { LotLife, LotPlaces } from './LotLife';
import { useTrailQuery } from '../../shared/stock';
import { useLotQuery } from './api';

/** What a lot or serial unit is about: where it is, and what happened to it last. */
export function LotPeek({ id }: { id: number }) {
  const { data, error } = useLotQuery({ params: { id } });
  const { data: life } = useTrailQuery({ query: { lotId: id, limit: 12 } });
  if (!data || data.id !== id) return <PeekWaiting error={error} />;
  return (
    <Card component="aside" aria-label={`About ${data.code}`}>
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
        <Button component={Link} size="small" to={`/items/${data.itemId}`}>
          Item
        </Button>
      </p>
    </Card>
  );
}
