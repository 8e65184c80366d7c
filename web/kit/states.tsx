import { State } from './layout';
import { Notice } from './Notice';
import { problemOf } from './problem';

/** What a page shows while it waits, and when it could not be read. */
export function Waiting({ error }: { error?: unknown }) {
  const problem = problemOf(error);
  if (problem) return <State role="alert">{problem.title}</State>;
  return <State role="status">One moment…</State>;
}

/** What was refused, in words, with every field that is named. */
export function Refused({ error }: { error: unknown }) {
  const problem = problemOf(error);
  if (!problem) return null;
  return <Notice kind="refused">{problem.title}</Notice>;
}

/** Beside a title, after what is typed was saved. A page keeps the version it saved outside of the form that a new version draws anew. */
export const Saved = ({ on }: { on: boolean }) =>
  on ? (
    <span role="status" className="here">
      Saved
    </span>
  ) : null;
