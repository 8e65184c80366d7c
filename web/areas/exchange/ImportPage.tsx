import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { exchangeKinds, matchColumns, type ExchangeKind } from '@larder/core/formats/exchange';
import type { DayForm, DecimalMark } from '@larder/core/formats/cells';
import { encodings } from '@larder/core/formats/text';
import type { ImportForm } from '@larder/contract/exchange';
import { newRequestKey } from '@larder/contract/requestKey';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Choice } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { WorkProgress } from '../../shared/work';
import { useAttributesQuery } from '../../shared/items';
import { useCheckImportMutation, useKeptColumnsMutation } from './api';
import { fileFault } from './shape';
import { OpenFile } from './file';
import { ImportReport } from './ImportReport';
import type { FileFound } from './readTable';

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
const marks = [
  { value: 'point', label: '1,234.50: a point' },
  { value: 'comma', label: '1.234,50: a comma' },
];
const dayForms = [
  { value: 'ymd', label: 'year, month, day' },
  { value: 'dmy', label: 'day, month, year' },
  { value: 'mdy', label: 'month, day, year' },
];

/** A file comes in by steps: the file, what its columns are, a dry run, and then all of it or nothing. */
export function ImportPage() {
  useTitle('Bring in a file');
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
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>Bring in a file</h1>
        <span className="quiet">file, columns, dry run, then all of it or nothing</span>
      </div>
      {fault ? (
        <p className="notice refused" role="alert">
          {fault}
        </p>
      ) : null}
      <section className="card pad fields" aria-label="File" style={{ alignItems: 'end' }}>
        <Choice
          label="What is in it"
          value={kind.key}
          onChange={(key) => setSearch({ kind: key })}
          options={exchangeKinds.map(({ key, name }) => ({ value: key, label: name }))}
        />
        <label
          className="drop"
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => {
            event.preventDefault();
            take(event.dataTransfer.files[0]);
          }}
        >
          {file ? `${file.file.name}${found ? `, ${count(found.rows, 'row')}` : ''}` : 'Drop a CSV or XLSX file here, or choose one'}
          <input
            type="file"
            className="hidden"
            aria-label="File to bring in"
            accept=".csv,.txt,.tsv,.xlsx"
            onChange={(event) => take(event.target.files?.[0])}
          />
        </label>
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
      </section>
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
    </div>
  );
}

function Expected({ kind }: { kind: ExchangeKind }) {
  return (
    <section className="card" aria-label="Columns that are known">
      <h2>
        Columns of {kind.name}
        <span>in any order, under these names or others that are common; yours can be told apart in the next step</span>
      </h2>
      <p className="pad">
        {kind.fields.map(({ key, name, needed }) => (
          <span key={key} style={{ marginRight: 16, display: 'inline-block' }} className={needed ? 'strong' : ''}>
            {name}
            {needed ? ' (needed)' : ''}
          </span>
        ))}
      </p>
      <BottomBar hint="A spreadsheet saved as CSV or XLSX; nothing is written before you have seen it" />
    </section>
  );
}

interface ColumnsProps {
  kind: ExchangeKind;
  file: OpenFile;
  found: FileFound;
  done: (id: number) => void;
}

