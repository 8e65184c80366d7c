import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { Labelled } from './Field';

interface Option {
  id: string;
  name: string;
}

interface SeveralProps {
  label: string;
  options: readonly Option[];
  value: readonly Option[];
  onChange: (chosen: Option[]) => void;
  error?: string | undefined;
  /** In a table whose heading says it already. */
  hideLabel?: boolean;
  /** Stands in it while nothing is chosen. */
  placeholder?: string;
}

/** Chooses several of many by a few letters; each that is chosen can be taken off again. */
export const Several = ({ label, options, value, onChange, error, hideLabel, placeholder = '' }: SeveralProps) => (
  <Labelled label={label} error={error} hideLabel={hideLabel}>
    {({ id, 'aria-describedby': describedBy }) => (
      <Autocomplete
        multiple
        id={id}
        options={options}
        value={[...value]}
        onChange={(_, chosen) => onChange(chosen)}
        getOptionLabel={(option) => option.name}
        getOptionKey={(option) => option.id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        fullWidth
        filterSelectedOptions
        autoHighlight
        noOptionsText="Nothing fits."
        renderInput={(params) => <TextField {...params} placeholder={placeholder} hiddenLabel error={error !== undefined} aria-describedby={describedBy} />}
      />
    )}
  </Labelled>
);
