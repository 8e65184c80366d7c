export interface Answer {
  label: string;
  run: () => void;
}

/** A question the server asks before it goes on, with the answers there are; `busy` while one is under way. */
export function Asking({ question, answers, busy = false }: { question: string; answers: readonly Answer[]; busy?: boolean }) {
  return (
    <div className="notice" role="alert">
      <span>{question}</span>
      {answers.map(({ label, run }) => (
        <button key={label} type="button" className="button small" disabled={busy} onClick={run}>
          {label}
        </button>
      ))}
    </div>
  );
}
