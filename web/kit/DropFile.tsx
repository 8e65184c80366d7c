import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';

interface DropFileProps {
  label: string;
  /** Media types, each with the endings of its files. */
  accept: Record<string, string[]>;
  take: (file: File) => void;
  /** Files of another type come here. */
  refuse?: (file: File) => void;
  children: ReactNode;
}

/** A file dropped here, or chosen: a click or Enter opens the chooser. */
export function DropFile({ label, accept, take, refuse, children }: DropFileProps) {
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    accept,
    multiple: false,
    onDrop: ([taken], [refused]) => {
      if (taken) take(taken);
      else if (refused) refuse?.(refused.file);
    },
  });
  return (
    <Box
      {...getRootProps({ role: 'button', 'aria-label': `${label}: choose a file` })}
      sx={{
        display: 'grid',
        placeItems: 'center',
        minHeight: 56,
        padding: '8px 14px',
        border: '1.5px dashed',
        borderColor: 'primary.main',
        borderRadius: '8px',
        background: isDragActive ? 'var(--damson-soft)' : 'none',
        cursor: 'pointer',
      }}
    >
      {children}
      <input {...getInputProps({ 'aria-label': label })} />
    </Box>
  );
}
