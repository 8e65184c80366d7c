import { useState } from 'react';

/** Goes through the pages of a list: where the next begins is told by the server, and the way back is remembered. */
export function usePages(identity: string) {
  const [state, setState] = useState<{ identity: string; cursors: string[] }>({ identity, cursors: [] });
  const cursors = state.identity === identity ? state.cursors : [];
  return {
    cursor: cursors.at(-1),
    page: cursors.length + 1,
    forth: (next: string) => setState({ identity, cursors: [...cursors, next] }),
    back: () => setState({ identity, cursors: cursors.slice(0, -1) }),
  };
}
