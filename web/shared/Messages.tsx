import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Paper from '@mui/material/Paper';
import { SnackbarContent, SnackbarProvider, useSnackbar, type SnackbarKey } from 'notistack';
import { useMemo, useState, type PropsWithChildren, type Ref } from 'react';
import { Link } from 'react-router';
import { useMay } from './may';
import { SayContext, type Message } from './say';
import { Undo, type Undoing } from './UndoButton';

const stays = 9000;

/** Where messages are shown: over the page, the last one lowest. */
export function Messages({ children }: PropsWithChildren) {
  return (
    <SnackbarProvider maxSnack={3} autoHideDuration={stays} anchorOrigin={{ vertical: 'top', horizontal: 'center' }}>
      <Saying>{children}</Saying>
    </SnackbarProvider>
  );
}

function Saying({ children }: PropsWithChildren) {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const [undoing, setUndoing] = useState<Undoing | null>(null);
  const say = useMemo(() => {
    const undo = (id: SnackbarKey) => (what: Undoing) => {
      closeSnackbar(id);
      setUndoing(what);
    };
    return (message: Message) =>
      void enqueueSnackbar(message.text, { content: (id) => <Shown message={message} undo={undo(id)} close={() => closeSnackbar(id)} /> });
  }, [enqueueSnackbar, closeSnackbar]);
  return (
    <SayContext value={say}>
      {children}
      {undoing ? <Undo {...undoing} close={() => setUndoing(null)} /> : null}
    </SayContext>
  );
}

interface ShownProps {
  message: Message;
  undo: (what: Undoing) => void;
  close: () => void;
  ref?: Ref<HTMLDivElement>;
}

function Shown({ message: { text, made, undo: posting }, undo, close, ref }: ShownProps) {
  const mayUndo = useMay('undo');
  const back = posting && backOf(posting);
  function backOf(what: NonNullable<Message['undo']>): (() => void) | null {
    if ('run' in what)
      return () => {
        close();
        what.run();
      };
    const { movementId } = what;
    return movementId !== null && mayUndo ? () => undo({ movementId, what: what.what }) : null;
  }
  return (
    <SnackbarContent ref={ref ?? null}>
      <Paper
        role="status"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 12,
          padding: '8px 8px 8px 16px',
          background: 'var(--sage-soft)',
          boxShadow: '0 4px 18px rgb(0 0 0 / 18%)',
          '& a, & button': { pointerEvents: 'auto' },
        }}
      >
        <span>{text}</span>
        {made ? (
          <Box component={Link} to={made.to} className="strong" sx={{ textDecoration: 'underline' }} onClick={close}>
            {made.name}
          </Box>
        ) : null}
        {back ? (
          <Button size="small" onClick={back}>
            Undo
          </Button>
        ) : null}
        <Button variant="text" aria-label="Close the message" onClick={close}>
          ×
        </Button>
      </Paper>
    </SnackbarContent>
  );
}
