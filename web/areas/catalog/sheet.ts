import type { Written } from './written';

/** What every part of the item page is given. */
export interface SheetProps {
  form: Written;
  put: (part: Partial<Written>) => void;
  errorAt: (field: string) => string | undefined;
}
