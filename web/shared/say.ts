import { createContext, use } from 'react';

/** What is said once something was done. */
export interface Message {
  text: string;
  /** What was made, to go to. */
  made?: { to: string; name: string };
  /** The posting, to be undone, null when nothing was posted; or what undoes it at once. */
  undo?: { movementId: number | null; what: string } | { run: () => void };
}

/** Where messages go; `Messages` shows them. */
export const SayContext = createContext<(message: Message) => void>(() => undefined);

/** Says once, briefly, what was done; screen readers hear it, and it does not take the focus. */
export const useSay = () => use(SayContext);
