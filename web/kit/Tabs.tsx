import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';

interface TabsProps<K extends string> {
  label: string;
  options: readonly (readonly [K, string])[];
  value: K;
  onChange: (key: K) => void;
}

/** A choice of a few, all in sight. */
export function Tabs<K extends string>({ label, options, value, onChange }: TabsProps<K>) {
  return (
    <ToggleButtonGroup exclusive aria-label={label} value={value} onChange={(_, key: K | null) => key !== null && onChange(key)}>
      {options.map(([key, name]) => (
        <ToggleButton key={key} value={key}>
          {name}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
