import Button from '@mui/material/Button';
import type { canMakeItem } from '@larder/contract/making';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Link, useParams } from 'react-router';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { CellField } from '../../kit/CellField';
import { useDelayed } from '../../kit/delayed';
import { count, quantity } from '../../kit/format';
import { PageHead, Side, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { DraftsMade } from '../../shared/DraftsMade';
import { useMayAt } from '../../shared/may';
import { useCanMakeItemQuery, useOrderMissingMutation } from './api';
import { MakingSite, useMakingSite } from './MakingSite';
import { NeededTable } from './NeededTable';

type CanMake = ResponseOf<typeof canMakeItem>;

/** How many of an item can be made at a site, what limits it, and what is missing for so many: from there it is ordered or sent for. */
export function CanMakeItemPage() {
  const { id = '' } = useParams();
  const address = useAddress();
  const siteId = useMakingSite(address);
  const typed = address.get('many');
  const asked = useDelayed(typed.trim(), 250);
  const params = { id: Number(id) };
  const query = { siteId: siteId ?? 0, ...(asked === '' ? {} : { quantity: asked }) };
  const { data, currentData, error } = useCanMakeItemQuery({ params, query }, { skip: siteId === undefined });
  useTitle(data ? `Making ${data.sku}` : 'Can be made');
  const shown = currentData ?? data;
  if (!shown || siteId === undefined) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>{shown.sku}</h1>
        <span className="quiet">{shown.name}</span>
        <Side>
          <span className="quiet">How many</span>
          <CellField
            number
            tall
            label="How many are wanted"
            placeholder={shown.quantity}
            value={typed}
            onChange={(value) => address.put('many', value)}
            error={currentData ? undefined : problemOf(error)?.title}
          />
          <MakingSite address={address} />
        </Side>
      </PageHead>
      <p>
        {inWords(shown)} <span className="quiet">Here is what {quantity(shown.quantity)} take, over all levels.</span>
      </p>
      <NeededTable rows={shown.rows} />
      <Ways key={`${siteId} ${shown.quantity}`} of={shown} siteId={siteId} />
    </Stack>
  );
}

const inWords = ({ canMake, limits, free }: CanMake): string =>
  canMake === null
    ? 'Nothing that is kept in stock limits how many can be made.'
    : `${quantity(canMake)} can be made now${Number(free) > 0 ? `, beside ${quantity(free)} that are free` : ''}. ${limits.map(({ sku }) => sku).join(', ')} ${limits.length === 1 ? 'limits' : 'limit'} it.`;

/** From what is missing to what gets it: drafts for the suppliers, and transfers from the sites that have some. */
function Ways({ of, siteId }: { of: CanMake; siteId: number }) {
  const [mayOrder, mayTransfer, mayPlan] = [useMayAt('planning.top-up')(siteId), useMayAt('stock.transfer')(siteId), useMayAt('making.plan')(siteId)];
  const first = of.rows.filter((row) => Number(row.made) > 0);
  const [order, { data: made, error, isLoading }] = useOrderMissingMutation();
  const open = of.rows.filter((row) => Number(row.open) > 0);
  const bought = open.filter((row) => row.supplierId !== null);
  const nobody = open.filter((row) => row.supplierId === null);
  const sites = new Map<number, { name: string; rows: { itemId: number; many: string }[] }>();
  for (const row of open)
    for (const there of row.elsewhere) {
      const site = sites.get(there.siteId) ?? { name: there.site, rows: [] };
      site.rows.push({ itemId: row.itemId, many: Number(there.free) < Number(row.open) ? there.free : row.open });
      sites.set(there.siteId, site);
    }
  const buy = () =>
    order({ body: { rows: bought.map((row) => ({ itemId: row.itemId, siteId, supplierId: row.supplierId as number, quantity: row.open })), place: false } });
  return (
    <>
      <Refused error={error} />
      {made ? <DraftsMade of={made} /> : null}
      {nobody.length > 0 ? <p className="quiet">Nobody is known to buy {nobody.map(({ sku }) => sku).join(', ')} from.</p> : null}
      <BottomBar
        hint={open.length === 0 ? 'Nothing is missing that does not come already' : `${count(open.length, 'part')} missing and not on the way`}
        next={
          mayOrder && bought.length > 0
            ? { label: `Order ${count(bought.length, 'part')}`, run: () => void buy(), disabled: isLoading || made !== undefined }
            : undefined
        }
      >
        <Button component={Link} to={`/making/boms/${of.bomId}`}>
          Bill of materials
        </Button>
        {mayPlan
          ? [{ itemId: of.itemId, sku: of.sku, made: of.quantity }, ...first].slice(0, 4).map((row) => (
              <Button key={row.itemId} component={Link} to={`/making/orders/new?item=${row.itemId}&site=${siteId}&many=${row.made}`}>
                Plan {quantity(row.made)} {row.sku}
              </Button>
            ))
          : null}
        {mayTransfer
          ? [...sites].map(([id, { name, rows }]) => (
              <Button
                key={id}
                component={Link}
                to={`/stock/transfers/new?from=${id}&to=${siteId}&items=${rows.map(({ itemId }) => itemId).join(',')}&quantities=${rows.map(({ many }) => many).join(',')}`}
              >
                Bring {count(rows.length, 'part')} from {name}
              </Button>
            ))
          : null}
      </BottomBar>
    </>
  );
}
