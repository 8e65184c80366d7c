import { Card } from '../../kit/layout';
import { Check } from '../../kit/Check';
import { count } from '../../kit/format';
import { GridSheet } from '../../kit/GridSheet';
import { type MemberRow } from './familyDraft';
import { columns } from './memberColumns';

interface CombinationsProps {
  rows: readonly MemberRow[];
  chosen: number;
  sites: readonly { id: number; name: string }[];
  change: (rows: MemberRow[]) => void;
  setTyped: (rows: MemberRow[]) => void;
  cellError: (row: number, key: string) => string | undefined;
}

/** Every combination of the axes: which become items, with their SKUs, prices and opening stock. */
export function Combinations({ rows, chosen, sites, change, setTyped, cellError }: CombinationsProps) {
  return (
    <>
      {rows.length > 0 ? (
        <GridSheet
          label="Combinations"
          headName={`${chosen} of ${count(rows.length, 'combination')}`}
          columns={columns(sites)}
          rows={rows}
          change={change}
          off={(row) => row.off === 'yes'}
          errorAt={cellError}
          head={(row, index) => (
            <Check
              label={row.values}
              checked={row.off !== 'yes'}
              onChange={(checked) => setTyped(rows.map((one, n) => (n === index ? { ...one, off: checked ? '' : 'yes' } : one)))}
            />
          )}
        />
      ) : (
        <Card state component="p">
          Name an axis and give its values: the combinations appear here, with their SKUs.
        </Card>
      )}
    </>
  );
}
