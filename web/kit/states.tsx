import { problemOf } from '../app/api';

/** What a page shows while it waits, and when it could not be read. */
export function Waiting({ error }: { error?: unknown }) {
  const problem = problemOf(error);
  if (problem)
    return (
      <p className="state" role="alert">
        {problem.title}
      </p>
    );
  return (
    <p className="state" role="status">
      One moment…
    </p>
  );
}

/** What was refused, in words, with every field that is named. */
export function Refused({ error }: { error: unknown }) {
  const problem = problemOf(error);
  if (!problem) return null;
  return (
    <p className="notice refused" role="alert">
      {problem.title}
    </p>
  );
}
