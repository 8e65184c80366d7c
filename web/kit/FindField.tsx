import OutlinedInput from '@mui/material/OutlinedInput';
import { useTyped, type Address } from './address';

/** The field to find rows of a list by words; the words live in the address. */
export function FindField({ address, label, placeholder }: { address: Address; label: string; placeholder: string }) {
  const { value, onChange, onBlur } = useTyped(address, 'q');
  return (
    <OutlinedInput
      type="search"
      slotProps={{ input: { 'aria-label': label } }}
      placeholder={placeholder}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      onBlur={onBlur}
      sx={{ width: `${placeholder.length * 0.52 + 2}em`, minWidth: '9em', maxWidth: '100%' }}
    />
  );
}
