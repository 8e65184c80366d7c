import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { returnSorts, type ReturnReportRow, type returnWays } from '@larder/contract/returns';
import { lastOfMonth } from '@larder/core/day';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress, useSort, type Address } from '../../kit/address';
import { DayField } from '../../kit/DayField';
import { useIsRested } from '../../kit/delayed';
import { Choice } from '../../kit/Field';
import { count, money, monthName, quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { useSeesCosts } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { OutboundWays } from '../../shared/OutboundWays';
import { useSite } from '../../shared/site';
import { useReturnReportInAllQuery, useReturnReportInfiniteQuery } from './api';

type Way = (typeof returnWays)[number];
const ways = [
  ['reason', 'By reason'],
  ['item', 'By item'],
  ['customer', 'By customer'],
  ['month', 'By month'],
] as const satisfies readonly (readonly [Way, string])[];

/** What came back, added up by why, what, who and when; each row opens into its returns. */
export function ReturnReportPage() {
  useTitle('Returns report');
  const { siteId } = useSite();
  const { data: me } = useMeQuery({});
  const seesCosts = useSeesCosts();
  const navigate = useNavigate();
  const address = useAddress();
  const by = address.choice('by', ways);
  const sort = useSort(address, returnSorts, 'returns', 'down');
  const filter = { by, q: address.get('q'), from: address.get('from') || undefined, to: address.get('to') || undefined, siteId };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useReturnReportInfiniteQuery({ query: question }));
  const { currentData: inAll } = useReturnReportInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const shown = useMemo(() => columns(by, seesCosts, inAll), [by, seesCosts, inAll]);
  const today = me?.company.today ?? '';
  return (
    <ListPage
      title="Returns report"
      beside={<OutboundWays />}
      address={address}
      find={{ label: 'Find in what came back', placeholder: 'Customer, item or reason' }}
      filters={
        <>
          <Box sx={{ width: 150 }}>
            <Choice label="Added up" value={by} onChange={(way) => address.put('by', way)} options={ways.map(([value, label]) => ({ value, label }))} />
          </Box>
          <Box sx={{ width: 150 }}>
            <DayField
              label="Came back from"
              lies="behind"
              value={address.get('from') || null}
              today={today}
              onChange={(day) => address.put('from', day ?? '')}
            />
          </Box>
          <Box sx={{ width: 150 }}>
            <DayField label="to" lies="behind" value={address.get('to') || null} today={today} onChange={(day) => address.put('to', day ?? '')} />
          </Box>
        </>
      }
      noun={by}
      columns={shown}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={({ key }) => key}
      hrefOf={(row) => opens(by, row, address)}
      sort={sort}
      empty={
        <>
          Nothing has come back yet. What does will be added up here by why, what, who and when. <Link to="/outbound/returns">Returns</Link>
        </>
      }
      peek={(row) => (
        <Card component="aside" aria-label={`About ${called(by, row)}`}>
          <h2>
            {called(by, row)}
            <span>{row.detail}</span>
          </h2>
          <p className="pad">
            {count(row.returns, 'return')}
            {row.quantity === '' ? '' : `: ${quantity(row.quantity)} came back of ${quantity(row.wentOut)} that went out`}.
          </p>
          <p className="pad quiet">Enter opens them.</p>
        </Card>
      )}
      next={(row) => row && { label: `Returns of ${called(by, row)}`, run: () => void navigate(opens(by, row, address)) }}
      actions={() => (
        <Button component={Link} to="/outbound/returns">
          All returns
        </Button>
      )}
    />
  );
}

const called = (by: Way, row: ReturnReportRow): string => (by === 'month' ? monthName(row.name) : row.name);

/** The returns that a row adds up. */
function opens(by: Way, row: ReturnReportRow, address: Address): string {
  const asked = new URLSearchParams({ show: 'received', only: called(by, row) });
  for (const name of ['from', 'to']) if (address.get(name)) asked.set(name, address.get(name));
  if (by === 'month') {
    asked.set('from', `${row.name}-01`);
    asked.set('to', lastOfMonth(row.name));
  } else asked.set(by, String(row.key));
  return `/outbound/returns?${asked.toString()}`;
}

const heads: Record<Way, string> = { reason: 'Why', item: 'Item', customer: 'Customer', month: 'Month' };
type InAll = { returns: number; worth: string; scrapped: string } | undefined;

const columns = (by: Way, seesCosts: boolean, inAll: InAll): Column<ReturnReportRow>[] => [
  {
    name: heads[by],
    sort: 'name',
    text: (row) => called(by, row),
    cell: (row) => (
      <>
        <span className={by === 'item' ? 'code strong' : 'strong'}>{called(by, row)}</span>
        {row.detail ? <span className="name">{row.detail}</span> : null}
      </>
    ),
  },
  { name: 'Returns', sort: 'returns', number: true, cell: (row) => row.returns },
  ...(by === 'item'
    ? [
        { name: 'Came back', number: true, cell: (row: ReturnReportRow) => quantity(row.quantity) },
        { name: 'Went out', number: true, wide: true, cell: (row: ReturnReportRow) => quantity(row.wentOut) },
      ]
    : []),
  ...(seesCosts
    ? [
        { name: 'Worth', sort: 'worth' as const, number: true, cell: (row: ReturnReportRow) => money(row.worth), sum: inAll && money(inAll.worth) },
        { name: 'Thrown away', number: true, wide: true, cell: (row: ReturnReportRow) => money(row.scrapped), sum: inAll && money(inAll.scrapped) },
      ]
    : []),
];
