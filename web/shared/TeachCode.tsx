import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Stack } from '../kit/layout';
import Dialog from '@mui/material/Dialog';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import type { ItemRow } from '@larder/contract/catalog';
import { useTeachCodeMutation } from './items';
import { refusalOf } from '../kit/draft';
import { Choice } from '../kit/Field';
import { LineEntry } from './LineEntry';
import { Refused } from '../kit/states';

/** Teaches a code that nothing has to an item, for one of its units, on the spot. */
export function TeachCode({ code, close }: { code: string; close: (taught: boolean) => void }) {
  const [item, setItem] = useState<ItemRow | null>(null);
  const [unitId, setUnitId] = useState('');
  const [teach, teaching] = useTeachCodeMutation();
  const { refused, problem, busy } = refusalOf(teaching);
  const asks = problem?.asks.includes('shared-barcode') ?? false;
  const learn = async () => {
    if (item && !(await teach({ params: { id: item.id }, body: { code, unitId: Number(unitId) || null, shared: asks } })).error) close(true);
  };
  return (
    <Dialog open onClose={() => close(false)}>
      <Stack pad sx={{ width: 440, minHeight: 300, alignContent: 'start' }}>
        <DialogTitle>
          Which item has the code <span className="code">{code}</span>?
        </DialogTitle>
        <Refused error={refused} />
        {asks ? <p>On both, a scan asks which is meant.</p> : null}
        {item ? (
          <p>
            <span className="code">{item.sku}</span> {item.name}{' '}
            <Button size="small" onClick={() => setItem(null)}>
              Another
            </Button>
          </p>
        ) : (
          <LineEntry label="Item with this code" takesScans={false} add={setItem} />
        )}
        {item && item.units.length > 0 ? (
          <Choice
            label="It is on"
            value={unitId}
            none={item.unit}
            onChange={setUnitId}
            options={item.units.map((unit) => ({ value: String(unit.unitId), label: `the ${unit.unit} of ${unit.factor}` }))}
          />
        ) : null}
        <Box component="span" sx={{ display: 'flex', gap: 8, justifyContent: 'flex-end' }}>
          <Button onClick={() => close(false)}>Leave it</Button>
          <Button variant="contained" disabled={!item || busy} onClick={() => void learn()}>
            {asks ? 'Keep it on both' : 'Teach it'}
          </Button>
        </Box>
      </Stack>
    </Dialog>
  );
}