/** Which field each column is, and how numbers and days are written: found, shown, and to be corrected. */
function Columns({ kind, file, found, done }: ColumnsProps) {
  const { data: attributes } = useAttributesQuery({});
  const own = (attributes?.rows ?? []).filter(({ subject }) => subject === kind.own);
  const [fields, setFields] = useState<(string | null)[] | null>(null);
  const [mark, setMark] = useState<DecimalMark | null>(found.mark);
  const [days, setDays] = useState<DayForm | null>(found.days);
  const [kept] = useKeptColumnsMutation();
  const [check, checking] = useCheckImportMutation();
  const { refused, busy } = refusalOf(checking);
  const [key, setKey] = useState<string | null>(null);
  const [working, setWorking] = useState(false);
  const { headings } = found;
  useEffect(() => {
    const remember = async () => {
      const { data } = await kept({ body: { kind: kind.key as ImportForm['kind'], headings } });
      setFields((now) => now ?? data?.fields ?? null);
    };
    void remember();
  }, [kept, kind.key, headings]);
  // A column without anything in it says nothing: left in, it would empty what is there.
  const chosen = fields ?? matchColumns(kind, headings, own).map((key, index) => (found.empty[index] ? null : key));
  const all = [
    ...kind.fields.map(({ key, name, kind: form }) => ({ key, name, form })),
    ...own.map(({ id, name, kind: form }) => ({
      key: `attribute ${id}`,
      name,
      form: form === 'number' ? ('number' as const) : form === 'date' ? ('day' as const) : ('text' as const),
    })),
  ];
  const kinds = chosen.map((key) => all.find((field) => field.key === key)?.form ?? null);
  const needsMark = kinds.includes('number') && mark === null;
  const needsDays = kinds.includes('day') && days === null;
  const missing = kind.fields.filter(({ key, needed }) => needed && !chosen.includes(key));
  const put = (index: number, key: string) => setFields(chosen.map((one, at) => (at === index ? key || null : one === key ? null : one)));
  const run = async () => {
    setWorking(true);
    const rows = await file.rows({ fields: chosen, kinds, mark: mark ?? 'point', days: days ?? 'ymd' });
    const mine = newRequestKey();
    setKey(mine);
    const { data } = await check({ key: mine, body: { kind: kind.key as ImportForm['kind'], fileName: file.file.name, headings, fields: chosen, rows } });
    setKey(null);
    setWorking(false);
    if (data) done(data.id);
  };
  return (
    <>
      <Refused error={refused} />
      <WorkProgress of={key} what="rows" />
      <section className="card pad fields" aria-label="How it is written">
        {kinds.includes('number') ? (
          <Choice
            label="Decimals have"
            value={mark ?? ''}
            none="Choose: both are possible"
            onChange={(value) => setMark((value || null) as DecimalMark | null)}
            options={marks}
            error={needsMark ? 'Say which; it could be either.' : undefined}
          />
        ) : null}
        {kinds.includes('day') ? (
          <Choice
            label="Days are written"
            value={days ?? ''}
            none="Choose"
            onChange={(value) => setDays((value || null) as DayForm | null)}
            options={dayForms}
            error={needsDays ? 'Say which; it could be several.' : undefined}
          />
        ) : null}
        <p className="quiet">
          {missing.length > 0 ? (
            <span className="late">Still needed: {missing.map(({ name }) => name).join(', ')}.</span>
          ) : (
            `All that is needed is there. ${count(chosen.filter((one) => one === null).length, 'column')} left out.`
          )}
        </p>
      </section>
      <div className="card" style={{ overflowX: 'auto' }}>
        <table aria-label="Columns">
          <thead>
            <tr>
              <th>Column</th>
              <th>Is</th>
              <th>First rows</th>
            </tr>
          </thead>
          <tbody>
            {headings.map((heading, index) => (
              <tr key={index}>
                <td className="strong">{heading || <span className="quiet">without a heading</span>}</td>
                <td>
                  <select
                    className="plain"
                    aria-label={`Column ${heading} is`}
                    value={chosen[index] ?? ''}
                    onChange={(event) => put(index, event.target.value)}
                  >
                    <option value="">left out</option>
                    {all.map(({ key, name }) => (
                      <option key={key} value={key}>
                        {name}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="quiet">
                  {found.sample
                    .map((row) => row[index] ?? '')
                    .filter((cell) => cell !== '')
                    .slice(0, 3)
                    .join(' · ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <BottomBar
        hint="The dry run writes nothing"
        next={{
          label: working || busy ? 'One moment…' : `Try ${count(found.rows, 'row')}`,
          run: () => void run(),
          disabled: working || busy || missing.length > 0 || needsMark || needsDays,
        }}
      />
    </>
  );
}
