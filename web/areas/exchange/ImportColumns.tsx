import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { CellChoice } from '../../kit/CellField';
import type { DayForm, DecimalMark } from '@larder/core/exchange/cells';
import { BottomBar } from '../../kit/BottomBar';
import { Choice } from '../../kit/Field';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { WorkProgress } from '../../shared/work';
import { useColumns, type ColumnsProps } from './useColumns';

const marks = [
  { value: 'point', label: '1,234.50: a point' },
  { value: 'comma', label: '1.234,50: a comma' },
];

const dayForms = [
  { value: 'ymd', label: 'year, month, day' },
  { value: 'dmy', label: 'day, month, year' },
  { value: 'mdy', label: 'month, day, year' },
];

/** Which field each column is, and how numbers and days are written: found, shown, and to be corrected. */
export function Columns(props: ColumnsProps) {
  const { all, chosen, kinds, put, mark, setMark, days, setDays, needsMark, needsDays, missing, run, key, refused, isWorking } = useColumns(props);
  const { found } = props;
  return (
    <>
      <Refused error={refused} />
      <WorkProgress of={key} what="rows" />
      <Card pad fields aria-label="How it is written">
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
      </Card>
      <Card component="div" sx={{ overflowX: 'auto' }}>
        <Table aria-label="Columns">
          <TableHead>
            <TableRow>
              <TableCell>Column</TableCell>
              <TableCell>Field</TableCell>
              <TableCell>First rows</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {found.headings.map((heading, index) => (
              <TableRow key={index}>
                <TableCell className="strong">{heading || <span className="quiet">without a heading</span>}</TableCell>
                <TableCell>
                  <CellChoice label={`Column ${heading} is`} value={chosen[index] ?? ''} onChange={(typed) => put(index, typed)} tall>
                    <option value="">left out</option>
                    {all.map(({ key, name }) => (
                      <option key={key} value={key}>
                        {name}
                      </option>
                    ))}
                  </CellChoice>
                </TableCell>
                <TableCell className="quiet">
                  {found.sample
                    .map((row) => row[index] ?? '')
                    .filter((cell) => cell !== '')
                    .slice(0, 3)
                    .join(' · ')}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Card>
      <BottomBar
        hint="The dry run writes nothing"
        next={{
          label: isWorking ? 'One moment…' : `Try ${count(found.rows, 'row')}`,
          run: () => void run(),
          disabled: isWorking || missing.length > 0 || needsMark || needsDays,
        }}
      />
    </>
  );
}
