import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import { Card, PageHead, Side, Split } from './layout';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { Address } from './address';
import { BottomBar, type NextStep } from './BottomBar';
import { count } from './format';
import { ColumnMenu } from './ColumnMenu';
import { ListTable, type Choosing, type Column, type Laying } from './ListTable';
import { Pager } from './Pager';
import type { Pages } from './pages';
import { Waiting } from './states';
import { FindField } from './FindField';

export interface ListPageProps<T> {
  title: string;
  /** Beside the title: other ways into the same things. */
  beside?: ReactNode;
  address: Address;
  /** The field to find rows by words. */
  find: { label: string; placeholder: string };
  /** Beside that field: what else the list can be held to. */
  filters?: ReactNode;
  /** What one row is, and several. */
  noun: string;
  columns: readonly Column<T>[];
  data: { rows: readonly T[]; next: string | null } | undefined;
  error: unknown;
  pages: Pages;
  keyOf: (row: T) => number;
  hrefOf: (row: T) => string;
  sort?: { key: string; direction: 'up' | 'down'; change: (key: string) => void };
  choosing?: Choosing<T>;
  laying?: Laying;
  /** Said when there is nothing yet: what will be here, and how to get the first. */
  empty: ReactNode;
  /** What the selected row is about. */
  peek: (row: T) => ReactNode;
  /** Instead of the peek, while it is there. */
  instead?: ReactNode;
  next: (row: T | undefined) => NextStep | undefined;
  actions: (row: T | undefined) => ReactNode;
}

/** List and peek: a list on the left, what the selected row is about on the right; arrow keys move, Enter opens. */
export function ListPage<T>({
  title,
  beside,
  address,
  find,
  filters,
  noun,
  columns,
  data,
  error,
  pages,
  keyOf,
  hrefOf,
  sort,
  empty,
  peek,
  choosing,
  laying,
  ...bar
}: ListPageProps<T>) {
  const navigate = useNavigate();
  const [chosen, setChosen] = useState({ of: pages.identity, row: 0 });
  const selected = chosen.of === pages.identity ? chosen.row : 0;
  const row = data?.rows[selected];
  return (
    <Split fill>
      <div>
        <PageHead>
          <h1>{title}</h1>
          {beside}
          <Side>
            <FindField address={address} label={find.label} placeholder={find.placeholder} />
            {filters}
          </Side>
        </PageHead>
        {data ? (
          <ListTable
            label={title}
            columns={columns}
            rows={data.rows}
            keyOf={keyOf}
            selected={selected}
            select={(index) => setChosen({ of: pages.identity, row: index })}
            open={(one) => void navigate(hrefOf(one))}
            sort={sort}
            choosing={choosing}
            laying={laying}
            empty={address.isNarrowed ? <NothingFits address={address} /> : empty}
          />
        ) : (
          <Waiting error={error} />
        )}
        <Box component="p" sx={{ paddingTop: 10 }}>
          <Pager pages={pages} next={data?.next} />
        </Box>
      </div>
      {bar.instead ?? (row ? peek(row) : <span />)}
      <BottomBar hint={data ? `${count(data.rows.length, noun)} shown; arrow keys move, Enter opens` : ''} next={bar.next(row)}>
        {laying ? <ColumnMenu columns={columns} {...laying} /> : null}
        {bar.actions(row)}
      </BottomBar>
    </Split>
  );
}

/** That nothing fits what is asked, and the way to everything. */
const NothingFits = ({ address }: { address: Address }) => (
  <>
    Nothing fits.{' '}
    <Button size="small" onClick={address.widen}>
      Show everything
    </Button>
  </>
);

/** A peek while what it is about is not read yet. */
export const PeekWaiting = ({ error }: { error: unknown }) => (
  <Card component="aside">
    <Waiting error={error} />
  </Card>
);
