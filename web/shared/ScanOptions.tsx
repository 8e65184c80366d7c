export interface ScanOption {
  to: string;
  code: string;
  name: string;
  kind: string;
}

interface ScanOptionsProps {
  options: readonly ScanOption[];
  active: number;
  missed: string;
  teach: () => void;
  go: (to: string) => void;
}

/** What was found for what is typed in the scan bar. */
export function ScanOptions({ options, active, missed, teach, go }: ScanOptionsProps) {
  return (
    <>
      {options.length > 0 || missed ? (
        <ul id="scan-options" role="listbox" aria-label="Found">
          {missed ? (
            <li role="status">
              {missed}
              <button type="button" className="button small" style={{ marginLeft: 'auto' }} onMouseDown={teach}>
                Teach it to an item
              </button>
            </li>
          ) : null}
          {options.map((option, index) => (
            <li
              key={`${option.kind} ${option.to}`}
              id={`scan-option-${index}`}
              role="option"
              aria-selected={index === active}
              onMouseDown={() => go(option.to)}
            >
              {option.code ? <span className="code">{option.code}</span> : null}
              <span>{option.name}</span>
              <span className="kind">{option.kind}</span>
            </li>
          ))}
        </ul>
      ) : null}
    </>
  );
}
