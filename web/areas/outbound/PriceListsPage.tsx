import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { count } from '../../kit/format';
import { PageHead, Stack } from '../../kit/layout';
import { ListTable } from '../../kit/ListTable';
import { Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { ExportButton } from '../../shared/ExportButton';
import { May } from '../../shared/may';
import { usePriceListsQuery } from '../../shared/reference';
import { OutboundWays } from '../../shared/OutboundWays';

/** The price lists there are, and who buys by them. */
export function PriceListsPage() {
  useTitle('Price lists');
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const { data, error } = usePriceListsQuery({});
  if (!data) return <Waiting error={error} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Price lists</h1>
        <OutboundWays />
      </PageHead>
      <ListTable
        label="Price lists"
        columns={[
          { name: 'List', text: (row) => row.name, cell: (row) => <Link to={`/outbound/prices/${row.id}`}>{row.name}</Link> },
          {
            name: 'For',
            cell: (row) => (row.forAll ? 'everybody' : row.customers === 0 ? <span className="quiet">nobody yet</span> : count(row.customers, 'customer')),
          },
          { name: 'Prices', number: true, cell: (row) => row.prices },
          { name: 'In use', cell: (row) => (row.retired ? <span className="quiet">retired</span> : 'yes') },
        ]}
        rows={data.rows}
        keyOf={({ id }) => id}
        selected={chosen}
        select={setChosen}
        open={({ id }) => void navigate(`/outbound/prices/${id}`)}
        empty="No price list yet: every customer pays the sales price of an item. A list can have other prices, for some or for all."
      />
      <BottomBar hint="Enter opens the list">
        <ExportButton list="prices" />
        <May to="items.edit">
          <Button component={Link} to="/import?kind=prices">
            Import
          </Button>
          <Button component={Link} to="/outbound/prices/new">
            New price list
          </Button>
        </May>
      </BottomBar>
    </Stack>
  );
}
