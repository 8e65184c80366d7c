import FormHelperText from '@mui/material/FormHelperText';
import NativeSelect from '@mui/material/NativeSelect';
import OutlinedInput, { type OutlinedInputProps } from '@mui/material/OutlinedInput';
import type { ClipboardEvent, KeyboardEvent, ReactNode, Ref } from 'react';
import { Options, type ChoiceOption } from './Field';

interface CellProps {
  /** Said to screen readers; the heading of the column says it to the eye. */
  label: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
  disabled?: boolean | undefined;
  /** In pixels, or as CSS says it. */
  width?: number | string | undefined;
  /** As high as a field of a form: where it stands alone, or is touched. */
  tall?: boolean;
}

interface CellFieldProps extends CellProps {
  /** A number: to the right, with the number pad, taken whole when one comes to it. */
  number?: boolean | undefined;
  placeholder?: string | undefined;
  autoFocus?: boolean;
  /** Where a sheet finds the cell, for its arrow keys. */
  cell?: string;
  onBlur?: () => void;
  onPaste?: (event: ClipboardEvent) => void;
  onKeyDown?: (event: KeyboardEvent) => void;
  ref?: Ref<HTMLInputElement>;
  type?: string;
  sx?: OutlinedInputProps['sx'];
}

/** A field in a table, without a label of its own; what is wrong with it is said under it. */
export function CellField({ label, value, onChange, error, number, cell, width, tall, ref, disabled, placeholder, sx, ...rest }: CellFieldProps) {
  const marks: Record<string, string> = cell === undefined ? {} : { 'data-cell': cell };
  return (
    <>
      <OutlinedInput
        {...rest}
        size={tall ? 'medium' : 'small'}
        error={Boolean(error)}
        disabled={disabled ?? false}
        placeholder={placeholder ?? ''}
        value={value}
        inputRef={ref ?? null}
        onChange={(event) => onChange(event.target.value)}
        onFocus={(event) => number && event.target.select()}
        slotProps={{
          input: {
            'aria-label': label,
            ...marks,
            inputMode: number ? 'decimal' : undefined,
            title: error,
            style: { textAlign: number ? 'right' : 'left' },
          },
        }}
        sx={[{ width: width ?? (number ? 84 : 'auto'), maxWidth: '100%' }, ...(Array.isArray(sx) ? sx : [sx])]}
      />
      <CellFault right={number}>{error}</CellFault>
    </>
  );
}

interface CellChoiceProps extends Omit<CellProps, 'value'> {
  value: string | number;
  options?: readonly ChoiceOption[];
  none?: string | undefined;
  /** Options that the page writes itself. */
  children?: ReactNode;
  ref?: Ref<HTMLSelectElement>;
}

/** A choice in a table, without a label of its own. */
export function CellChoice({ label, value, onChange, options = [], none, children, error, disabled, width, tall, ref }: CellChoiceProps) {
  return (
    <>
      <NativeSelect
        input={<OutlinedInput size={tall ? 'medium' : 'small'} />}
        inputProps={{ 'aria-label': label }}
        inputRef={ref ?? null}
        error={Boolean(error)}
        disabled={disabled ?? false}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        sx={{ width: width ?? 'auto', maxWidth: '100%' }}
      >
        <Options options={options} none={none} />
        {children}
      </NativeSelect>
      <CellFault>{error}</CellFault>
    </>
  );
}

/** What is wrong with a cell. */
const CellFault = ({ children, right = false }: { children: string | undefined; right?: boolean | undefined }) =>
  children ? (
    <FormHelperText error role="alert" sx={{ maxWidth: 200, whiteSpace: 'normal', ...(right ? { marginLeft: 'auto', textAlign: 'right' } : {}) }}>
      {children}
    </FormHelperText>
  ) : null;
