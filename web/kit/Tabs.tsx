interface TabsProps<K extends string> {
  label: string;
  options: readonly (readonly [K, string])[];
  value: K;
  onChange: (key: K) => void;
}

/** A choice of a few, all in sight. */
export function Tabs<K extends string>({ label, options, value, onChange }: TabsProps<K>) {
  return (
    <span className="tabs" role="group" aria-label={label}>
      {options.map(([key, name]) => (
        <button key={key} type="button" aria-pressed={value === key} onClick={() => onChange(key)}>
          {name}
        </button>
      ))}
    </span>
  );
}
