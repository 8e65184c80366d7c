import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { Card, Ways } from '../../kit/layout';
import { Waiting } from '../../kit/states';
import { useTrailQuery } from '../../shared/stock';
import { TrailTable } from '../../shared/TrailTable';

/** The last movements of an item; all of them are the trail's own page. */
export function ItemTrail({ itemId, siteId }: { itemId: number; siteId: number | undefined }) {
  const { data, error } = useTrailQuery({ query: { itemId, siteId, limit: 30 } });
  if (!data) return <Waiting error={error} />;
  if (data.rows.length === 0)
    return (
      <Card state component="p">
        It has not moved yet. Receipts, picks and corrections will be listed as they are posted.
      </Card>
    );
  return (
    <>
      <TrailTable rows={data.rows} ofOneItem />
      <Ways>
        <Button component={Link} to={`/stock/trail?item=${itemId}`}>
          {data.next === null ? 'Open as a page' : 'The whole trail'}
        </Button>
      </Ways>
    </>
  );
}
