import Button from '@mui/material/Button';
import { Card, PageHead, Side, Split } from './layout';
import { useMemo, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import type { Address } from './address';
import { BottomBar, type NextStep } from './BottomBar';
import { count } from './format';
import { ColumnMenu } from './ColumnMenu';
import { ListTable, type Choosing, type Column, type Laying, type Opening } from './ListTable';
import type { Going } from './going';
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
  /** The rows as far as they are read: asked below the page's head, which is not drawn anew when more of them come. */
  useList: () => Going<T>;
  /** What is asked; another question begins at the first row. */
  question: object;
  /** How many fit in all, when that is known. */
  count?: number | undefined;
  keyOf: (row: T) => number;
  hrefOf: (row: T) => string;
  sort?: { key: string; direction: 'up' | 'down'; change: (key: string) => void };
  choosing?: Choosing<T>;
  opening?: Opening<T>;
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
export function ListPage<T>({ beside, find, filters, ...listed }: ListPageProps<T>) {
  const { title, address } = listed;
  return (
    <Split fill>
      <Listed
        {...listed}
        head={
          <PageHead>
            <h1>{title}</h1>
            {beside}
            <Side>
              <FindField address={address} label={find.label} placeholder={find.placeholder} />
              {filters}
            </Side>
          </PageHead>
        }
      />
    </Split>
  );
}

interface ListedProps<T> extends Omit<ListPageProps<T>, 'beside' | 'find' | 'filters'> {
  head: ReactNode;
}

/** The rows, what the selected one is about, and what can be done. */
function Listed<T>({ head, title, address, noun, columns, useList, question, count: inAll, keyOf, hrefOf, empty, peek, laying, ...bar }: ListedProps<T>) {
  const navigate = useNavigate();
  const list = useList();
  const identity = JSON.stringify(question);
  const [chosen, setChosen] = useState({ of: identity, row: 0 });
  const selected = chosen.of === identity ? chosen.row : 0;
  const { rows, error, more } = list;
  const row = rows?.[selected];
  // Words that fit nothing may be met by words much like them, which are not counted.
  const total = inAll !== undefined && inAll >= (rows?.length ?? 0) ? inAll : undefined;
  const shown = total ?? rows?.length;
  const summed = useMemo(
    () => columns.map((column) => (column.text && total !== undefined ? { ...column, sum: count(total, noun) } : column)),
    [columns, total, noun],
  );
  return (
    <>
      <div>
        {head}
        {rows ? (
          <ListTable
            label={title}
            columns={summed}
            rows={rows}
            count={total}
            more={more}
            keyOf={keyOf}
            selected={selected}
            select={(index) => setChosen({ of: identity, row: index })}
            open={(one) => void navigate(hrefOf(one))}
            sort={bar.sort}
            choosing={bar.choosing}
            opening={bar.opening}
            laying={laying}
            empty={list.isAsking ? 'One moment…' : address.isNarrowed ? <NothingFits address={address} /> : empty}
          />
        ) : (
          <Waiting error={error} />
        )}
      </div>
      {bar.instead ?? (row ? peek(row) : <span />)}
      <BottomBar
        hint={shown === undefined ? '' : `${count(shown, noun)}${total === undefined && list.hasMore ? ' so far' : ''}; arrow keys move, Enter opens`}
        next={bar.next(row)}
      >
        {laying ? <ColumnMenu columns={columns} {...laying} /> : null}
        {bar.actions(row)}
      </BottomBar>
    </>
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
