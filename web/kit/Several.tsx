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
}

/** Chooses several of many by a few letters; each that is chosen can be taken off again. */
export const Several = ({ label, options, value, onChange, error }: SeveralProps) => (
  <Labelled label={label} error={error}>
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
        filterSelectedOptions
        autoHighlight
        noOptionsText="Nobody fits."
        renderInput={(params) => <TextField {...params} hiddenLabel error={error !== undefined} aria-describedby={describedBy} />}
      />
    )}
  </Labelled>
);
