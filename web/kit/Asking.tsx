import Button from '@mui/material/Button';
import { Notice } from './Notice';
export interface Answer {
  label: string;
  run: () => void;
}

/** A question the server asks before it goes on, with the answers there are; `busy` while one is under way. */
export function Asking({ question, answers, busy = false }: { question: string; answers: readonly Answer[]; busy?: boolean }) {
  return (
    <Notice>
      <span>{question}</span>
      {answers.map(({ label, run }) => (
        <Button key={label} size="small" disabled={busy} onClick={run}>
          {label}
        </Button>
      ))}
    </Notice>
  );
}
