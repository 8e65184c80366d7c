import FormControl from '@mui/material/FormControl';
import FormHelperText from '@mui/material/FormHelperText';
import FormLabel from '@mui/material/FormLabel';
import NativeSelect from '@mui/material/NativeSelect';
import OutlinedInput from '@mui/material/OutlinedInput';
import { useId, type KeyboardEvent, type ReactNode, type Ref } from 'react';

interface LabelledProps {
  label: string;
  error?: string | undefined;
  /** In a table whose heading says it already. */
  hideLabel?: boolean | undefined;
  children: (field: { id: string; 'aria-describedby': string | undefined }) => ReactNode;
}

/** A label over a field, and under it what is wrong with it. */
export function Labelled({ label, error, hideLabel, children }: LabelledProps) {
  const errorId = useId();
  const id = useId();
  return (
    <FormControl error={Boolean(error)}>
      <FormLabel htmlFor={id} className={hideLabel ? 'hidden' : undefined}>
        {label}
      </FormLabel>
      {children({ id, 'aria-describedby': error ? errorId : undefined })}
      {error ? (
        <FormHelperText id={errorId} role="alert">
          {error}
        </FormHelperText>
      ) : null}
    </FormControl>
  );
}

interface FieldProps extends Omit<LabelledProps, 'children'> {
  value: string;
  onChange: (value: string) => void;
  type?: string;
  autoFocus?: boolean;
  /** What the browser may fill in, such as `new-password`. */
  autoComplete?: string;
  placeholder?: string | undefined;
  disabled?: boolean;
  onBlur?: () => void;
  onKeyDown?: (event: KeyboardEvent) => void;
  /** Stands in the field, at its end. */
  end?: ReactNode;
  ref?: Ref<HTMLInputElement>;
}

/** A labelled field; what is wrong with it is said right under it. */
export function Field({ label, value, onChange, error, hideLabel, type = 'text', autoFocus = false, disabled = false, end, ref, ...rest }: FieldProps) {
  return (
    <Labelled label={label} error={error} hideLabel={hideLabel}>
      {(field) => (
        <OutlinedInput
          {...field}
          {...rest}
          type={type}
          inputRef={ref ?? null}
          endAdornment={end}
          autoFocus={autoFocus}
          disabled={disabled}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Labelled>
  );
}

interface LongFieldProps extends Pick<FieldProps, 'label' | 'value' | 'onChange' | 'error' | 'placeholder' | 'hideLabel' | 'ref'> {
  rows?: number;
  /** It holds codes. */
  code?: boolean;
  /** A scanner's Enter begins the next line in it. */
  takesLines?: boolean;
}

/** A labelled field of several lines. */
export function LongField({ label, value, onChange, error, hideLabel, placeholder = '', rows = 6, code = false, takesLines = false, ref }: LongFieldProps) {
  return (
    <Labelled label={label} error={error} hideLabel={hideLabel}>
      {(field) => (
        <OutlinedInput
          {...field}
          multiline
          rows={rows}
          inputRef={ref ?? null}
          value={value}
          placeholder={placeholder}
          onChange={(event) => onChange(event.target.value)}
          slotProps={{ input: { ...(code ? { className: 'code' } : {}), ...(takesLines ? { 'data-lines': 'yes' } : {}) } }}
        />
      )}
    </Labelled>
  );
}

export interface ChoiceOption {
  value: string;
  label: string;
}

interface ChoiceProps extends Omit<LabelledProps, 'children'> {
  value: string;
  onChange: (value: string) => void;
  options: readonly ChoiceOption[];
  none?: string | undefined;
  disabled?: boolean;
  autoFocus?: boolean;
  ref?: Ref<HTMLSelectElement>;
}

/** A labelled choice from a short list. */
export function Choice({ label, value, onChange, options, error, hideLabel, none, disabled = false, autoFocus = false, ref }: ChoiceProps) {
  return (
    <Labelled label={label} error={error} hideLabel={hideLabel}>
      {(field) => (
        <NativeSelect
          {...field}
          input={<OutlinedInput />}
          inputRef={ref ?? null}
          value={value}
          onChange={(event) => onChange(event.target.value)}
          disabled={disabled}
          autoFocus={autoFocus}
        >
          <Options options={options} none={none} />
        </NativeSelect>
      )}
    </Labelled>
  );
}

/** The options of a choice; `none` stands for nothing chosen. */
export const Options = ({ options, none }: Pick<ChoiceProps, 'options' | 'none'>) => (
  <>
    {none === undefined ? null : <option value="">{none}</option>}
    {options.map((option) => (
      <option key={option.value} value={option.value}>
        {option.label}
      </option>
    ))}
  </>
);
