import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';

interface Option {
  id: number;
  name: string;
}

interface PickerProps {
  label: string;
  options: readonly Option[];
  value: number | null;
  onChange: (id: number | null) => void;
  error?: string | undefined;
  autoFocus?: boolean;
  disabled?: boolean;
}

/** Chooses one of many by a few letters. */
export function Picker({ label, options, value, onChange, error, autoFocus, disabled }: PickerProps) {
  const chosen = options.find(({ id }) => id === value) ?? null;
  return (
    <Autocomplete
      options={options}
      value={chosen}
      onChange={(_, option) => onChange(option?.id ?? null)}
      getOptionLabel={(option) => option.name}
      getOptionKey={(option) => option.id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      autoHighlight
      size="small"
      disabled={disabled ?? false}
      renderInput={(params) => <TextField {...params} label={label} error={error !== undefined} helperText={error} autoFocus={autoFocus ?? false} />}
    />
  );
}
