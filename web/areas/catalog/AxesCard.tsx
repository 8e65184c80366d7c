import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Fields, Stack } from '../../kit/layout';
import { mostAxes } from '@larder/core/catalog/family';
import { Field, LongField } from '../../kit/Field';
import type { AxisDraft } from './familyDraft';

interface AxesCardProps {
  drafts: readonly AxisDraft[];
  setDrafts: (drafts: AxisDraft[]) => void;
  pattern: string;
  setPattern: (pattern: string) => void;
  errorAt: (field: string) => string | undefined;
}

/** The axes of a family with their values, and the pattern its SKUs are made by. */
export function AxesCard({ drafts, setDrafts, pattern, setPattern, errorAt }: AxesCardProps) {
  return (
    <Card aria-label="Axes">
      <h2>
        Axes<span>up to three; values apart by commas, or pasted in lines</span>
      </h2>
      <Stack pad>
        {drafts.map((axis, index) => (
          <Fields key={index} sx={{ gridTemplateColumns: 'minmax(120px, 1fr) minmax(260px, 4fr) auto', alignItems: 'end' }}>
            <Field
              label={`Axis ${index + 1}`}
              value={axis.name}
              placeholder={['Size', 'Lid', 'Colour'][index] ?? ''}
              onChange={(name) => setDrafts(drafts.map((one, n) => (n === index ? { ...one, name } : one)))}
              error={errorAt(`axes.${index}`)}
            />
            <LongField
              label={`Values of axis ${index + 1}`}
              rows={Math.min(6, axis.values.split('\n').length)}
              value={axis.values}
              placeholder={['114 g, 227 g, 340 g', 'Gold, Black', ''][index] ?? ''}
              onChange={(values) => setDrafts(drafts.map((one, n) => (n === index ? { ...one, values } : one)))}
            />
            <Button disabled={drafts.length === 1} onClick={() => setDrafts(drafts.filter((_, n) => n !== index))}>
              Remove
            </Button>
          </Fields>
        ))}
        <Box component="span" sx={{ display: 'flex', gap: 12, alignItems: 'end' }}>
          <Button size="small" disabled={drafts.length >= mostAxes} onClick={() => setDrafts([...drafts, { name: '', values: '' }])}>
            Add an axis
          </Button>
          <Box component="span" sx={{ flex: 1, maxWidth: 420 }}>
            <Field label="Pattern of SKUs" value={pattern} onChange={setPattern} error={errorAt('skuPattern')} />
          </Box>
          <span className="quiet">
            {'{name}'} is the family’s code, {'{Axis}'} the value’s code, {'{Axis:axis}'} the axis’s
          </span>
        </Box>
      </Stack>
    </Card>
  );
}
