import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { OptionList } from '../kit/OptionList';

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
export const ScanOptions = ({ missed, teach, go, ...list }: ScanOptionsProps) => (
  <OptionList
    id="scan-options"
    label="Found"
    {...list}
    above
    keyOf={({ kind, to }) => `${kind} ${to}`}
    take={({ to }) => go(to)}
    show={({ code, name }) => (
      <>
        {code ? <span className="code">{code}</span> : null}
        <span>{name}</span>
      </>
    )}
    aside={({ kind }) => kind}
  >
    {missed ? (
      <Box role="status" sx={{ display: 'flex', alignItems: 'center', gap: 10, padding: '10px 14px 0' }}>
        {missed}
        <Button size="small" sx={{ marginLeft: 'auto' }} onMouseDown={teach}>
          Teach it to an item
        </Button>
      </Box>
    ) : null}
  </OptionList>
);
