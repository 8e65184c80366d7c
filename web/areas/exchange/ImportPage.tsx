import { DropFile } from '../../kit/DropFile';
import { Card, PageHead, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { exchangeKinds, type ExchangeKind } from '@larder/core/exchange/exchange';
import { encodings } from '@larder/core/exchange/text';
import { Choice } from '../../kit/Field';
import { count } from '../../kit/format';
import { useTitle } from '../../kit/title';
import { fileFault } from './shape';
import { OpenFile } from './file';
import { ImportReport } from './ImportReport';
import type { FileFound } from './readTable';
import { Columns } from './ImportColumns';
import { Expected } from './ExpectedColumns';

const separators = [
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'upright bar'],
] as const;
const encodingNames = {
  'utf-8': 'UTF-8',
  'utf-8-bom': 'UTF-8 with its mark',
  'utf-16le': 'UTF-16, little end first',
  'utf-16be': 'UTF-16, big end first',
  'windows-1252': 'Windows-1252',
};

const tableFiles = {
  'text/csv': ['.csv'],
  'text/plain': ['.txt'],
  'text/tab-separated-values': ['.tsv'],
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': ['.xlsx'],
};

/** A file comes in by steps: the file, what its columns are, a dry run, and then all of it or nothing. */
export function ImportPage() {
  useTitle('Import a file');
  const [search, setSearch] = useSearchParams();
  const kind = exchangeKinds.find(({ key }) => key === search.get('kind')) ?? (exchangeKinds[0] as ExchangeKind);
  const job = Number(search.get('job')) || null;
  const [file, setFile] = useState<OpenFile | null>(null);
  const [found, setFound] = useState<FileFound | null>(null);
  const [fault, setFault] = useState('');
  useEffect(() => () => file?.close(), [file]);
  const read = async (open: OpenFile, choice: Parameters<OpenFile['read']>[0] = {}) => {
    try {
      setFound(await open.read(choice));
      setFault('');
    } catch (error) {
      setFound(null);
      setFault(error instanceof Error ? error.message : 'The file could not be read.');
    }
  };
  const take = (given: File | undefined) => {
    if (!given) return;
    const unfit = fileFault(given);
    if (unfit !== null) return setFault(unfit);
    const open = new OpenFile(given);
    setFile(open);
    void read(open);
  };
  const again = () => {
    setFile(null);
    setFound(null);
    setSearch({ kind: kind.key });
  };
  if (job !== null) return <ImportReport id={job} again={again} />;
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Import a file</h1>
        <span className="quiet">file, columns, dry run, then all of it or nothing</span>
      </PageHead>
      {fault ? <Notice kind="refused">{fault}</Notice> : null}
      <Card pad fields aria-label="File" sx={{ alignItems: 'end' }}>
        <Choice
          label="What is in it"
          value={kind.key}
          onChange={(key) => setSearch({ kind: key })}
          options={exchangeKinds.map(({ key, name }) => ({ value: key, label: name }))}
        />
        <DropFile label="File to import" choose="Choose a file" accept={tableFiles} take={take} refuse={take}>
          {file ? `${file.file.name}${found ? `, ${count(found.rows, 'row')}` : ''}` : 'Drop a CSV or XLSX file here'}
        </DropFile>
        {found?.encoding ? (
          <>
            <Choice
              label="Encoding"
              value={found.encoding}
              onChange={(value) => file && void read(file, { encoding: value as FileFound['encoding'], separator: found.separator ?? undefined })}
              options={encodings.map((value) => ({ value, label: encodingNames[value] }))}
            />
            <Choice
              label="Columns are apart by"
              value={found.separator ?? ''}
              none="Choose"
              onChange={(separator) => file && void read(file, { encoding: found.encoding, separator })}
              options={separators.map(([value, label]) => ({ value, label }))}
            />
          </>
        ) : null}
      </Card>
      {file && found ? (
        <Columns
          key={`${kind.key} ${found.headings.join()}`}
          kind={kind}
          file={file}
          found={found}
          done={(id) => setSearch({ kind: kind.key, job: String(id) })}
        />
      ) : (
        <Expected kind={kind} />
      )}
    </Stack>
  );
}
