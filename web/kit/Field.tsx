import { useId, type ReactNode } from 'react';

interface FieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
  type?: string;
  autoFocus?: boolean;
  /** What the browser may fill in, such as `new-password`. */
  autoComplete?: string;
  placeholder?: string;
  disabled?: boolean;
  onBlur?: () => void;
  /** In a table whose heading says it already. */
  hideLabel?: boolean;
}

/** A labelled field; what is wrong with it is said right under it. */
export function Field({ label, value, onChange, error, hideLabel, ...rest }: FieldProps) {
  return (
    <Labelled label={label} error={error} hideLabel={hideLabel}>
      {(field) => <input {...field} value={value} onChange={(event) => onChange(event.target.value)} {...rest} />}
    </Labelled>
  );
}

type TextFieldProps = Pick<FieldProps, 'label' | 'value' | 'onChange' | 'error' | 'placeholder'> & { rows?: number };

/** A labelled field of several lines. */
export function TextField({ label, value, onChange, error, placeholder, rows = 6 }: TextFieldProps) {
  return (
    <Labelled label={label} error={error}>
      {(field) => <textarea {...field} rows={rows} value={value} placeholder={placeholder} onChange={(event) => onChange(event.target.value)} />}
    </Labelled>
  );
}

interface LabelledProps extends Pick<FieldProps, 'label' | 'error'> {
  hideLabel?: boolean | undefined;
  children: (field: { id: string; className: string; 'aria-invalid': true | undefined; 'aria-describedby': string | undefined }) => ReactNode;
}

/** A label over a field, and under it what is wrong with it. */
export function Labelled({ label, error, hideLabel, children }: LabelledProps) {
  const errorId = useId();
  const id = useId();
  return (
    <div className="field">
      <label htmlFor={id} className={hideLabel ? 'hidden' : undefined}>
        {label}
      </label>
      {children({ id, className: 'plain', 'aria-invalid': error ? true : undefined, 'aria-describedby': error ? errorId : undefined })}
      {error ? (
        <em id={errorId} role="alert">
          {error}
        </em>
      ) : null}
    </div>
  );
}

interface ChoiceProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  options: readonly { value: string; label: string }[];
  error?: string | undefined;
  none?: string;
  disabled?: boolean;
}

/** A labelled choice from a short list. */
export function Choice({ label, value, onChange, options, error, none, disabled }: ChoiceProps) {
  return (
    <Labelled label={label} error={error}>
      {(field) => (
        <select {...field} value={value} onChange={(event) => onChange(event.target.value)} disabled={disabled}>
          {none === undefined ? null : <option value="">{none}</option>}
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  );
}
