import { useState } from 'react';

export interface Pages {
  /** What the pages are of: another question begins at the first page. */
  identity: string;
  cursor: string | undefined;
  page: number;
  forth: (next: string) => void;
  back: () => void;
}

/** Goes through the pages of a list: where the next begins is told by the server, and the way back is remembered. */
export function usePages(question: object): Pages {
  const identity = JSON.stringify(question);
  const [state, setState] = useState<{ identity: string; cursors: string[] }>({ identity, cursors: [] });
  const cursors = state.identity === identity ? state.cursors : [];
  return {
    identity,
    cursor: cursors.at(-1),
    page: cursors.length + 1,
    forth: (next: string) => setState({ identity, cursors: [...cursors, next] }),
    back: () => setState({ identity, cursors: cursors.slice(0, -1) }),
  };
}
