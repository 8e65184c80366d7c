import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { sighted, type InView } from '@larder/core/floor/sightings';
import { useEffect, useRef, useState } from 'react';
import { DropFile } from '../kit/DropFile';
import { Notice } from '../kit/Notice';
import { readCodes } from '../kit/readCodes';
import { signal } from '../kit/signal';

/** How often the picture of the camera is looked at, in milliseconds. */
const pace = 180;

interface CameraScanProps {
  /** Takes a code; false when it means nothing on this page. */
  take: (code: string) => boolean;
  close: () => void;
}

/** Scans with the camera of the phone, one code after the other; where there is none, from a picture that was taken before. */
export function CameraScan({ take, close }: CameraScanProps) {
  const video = useRef<HTMLVideoElement>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const taken = useRef(take);
  useEffect(() => {
    taken.current = take;
  });
  const scan = (codes: readonly string[]) => {
    for (const code of codes) {
      const isTaken = taken.current(code);
      setSaid(isTaken ? `${code} is taken.` : `${code}`);
    }
  };
  const scanned = useRef(scan);
  useEffect(() => {
    scanned.current = scan;
  });
  useEffect(() => {
    let stream: MediaStream | null = null;
    let isOver = false;
    let inView: InView = new Map();
    const look = async () => {
      const shown = video.current;
      if (isOver || !shown) return;
      if (shown.readyState >= shown.HAVE_CURRENT_DATA) {
        const seen = sighted(inView, await readCodes(shown), performance.now());
        inView = seen.inView;
        scanned.current(seen.scans);
      }
      setTimeout(() => void look(), pace);
    };
    const begin = async () => {
      // Only where the page is safe from others is there a camera at all.
      if (!('mediaDevices' in navigator)) throw new Error('no camera');
      const opened = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
      if (isOver || !video.current) return opened.getTracks().forEach((track) => track.stop());
      stream = opened;
      video.current.srcObject = opened;
      await video.current.play();
      await look();
    };
    begin().catch(() => setFault('There is no camera here, or it may not be used. Choose a picture of the code instead.'));
    return () => {
      isOver = true;
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, []);
  const fromPicture = async (file: File) => {
    const codes = await readCodes(file).catch(() => []);
    if (codes.length > 0) return scan(codes);
    signal(false);
    setSaid('No code was found in this picture.');
  };
  return (
    <Dialog open onClose={close} fullWidth maxWidth="xs" aria-labelledby="camera-title">
      <DialogTitle id="camera-title" sx={{ padding: '16px 24px 12px' }}>
        Scan with the camera
      </DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 12 }}>
        {fault === null ? (
          <Box
            component="video"
            ref={video}
            muted
            playsInline
            aria-label="What the camera sees"
            sx={{ width: '100%', borderRadius: '8px', background: 'var(--ink)' }}
          />
        ) : (
          <Notice>{fault}</Notice>
        )}
        {said === null ? null : <Notice role="status">{said}</Notice>}
        <DropFile
          label="Picture of a code"
          choose="Choose a picture"
          accept={{ 'image/*': ['.png', '.jpg', '.jpeg', '.webp'] }}
          take={(file) => void fromPicture(file)}
        >
          Or a picture of it
        </DropFile>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={close}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}
