import { useAddress } from '../../kit/address';
import { useTitle } from '../../kit/title';
import { AsOf, useAsOf } from '../../shared/AsOf';
import { StockWays } from '../../shared/StockWays';
import { PastStock } from './PastStock';
import { StockNow } from './StockNow';

/** The stock table: as it stands now, or as it stood at the end of a day. */
export function StockPage() {
  useTitle('Stock');
  const address = useAddress();
  const asOf = useAsOf(address);
  const beside = (
    <>
      <StockWays />
      <AsOf address={address} />
    </>
  );
  return asOf === undefined ? <StockNow address={address} beside={beside} /> : <PastStock address={address} beside={beside} asOf={asOf} />;
}
