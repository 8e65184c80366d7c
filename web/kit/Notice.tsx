import Alert from '@mui/material/Alert';
import type { ReactNode } from 'react';

const severities = { asks: 'warning', refused: 'error', done: 'success' } as const;

interface NoticeProps {
  /** It asks for a look or an answer, says what was refused, or says what was done. */
  kind?: keyof typeof severities;
  /** How it is told to a screen reader: at once, or when there is time. */
  role?: 'alert' | 'status' | 'note';
  children: ReactNode;
  'aria-label'?: string;
}

/** A few words set off from the page, with what can be done about them beside. */
export const Notice = ({ kind = 'asks', role = kind === 'done' ? 'status' : 'alert', children, ...rest }: NoticeProps) => (
  <Alert severity={severities[kind]} role={role} {...rest}>
    {children}
  </Alert>
);
