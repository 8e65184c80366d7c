import Box from '@mui/material/Box';
import { useController } from 'react-hook-form';
import type { LotEntry } from '@larder/contract/values';
import { sentenceIn } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { Card } from '../../kit/layout';
import { LotFields } from '../../shared/LotFields';
import { goodOf, lotsKept, lotsOf, proposedGood, type MadeRow, type RecordDraft } from './recordForm';

const { Cell, CellChoice } = fieldsOf<RecordDraft>();

interface MadeCardProps {
  typed: RecordDraft;
  /** Of the site. */
  bins: readonly { id: number; code: string; retired: boolean; sellable: boolean }[];
}

/** What was made, good and scrapped, where it goes, and its lots or serials. */
export const MadeCard = ({ typed, bins }: MadeCardProps) => (
  <Card component="div" aria-label="What was made">
    {typed.made.map((row, index) => (
      <Box key={row.lineId} sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 14, padding: '10px 14px' }}>
        {typed.made.length > 1 ? <span className="code strong">{row.sku}</span> : null}
        <span>
          Made, good <Cell number tall label={`Good of ${row.sku}`} name={`made.${index}.good`} proposed={proposedGood(typed, index)} />
        </span>
        <span>
          scrapped <Cell number tall label={`Scrapped of ${row.sku}`} name={`made.${index}.scrapped`} placeholder="0" />
        </span>
        <span>
          into{' '}
          <CellChoice
            tall
            ids
            label={`Bin of ${row.sku}`}
            name={`made.${index}.binId`}
            options={bins.filter((bin) => isFor(bin, row)).map(({ id, code }) => ({ value: String(id), label: code }))}
          />
        </span>
        {row.inspected ? <small className="quiet">It is looked over before it is sold.</small> : null}
        {row.tracking === 'none' || goodOf(typed, index).isZero() ? null : <Lots row={row} index={index} wanted={goodOf(typed, index).toFixed()} />}
      </Box>
    ))}
  </Card>
);

/** What is looked over first goes where nothing is sold from. */
const isFor = (bin: MadeCardProps['bins'][number], { binId, inspected }: MadeRow): boolean =>
  bin.id === binId || (!bin.retired && !(inspected && bin.sellable));

function Lots({ row, index, wanted }: { row: MadeRow; index: number; wanted: string }) {
  const { field, fieldState } = useController<RecordDraft>({ name: `made.${index}.lots` });
  return (
    <Box sx={{ flexBasis: '100%' }}>
      <LotFields
        item={row}
        wanted={wanted}
        lots={lotsOf({ lots: field.value as LotEntry[] }, wanted)}
        change={(lots) => field.onChange(lotsKept(lots, wanted))}
        error={sentenceIn(fieldState.error)}
      />
    </Box>
  );
}
