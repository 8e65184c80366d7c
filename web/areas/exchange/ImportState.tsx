import { Notice } from '../../kit/Notice';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { getImport } from '@larder/contract/exchange';
import { count } from '../../kit/format';

/** How far an import is, or what became of it. */
export function ImportState({ job }: { job: ResponseOf<typeof getImport>['import'] }) {
  return (
    <>
      {job.state === 'running' ? (
        <Notice role="status">
          <progress max={job.total} value={job.done} aria-label="Rows written" /> {job.done} of {count(job.total, 'row')} written; nothing is kept before the
          last
        </Notice>
      ) : null}
    </>
  );
}
