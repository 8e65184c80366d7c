import LinearProgress from '@mui/material/LinearProgress';
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
          <LinearProgress aria-label="Rows written" variant="determinate" value={(100 * job.done) / Math.max(job.total, 1)} sx={{ flex: '0 0 160px' }} />
          {job.done} of {count(job.total, 'row')} written; nothing is kept before the last
        </Notice>
      ) : null}
    </>
  );
}
