import { useId } from 'react';

interface FieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
  type?: string;
  autoFocus?: boolean;
  placeholder?: string;
  disabled?: boolean;
  onBlur?: () => void;
  /** In a table whose heading says it already. */
  hideLabel?: boolean;
}

/** A labelled field; what is wrong with it is said right under it. */
export function Field({ label, value, onChange, error, hideLabel, ...rest }: FieldProps) {
  const errorId = useId();
  const id = useId();
  return (
    <div className="field">
      <label htmlFor={id} className={hideLabel ? 'hidden' : undefined}>
        {label}
      </label>
      <input
        id={id}
        className="plain"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? errorId : undefined}
        {...rest}
      />
      {error ? (
        <em id={errorId} role="alert">
          {error}
        </em>
      ) : null}
    </div>
  );
}

/** A labelled field of several lines. */
export function TextField({ label, value, onChange, error, rows = 6 }: Pick<FieldProps, 'label' | 'value' | 'onChange' | 'error'> & { rows?: number }) {
  const errorId = useId();
  const id = useId();
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <textarea
        id={id}
        className="plain"
        rows={rows}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? errorId : undefined}
      />
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
  const id = useId();
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <select
        id={id}
        className="plain"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        disabled={disabled}
        aria-invalid={error ? true : undefined}
      >
        {none === undefined ? null : <option value="">{none}</option>}
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
      {error ? <em role="alert">{error}</em> : null}
    </div>
  );
}
