import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';

interface DropFileProps {
  label: string;
  /** On the button that opens the chooser. */
  choose: string;
  /** Media types, each with the endings of its files. */
  accept: Record<string, string[]>;
  take: (file: File) => void;
  /** Files of another type come here. */
  refuse?: (file: File) => void;
  children: ReactNode;
}

/** A file dropped here, or chosen with a button. */
export function DropFile({ label, choose, accept, take, refuse, children }: DropFileProps) {
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    accept,
    multiple: false,
    noClick: true,
    noKeyboard: true,
    onDrop: ([taken], [refused]) => {
      if (taken) take(taken);
      else if (refused) refuse?.(refused.file);
    },
  });
  return (
    <Box
      {...getRootProps()}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 10,
        alignItems: 'center',
        justifyContent: 'space-between',
        minHeight: 56,
        padding: '8px 14px',
        border: '1.5px dashed',
        borderColor: isDragActive ? 'primary.main' : 'divider',
        borderRadius: '8px',
        background: isDragActive ? 'var(--damson-soft)' : 'none',
      }}
    >
      <span>{children}</span>
      <Button size="small" onClick={open}>
        {choose}
      </Button>
      <input {...getInputProps({ 'aria-label': label })} />
    </Box>
  );
}
