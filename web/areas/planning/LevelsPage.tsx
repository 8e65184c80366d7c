import Button from '@mui/material/Button';
import Popover from '@mui/material/Popover';
import { styled } from '@mui/material/styles';
import { levelSorts, type LevelRow } from '@larder/contract/levels';
import { patterns } from '@larder/core/planning/forecast/pattern';
import { itemClasses } from '@larder/core/stock/counting';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useAddress, useSort, type Address } from '../../kit/address';
import { AddressTabs } from '../../kit/AddressTabs';
import { CellCheck } from '../../kit/Check';
import { useIsRested } from '../../kit/delayed';
import { Choice } from '../../kit/Field';
import { quantity } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Card, Stack } from '../../kit/layout';
import type { Column } from '../../kit/ListTable';
import { useTitle } from '../../kit/title';
import { CategoryFilter } from '../../shared/CategoryFilter';
import { useMay } from '../../shared/may';
import { usePartiesQuery } from '../../shared/reference';
import { Report } from '../../shared/Report';
import { useSite } from '../../shared/site';
import { useLevelsInAllQuery, useLevelsInfiniteQuery } from './api';
import { BulkLevels } from './BulkLevels';
import { LevelFigures } from './LevelFigures';
import { levelsInWords, patternWords, wayInWords } from './levelWords';
import { LookBar } from './LookBar';
import { PlanningWays } from './PlanningWays';

const states = [
  ['differs', 'To decide'],
  ['unset', 'Without levels'],
  ['refused', 'Refused'],
  ['all', 'All'],
] as const;

/** Tells an item at a site from others by one number. */
const keyOf = ({ itemId, siteId }: Pick<LevelRow, 'itemId' | 'siteId'>): number => itemId * 100_000 + siteId;
const pathOf = ({ itemId, siteId }: Pick<LevelRow, 'itemId' | 'siteId'>): string => `/planning/levels/${itemId}/${siteId}`;

/** Levels of all items at all sites, with what their past says for them. */
export function LevelsPage() {
  useTitle('Levels');
  const navigate = useNavigate();
  const address = useAddress();
  const { siteId } = useSite();
  const may = useMay('items.edit', null);
  const sort = useSort(address, levelSorts, 'daysOut', 'down');
  const filter = {
    q: address.get('q'),
    siteId,
    state: address.choice('state', states),
    categoryId: Number(address.get('category')) || undefined,
    supplierId: Number(address.get('supplier')) || undefined,
    class: itemClasses.find((one) => one === address.get('class')),
    pattern: patterns.find((one) => one === address.get('pattern')),
  };
  const question = { ...filter, sort: sort.key, direction: sort.direction };
  const useList = () => useGoing(useLevelsInfiniteQuery({ query: question }));
  const { currentData: inAll } = useLevelsInAllQuery({ query: filter }, { skip: !useIsRested(filter, 300) });
  const [chosen, setChosen] = useState<readonly LevelRow[]>([]);
  const columns = useMemo(() => {
    const toggle = (row: LevelRow) =>
      setChosen((now) => (now.some((one) => keyOf(one) === keyOf(row)) ? now.filter((one) => keyOf(one) !== keyOf(row)) : [...now, row]));
    return columnsOf(may, chosen, toggle);
  }, [may, chosen]);
  const some = chosen.length > 0 || (may && filter.state === 'differs' && address.get('all') !== '');
  return (
    <Report
      laidOutAs="levels"
      keptAs="levels"
      out={{ list: 'policies', called: 'levels', only: { q: filter.q } }}
      title="Levels"
      beside={
        <>
          <PlanningWays />
          <LookBar />
        </>
      }
      address={address}
      find={{ label: 'Find items', placeholder: 'SKU or name' }}
      filters={
        <>
          <AddressTabs label="Which of them" address={address} name="state" options={states} />
          <CategoryFilter address={address} />
          <MoreFilters address={address} />
        </>
      }
      choosing={{
        has: (row) => chosen.some((one) => keyOf(one) === keyOf(row)),
        set: (rows, on) => {
          const keys = rows.map(keyOf);
          setChosen((now) => [...now.filter((one) => !keys.includes(keyOf(one))), ...(on ? rows : [])]);
        },
      }}
      instead={
        some ? (
          <BulkLevels
            rows={chosen}
            all={chosen.length === 0 ? { filter, count: inAll?.count ?? 0 } : null}
            done={() => {
              setChosen([]);
              address.put('all', '');
            }}
          />
        ) : undefined
      }
      noun="level"
      columns={columns}
      count={inAll?.count}
      useList={useList}
      question={question}
      keyOf={keyOf}
      hrefOf={pathOf}
      sort={sort}
      empty={emptyWords[filter.state]}
      peek={(row) => <LevelPeek row={row} />}
      next={(row) => row && { label: `Look at ${row.sku}`, run: () => void navigate(pathOf(row)) }}
      actions={() => (
        <>
          {chosen.length > 0 ? <Button onClick={() => setChosen([])}>Choose none</Button> : null}
          {may && filter.state === 'differs' && chosen.length === 0 && (inAll?.count ?? 0) > 0 ? (
            <Button onClick={() => address.put('all', 'yes')}>Accept all shown…</Button>
          ) : null}
          {may ? (
            <Button component={Link} to="/import?kind=policies">
              Import
            </Button>
          ) : null}
        </>
      )}
    />
  );
}

