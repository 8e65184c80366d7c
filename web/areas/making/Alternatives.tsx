import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { fieldsOf, useReadOnly } from '../../kit/formFields';
import { quantity } from '../../kit/format';
import { LineEntry } from '../../shared/LineEntry';
import { namedItem, type BomDraft, type PartDraft } from './bomForm';

const { Cell } = fieldsOf<BomDraft>();
const line = { display: 'flex', alignItems: 'center', gap: 8, marginTop: 4 };

interface AlternativesProps {
  part: number;
  of: PartDraft;
  /** Whether another is being looked for. */
  isOpen: boolean;
  close: () => void;
}

/** What may be taken in place of a part, best first: each so many for what its line says. */
export function Alternatives({ part, of, isOpen, close }: AlternativesProps) {
  const { control } = useFormContext<BomDraft>();
  const { fields, append, remove } = useFieldArray({ control, name: `parts.${part}.alternatives` });
  const isRead = useReadOnly();
  return (
    <>
      {fields.map((one, index) => (
        <Box key={one.id} sx={line} role="group" aria-label={`${one.sku} in place of ${of.sku}`}>
          <small className="quiet">or</small>
          {isRead ? (
            quantity(of.alternatives[index]?.quantity ?? '')
          ) : (
            <Cell number width={64} label={`How many ${one.sku} in place of ${of.sku}`} name={`parts.${part}.alternatives.${index}.quantity`} />
          )}
          <span className="code">{one.sku}</span>
          {isRead ? null : (
            <Button size="small" aria-label={`Remove ${one.sku} in place of ${of.sku}`} onClick={() => remove(index)}>
              Remove
            </Button>
          )}
        </Box>
      ))}
      {isRead ? null : isOpen ? (
        <Box sx={line}>
          <LineEntry
            label={`What may be taken in place of ${of.sku}`}
            takesScans={false}
            autoFocus
            add={(item) => {
              append(
                { ...namedItem(item), quantity: of.unitId === null ? of.quantity : '1' },
                { focusName: `parts.${part}.alternatives.${fields.length}.quantity` },
              );
              close();
            }}
          />
          <Button size="small" onClick={close}>
            None
          </Button>
        </Box>
      ) : null}
    </>
  );
}
