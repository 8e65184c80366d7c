import type { LaidOutList } from '@larder/contract/lists';
import type { ComponentProps } from 'react';
import { ListPage, type ListPageProps } from '../kit/ListPage';
import { ExportButton } from './ExportButton';
import { KeptViews } from './KeptViews';
import { viewName } from '../kit/address';
import { useLayout } from './layouts';

interface ReportProps<T> extends Omit<ListPageProps<T>, 'laying'> {
  /** As which list its columns are laid out. */
  laidOutAs: LaidOutList;
  /** Where its settings can be kept: under the name of which list. */
  keptAs?: ComponentProps<typeof KeptViews>['list'];
  /** As which list it goes out as a file, and what that is narrowed to: the same as on screen. */
  out: ComponentProps<typeof ExportButton>;
}

/** What is asked by settings, shown in rows, kept by name, and taken out as a file: one manner for all that tells how things stand. */
export function Report<T>({ keptAs, laidOutAs, out, filters, actions, ...page }: ReportProps<T>) {
  const laying = useLayout(laidOutAs, Number(page.address.get(viewName)) || null);
  return (
    <ListPage
      {...page}
      laying={laying}
      filters={
        <>
          {filters}
          {keptAs ? <KeptViews list={keptAs} layout={laying.layout} /> : null}
        </>
      }
      actions={(row) => (
        <>
          <ExportButton {...out} />
          {actions(row)}
        </>
      )}
    />
  );
}