const emptyWords: Record<(typeof states)[number][0], string> = {
  differs: 'Nothing is suggested otherwise than it is. Suggestions come once the past was looked at; each says how it was reckoned.',
  unset: 'Every item that moves has levels where it moves.',
  refused: 'No suggestion was refused.',
  all: 'No item has levels, and nothing was wanted yet. Levels are set on items, for many at once here, or by import.',
};

function MoreFilters({ address }: { address: Address }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { data: suppliers } = usePartiesQuery({ query: { as: 'supplier' } });
  const field = (name: string) => ({ value: address.get(name), onChange: (value: string) => address.put(name, value) });
  const on = ['supplier', 'class', 'pattern'].filter((name) => address.get(name) !== '').length;
  return (
    <>
      <Button aria-haspopup="dialog" onClick={(event) => setAnchor(event.currentTarget)}>
        More filters{on > 0 ? ` (${on})` : ''}
      </Button>
      <Popover open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <Stack pad sx={{ width: 280 }} role="dialog" aria-label="More filters">
          <Choice
            label="Supplier"
            none="Any"
            {...field('supplier')}
            options={(suppliers?.rows ?? []).map(({ id, name }) => ({ value: String(id), label: name }))}
          />
          <Choice label="Class" none="Any" {...field('class')} options={itemClasses.map((one) => ({ value: one, label: one }))} />
          <Choice
            label="Demand"
            none="Any"
            {...field('pattern')}
            options={patterns.filter((one) => one !== 'none').map((one) => ({ value: one, label: patternWords[one] }))}
          />
        </Stack>
      </Popover>
    </>
  );
}

const columnsOf = (may: boolean, chosen: readonly LevelRow[], toggle: (row: LevelRow) => void): Column<LevelRow>[] => [
  ...(may
    ? [
        {
          name: '',
          cell: (row: LevelRow) => (
            <CellCheck label={`Choose ${row.sku} at ${row.site}`} checked={chosen.some((one) => keyOf(one) === keyOf(row))} onChange={() => toggle(row)} />
          ),
        },
      ]
    : []),
  {
    name: 'Item',
    sort: 'sku',
    text: (row) => row.sku,
    cell: (row) => (
      <>
        <span className="code strong">{row.sku}</span>
        <span className="name">{row.name}</span>
      </>
    ),
  },
  { name: 'At', cell: (row) => <OneLine className="quiet">{row.site}</OneLine> },
  { name: 'Class', wide: true, apart: true, cell: (row) => row.class },
  { name: 'Demand', wide: true, cell: (row) => (row.suggested ? patternWords[row.suggested.pattern] : <span className="quiet">none</span>) },
  { name: 'Wanted in a year', sort: 'wanted', number: true, wide: true, cell: (row) => (row.suggested ? quantity(row.suggested.wantedYear, true) : '') },
  {
    name: 'As it is',
    cell: (row) => (
      <>
        <OneLine>{levelsInWords(row)}</OneLine>
        <small className="quiet name">{wayInWords(row)}</small>
      </>
    ),
  },
  {
    name: 'Suggested',
    cell: (row) =>
      row.suggested === null ? (
        ''
      ) : (
        <>
          <OneLine className="strong">
            {quantity(row.suggested.point)}, up to {quantity(row.suggested.upTo)}
          </OneLine>
          {row.suggested.decision === null ? null : (
            <small className="quiet name">
              {row.suggested.decision}
              {row.suggested.reason === '' ? '' : `: ${row.suggested.reason}`}
            </small>
          )}
        </>
      ),
  },
  {
    name: 'Days out, last year',
    sort: 'daysOut',
    number: true,
    wide: true,
    cell: (row) => (row.suggested ? `${row.suggested.daysOutNow ?? '–'} → ${row.suggested.daysOut}` : ''),
  },
];

// What stands in each row has a style that is made once.
const OneLine = styled('span')({ whiteSpace: 'nowrap' });

/** What a row of the list is about: its levels beside those suggested, and what each would have meant. */
function LevelPeek({ row }: { row: LevelRow }) {
  const { suggested } = row;
  return (
    <Card component="aside" aria-label={`About ${row.sku} at ${row.site}`}>
      <h2>
        {row.sku}
        <span>{row.site}</span>
      </h2>
      {suggested === null ? (
        <p className="pad quiet">Nothing of it was wanted here within three years, so nothing is suggested.</p>
      ) : (
        <LevelFigures
          now={{
            point: row.point ?? undefined,
            upTo: row.upTo ?? undefined,
            daysOut: suggested.daysOutNow ?? undefined,
            averageStock: suggested.averageStockNow ?? undefined,
          }}
          suggested={suggested}
          unitCost={row.unitCost}
        />
      )}
      <p className="pad">
        <Link to={pathOf(row)}>How this is reckoned</Link>
      </p>
    </Card>
  );
}
