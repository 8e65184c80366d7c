import Button from '@mui/material/Button';
import { PageHead, Side, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState } from 'react';
import { rowStates } from '@larder/contract/exchange';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { count } from '../../kit/format';
import { useGoing } from '../../kit/going';
import { Onward } from '../../kit/Onward';
import { Refused, Waiting } from '../../kit/states';
import { Tabs } from '../../kit/Tabs';
import { useTitle } from '../../kit/title';
import { useFile } from '../../shared/work';
import { useCancelImportMutation, useImportReportQuery, useImportRowsInfiniteQuery, useRunImportMutation } from './api';
import { ImportRows } from './ImportRows';
import { ImportState } from './ImportState';

type Shown = (typeof rowStates)[number] | 'all';

/** The dry run row by row, then the writing as it goes on, and what became of it. */
export function ImportReport({ id, again }: { id: number; again: () => void }) {
  const [shown, setShown] = useState<Shown>('all');
  const [watching, setWatching] = useState(false);
  const { data, error } = useImportReportQuery(
    // Of its rows only whether there are any; those that are shown do not change while it is written.
    { params: { id }, query: { limit: 1 } },
    { pollingInterval: watching ? 500 : 0 },
  );
  const list = useGoing(useImportRowsInfiniteQuery({ params: { id }, query: { status: shown === 'all' ? undefined : shown } }));
  const [run, running] = useRunImportMutation();
  const [cancel, cancelling] = useCancelImportMutation();
  const { refused } = refusalOf(running, cancelling);
  const file = useFile();
  useTitle('Import a file');
  if (!data) return <Waiting error={error} />;
  const { import: job } = data;
  if (watching !== (job.state === 'running')) setWatching(job.state === 'running');
  const { counts } = job;
  const options = (['all', ...rowStates] as const).map(
    (key) =>
      [
        key,
        key === 'all' ? `All ${Object.values(counts).reduce((sum, n) => sum + n, 0)}` : `${key[0]?.toUpperCase() ?? ''}${key.slice(1)} ${counts[key]}`,
      ] as const,
  );
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>{job.state === 'done' ? 'Imported' : 'Dry run'}</h1>
        <span className="quiet">{job.fileName}</span>
        <Side>
          <Tabs label="Which rows" options={options} value={shown} onChange={setShown} />
        </Side>
      </PageHead>
      <Refused error={refused} />
      {file.fault ? <Notice kind="refused">{file.fault}</Notice> : null}
      <ImportState job={job} />
      {job.state === 'done' ? <Notice kind="done">{count(job.total, 'row')} imported.</Notice> : null}
      {job.state === 'cancelled' ? <Notice>Cancelled: nothing of it was kept.</Notice> : null}
      {job.problem ? <Notice kind="refused">{job.problem}</Notice> : null}
      {list.rows ? <ImportRows rows={list.rows} /> : <Waiting error={list.error} />}
      <Onward list={list} />
      <BottomBar
        hint={job.state === 'done' ? '' : `${counts.new} new, ${counts.changed} changed, ${counts.same} the same, ${counts.refused} refused`}
        next={
          job.state === 'running' || job.state === 'done'
            ? { label: 'Import another file', run: again, disabled: job.state === 'running' }
            : { label: `Write ${count(job.total, 'row')}`, run: () => void run({ params: { id } }), disabled: job.total === 0 || running.isLoading }
        }
      >
        {counts.refused > 0 ? (
          <Button
            disabled={file.key !== null}
            onClick={() => void file.take(`/api/exchange/imports/${id}/refused`, `refused-${job.fileName.replace(/\.\w+$/, '')}.csv`)}
          >
            Refused rows as a file
          </Button>
        ) : null}
        {job.state === 'running' ? (
          <Button disabled={cancelling.isLoading} onClick={() => void cancel({ params: { id } })}>
            Cancel
          </Button>
        ) : (
          <Button onClick={again}>Another file</Button>
        )}
      </BottomBar>
    </Stack>
  );
}
