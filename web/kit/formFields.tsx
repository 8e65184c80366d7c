import { createContext, use, type ReactNode } from 'react';
import { useController, type FieldPath, type FieldValues } from 'react-hook-form';
import { CellChoice, CellField } from './CellField';
import { CellCheck, Check } from './Check';
import { DayField } from './DayField';
import { Choice, Field, LongField, type ChoiceOption } from './Field';
import { Foreseen, sentenceIn } from './form';
import { shortDay } from './format';

/** Whether fields only tell what they hold, because whoever looks may not change it. */
export const ReadOnly = createContext(false);
export const useReadOnly = () => use(ReadOnly);

/** What a field of a form need not be told: it has it from the form. */
type Told = 'value' | 'onChange' | 'error' | 'ref' | 'onBlur' | 'checked';
type Of<P> = Omit<P, Told> & { name: string };

/** A value of a form, how it is changed, and what is wrong with it. */
export function useField(name: string) {
  const { field, fieldState } = useController({ name });
  const foreseen = use(Foreseen)(name);
  return { ...field, error: sentenceIn(fieldState.error) ?? foreseen };
}
const textOf = (value: unknown, proposed = ''): string => (value === null || value === undefined ? proposed : String(value as string | number));

/** What a field holds, told under its name. */
const Said = ({ label, children }: { label: ReactNode; children: ReactNode }) => (
  <div>
    <small className="quiet">{label}</small>
    <div>{children === '' ? '–' : children}</div>
  </div>
);

interface Typed {
  /** What is kept of what is typed; as it is when nothing is said. */
  read?: (typed: string) => unknown;
  /** What is said of what stands in it when nothing is wrong with it otherwise. */
  hint?: (text: string) => string | undefined;
  /** Stands in it as long as nobody has typed anything, which is null. */
  proposed?: string;
}

/** Nothing typed is null. */
export const orNone = (typed: string): string | null => (typed.trim() === '' ? null : typed);
/** A whole number, or what was typed instead; nothing typed is null. */
export const wholeOrNone = (typed: string): number | string | null => (typed.trim() === '' ? null : /^\d{1,7}$/.test(typed.trim()) ? Number(typed) : typed);
export const upper = (typed: string): string => typed.toUpperCase();

/** Text. */
function FormField({ name, read = String, hint, proposed = '', ...rest }: Of<Parameters<typeof Field>[0]> & Typed) {
  const { value, onChange, onBlur, ref, error } = useField(name);
  const text = textOf(value, proposed);
  if (useReadOnly()) return <Said label={rest.label}>{text}</Said>;
  return <Field {...rest} value={text} onChange={(typed) => onChange(read(typed))} onBlur={onBlur} ref={ref} error={error ?? hint?.(text)} />;
}

function FormLongField({ name, ...rest }: Of<Parameters<typeof LongField>[0]>) {
  const { value, onChange, ref, error } = useField(name);
  if (useReadOnly()) return <Said label={rest.label}>{textOf(value)}</Said>;
  return <LongField {...rest} value={textOf(value)} onChange={onChange} ref={ref} error={error} />;
}

interface Chosen {
  options: readonly ChoiceOption[];
  /** It is kept as the id that it is, nothing chosen as null. */
  ids?: boolean;
  /** Told what was chosen. */
  chosen?: (value: string) => void;
}

/** One of a list as it stands in the form, and how another is chosen. */
function useChosen(name: string, ids: boolean, chosen: Chosen['chosen']) {
  const { value, onChange, ref, error } = useField(name);
  const choose = (option: string) => {
    onChange(ids ? Number(option) || null : option);
    chosen?.(option);
  };
  return { value: value as unknown, text: textOf(value), choose, ref, error };
}

/** One of a list. */
function FormChoice({ name, ids = false, chosen, ...rest }: Of<Parameters<typeof Choice>[0]> & Chosen) {
  const { value, text, choose, ref, error } = useChosen(name, ids, chosen);
  if (useReadOnly()) return <Said label={rest.label}>{rest.options.find((one) => one.value === text)?.label ?? rest.none ?? ''}</Said>;
  return <Choice {...rest} value={text} onChange={choose} ref={ref} error={error && ids && value === null ? 'Choose one of these.' : error} />;
}

function FormCheck({ name, ...rest }: Of<Parameters<typeof Check>[0]>) {
  const { value, onChange } = useField(name);
  return <Check {...rest} checked={Boolean(value)} disabled={useReadOnly()} onChange={onChange} />;
}

interface DayOf {
  /** Stands in it while it is undefined: until somebody types. */
  proposed?: string | null;
  /** Never empty: who empties it gets what is proposed. */
  needed?: boolean;
}

/** A day. */
function FormDay({ name, proposed = null, needed = false, ...rest }: Of<Parameters<typeof DayField>[0]> & DayOf) {
  const { value, onChange, ref, error } = useField(name);
  const day = value === undefined ? proposed : (value as string | null);
  if (useReadOnly()) return <Said label={rest.label}>{day === null ? '' : shortDay(day, rest.today)}</Said>;
  return <DayField {...rest} value={day} onChange={(typed) => onChange(needed ? (typed ?? proposed) : typed)} ref={ref} error={error} />;
}

interface CellOf extends Typed {
  /** Told that somebody typed in it. */
  typed?: () => void;
}

/** A field in a table. */
function FormCell({ name, read = String, hint, typed, proposed = '', ...rest }: Of<Parameters<typeof CellField>[0]> & CellOf) {
  const { value, onChange, onBlur, ref, error } = useField(name);
  const text = textOf(value, proposed);
  if (useReadOnly()) return text;
  return (
    <CellField
      {...rest}
      value={text}
      onChange={(written) => {
        onChange(read(written));
        typed?.();
      }}
      onBlur={onBlur}
      ref={ref}
      error={error ?? hint?.(text)}
    />
  );
}

/** One of a list, in a table. */
function FormCellChoice({ name, ids = false, chosen, ...rest }: Of<Parameters<typeof CellChoice>[0]> & Chosen) {
  const { text, choose, ref, error } = useChosen(name, ids, chosen);
  if (useReadOnly()) return rest.options.find((one) => one.value === text)?.label ?? rest.none ?? '';
  return <CellChoice {...rest} value={text} onChange={choose} ref={ref} error={error} />;
}

/** Yes or no, in a table. */
function FormCellCheck({ name, ...rest }: Of<Parameters<typeof CellCheck>[0]>) {
  const { value, onChange } = useField(name);
  return <CellCheck {...rest} checked={Boolean(value)} disabled={useReadOnly()} onChange={onChange} />;
}

type Named<F extends FieldValues, C extends (props: never) => ReactNode> = (props: Omit<Parameters<C>[0], 'name'> & { name: FieldPath<F> }) => ReactNode;

/** The fields of forms of one kind, each by the name of what it holds. */
export const fieldsOf = <F extends FieldValues>() => ({
  Field: FormField as Named<F, typeof FormField>,
  LongField: FormLongField as Named<F, typeof FormLongField>,
  Choice: FormChoice as Named<F, typeof FormChoice>,
  Check: FormCheck as Named<F, typeof FormCheck>,
  Day: FormDay as Named<F, typeof FormDay>,
  Cell: FormCell as Named<F, typeof FormCell>,
  CellChoice: FormCellChoice as Named<F, typeof FormCellChoice>,
  CellCheck: FormCellCheck as Named<F, typeof FormCellCheck>,
});
