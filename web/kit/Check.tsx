import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { ReactNode } from 'react';

interface CheckProps {
  checked: boolean;
  onChange: (checked: boolean) => void;
  disabled?: boolean;
  /** Some of what it stands for is chosen, not all. */
  some?: boolean;
}

/** Yes or no, with the words beside it. */
export const Check = ({ label, checked, onChange, disabled = false }: CheckProps & { label: ReactNode }) => (
  <FormControlLabel label={label} disabled={disabled} control={<Checkbox checked={checked} onChange={(event) => onChange(event.target.checked)} />} />
);

/** Yes or no in a table, where the row says what is chosen. */
export const CellCheck = ({ label, checked, onChange, some = false, disabled = false }: CheckProps & { label: string }) => (
  <Checkbox
    checked={checked}
    indeterminate={some && !checked}
    disabled={disabled}
    onChange={(event) => onChange(event.target.checked)}
    onClick={(event) => event.stopPropagation()}
    slotProps={{ input: { 'aria-label': label } }}
  />
);
