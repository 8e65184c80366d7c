import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { correctionSorts, type CorrectionRow, type correctionWays } from '@larder/contract/corrections';
import { lastOfMonth } from '@larder/core/day';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress, useSort, type Address } from '../../kit/address';
import { useIsRested } from '../../kit/delayed';
import { Choice } from '../../kit/Field';
import { count, money, monthName, quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card } from '../../kit/layout';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { DayRange, daysOf } from '../../shared/DayRange';
import { May, useSeesCosts } from '../../shared/may';
import { useReferenceQuery } from '../../shared/reference';
import { useSite } from '../../shared/site';
import { StockWays } from '../../shared/StockWays';
import { useCorrectionReportInfiniteQuery, useCorrectionsInAllQuery } from './api';

type Way = (typeof correctionWays)[number];
const ways = [
  ['reason', 'By reason'],
  ['item', 'By item'],
  ['person', 'By person'],
  ['site', 'By site'],
  ['month', 'By month'],
] as const satisfies readonly (readonly [Way, string])[];

/** Corrections that stand, added up by why, what, who, where and when; a row opens into its items, an item into its trail. */
export function CorrectionsPage() {
  useTitle('Corrections report');
  const { siteId } = useSite();
  const { data: reference } = useReferenceQuery({});
  const isWorthShown = useSeesCosts();
  const navigate = useNavigate();
  const address = useAddress();
  const by = address.choice('by', ways);
  const sort = useSort(address, correctionSorts, 'name');
  const filter = {
    by,
    q: address.get('q'),
    ...daysOf(address),
    reasonId: Number(address.get('reason')) || undefined,
    personId: Number(address.get('person')) || undefined,
    siteId: Number(address.get('site')) || siteId,
  };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useCorrectionReportInfiniteQuery({ query: question }));
  const { currentData: inAll } = useCorrectionsInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const shown = useMemo(() => columns(by, isWorthShown, inAll), [by, isWorthShown, inAll]);
  return (
    <ListPage
      title="Corrections report"
      beside={<StockWays />}
      address={address}
      find={{ label: 'Find in corrections', placeholder: 'Item, reason, person or note' }}
      filters={
        <>
          <Box sx={{ width: 140 }}>
            <Choice label="Added up" value={by} onChange={(way) => address.put('by', way)} options={ways.map(([value, label]) => ({ value, label }))} />
          </Box>
          <Box sx={{ width: 170 }}>
            <Choice
              label="Reason"
              none="Any"
              value={address.get('reason')}
              onChange={(id) => address.put('reason', id)}
              options={(reference?.reasons ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
            />
          </Box>
          <DayRange address={address} />
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
      empty="Nothing was corrected on these days."
      peek={(row) => (
        <Card component="aside" aria-label={`About ${called(by, row)}`}>
          <h2>
            {called(by, row)}
            <span>{row.detail}</span>
          </h2>
          <p className="pad">
            {count(row.lines, 'line')} corrected
            {row.more === '' ? '' : `: ${quantity(row.more)} more, ${quantity(row.fewer)} fewer`}.
          </p>
          <p className="pad quiet">{by === 'item' ? 'Enter opens its trail.' : 'Enter opens its items.'}</p>
        </Card>
      )}
      next={(row) => row && { label: `Open ${called(by, row)}`, run: () => void navigate(opens(by, row, address)) }}
      actions={() => (
        <May to="stock.correct">
          <Button component={Link} to="/stock/correction">
            Correct stock
          </Button>
        </May>
      )}
    />
  );
}

const called = (by: Way, row: CorrectionRow): string => (by === 'month' ? monthName(row.name) : row.name);

/** What a row adds up: its items, held to what the row is of; of an item its trail. */
function opens(by: Way, row: CorrectionRow, address: Address): string {
  if (by === 'item') return `/stock/trail?item=${row.key}`;
  const asked = new URLSearchParams({ by: 'item' });
  for (const name of ['q', 'from', 'to', 'reason', 'person', 'site']) if (address.get(name)) asked.set(name, address.get(name));
  if (by === 'month') {
    asked.set('from', `${row.name}-01`);
    asked.set('to', lastOfMonth(row.name));
  } else asked.set(by, String(row.key));
  return `/stock/corrections?${asked.toString()}`;
}

const heads: Record<Way, string> = { reason: 'Why', item: 'Item', person: 'Who', site: 'Where', month: 'Month' };
type InAll = { lines: number; found: string; lost: string; net: string } | undefined;

const columns = (by: Way, isWorthShown: boolean, inAll: InAll): Column<CorrectionRow>[] => [
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
  { name: 'Lines', sort: 'lines', number: true, cell: (row) => row.lines },
  ...(by === 'item'
    ? [
        { name: 'More', number: true, cell: (row: CorrectionRow) => quantity(row.more, true) },
        { name: 'Fewer', number: true, cell: (row: CorrectionRow) => quantity(row.fewer, true) },
      ]
    : []),
  ...(isWorthShown
    ? [
        { name: 'Found', sort: 'found' as const, number: true, wide: true, cell: (row: CorrectionRow) => money(row.found), sum: inAll && money(inAll.found) },
        { name: 'Lost', sort: 'lost' as const, number: true, wide: true, cell: (row: CorrectionRow) => money(row.lost), sum: inAll && money(inAll.lost) },
        { name: 'Together', sort: 'net' as const, number: true, cell: (row: CorrectionRow) => <b>{money(row.net)}</b>, sum: inAll && money(inAll.net) },
      ]
    : []),
];
