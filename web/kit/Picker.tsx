import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import type { Ref } from 'react';
import { Labelled } from './Field';

interface Option {
  id: number;
  name: string;
}

interface PickerProps {
  label: string;
  options: readonly Option[];
  /** What is chosen; it may be among none of the options while they are those of other letters. */
  value: Option | null;
  onChange: (option: Option | null) => void;
  /** Told what is typed, where the server finds the options. */
  onType?: (text: string) => void;
  /** Whether Enter takes the first that fits, without an arrow before. */
  highlights?: boolean;
  /** What is said when no option fits. */
  nothing?: string;
  error?: string | undefined;
  autoFocus?: boolean;
  disabled?: boolean;
  ref?: Ref<HTMLInputElement>;
}

/** Options with every word that is typed, so that Enter never takes one of the letters before. */
const fitting = (options: readonly Option[], { inputValue }: { inputValue: string }): Option[] =>
  options.filter(({ name }) =>
    inputValue
      .toLowerCase()
      .split(/\s+/)
      .every((word) => name.toLowerCase().includes(word)),
  );

/** Chooses one of many by a few letters. */
export function Picker(props: PickerProps) {
  const { label, options, value, onChange, onType, nothing = 'Nothing fits.', highlights = true, error, autoFocus, disabled, ref } = props;
  return (
    <Labelled label={label} error={error}>
      {({ id, 'aria-describedby': describedBy }) => (
        <Autocomplete
          id={id}
          options={options}
          value={value}
          onChange={(_, option) => onChange(option)}
          onInputChange={(_, text, reason) => reason === 'input' && onType?.(text)}
          filterOptions={fitting}
          getOptionLabel={(option) => option.name}
          getOptionKey={(option) => option.id}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          autoHighlight={highlights}
          noOptionsText={nothing}
          disabled={disabled ?? false}
          renderInput={(params) => (
            <TextField
              {...params}
              inputRef={ref ?? null}
              hiddenLabel
              error={error !== undefined}
              autoFocus={autoFocus ?? false}
              aria-describedby={describedBy}
            />
          )}
        />
      )}
    </Labelled>
  );
}
