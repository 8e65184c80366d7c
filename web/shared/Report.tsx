import type { ComponentProps } from 'react';
import { ListPage, type ListPageProps } from '../kit/ListPage';
import { ExportButton } from './ExportButton';
import { KeptViews } from './KeptViews';

interface ReportProps<T> extends ListPageProps<T> {
  /** Where its settings can be kept: under the name of which list. */
  keptAs?: ComponentProps<typeof KeptViews>['list'];
  /** As which list it goes out as a file, and what that is narrowed to: the same as on screen. */
  out: ComponentProps<typeof ExportButton>;
}

/** What is asked by settings, shown in rows, kept by name, and taken out as a file: one manner for all that tells how things stand. */
export function Report<T>({ keptAs, out, filters, actions, ...page }: ReportProps<T>) {
  return (
    <ListPage
      {...page}
      filters={
        <>
          {filters}
          {keptAs ? <KeptViews list={keptAs} /> : null}
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
