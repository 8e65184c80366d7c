import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { base64Of } from '../../kit/base64';
import { DropFile } from '../../kit/DropFile';
import { Card } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { useAddPictureMutation } from './api';

const pictures = { 'image/jpeg': ['.jpg', '.jpeg'], 'image/png': ['.png'], 'image/webp': ['.webp'], 'image/gif': ['.gif'] };
const wanted = 'Give a JPEG, PNG, WebP or GIF of at most 10 MB.';

/** The picture of an item: chosen or dropped here, kept small by the server. */
export function PictureCard({ pictureId, change }: { pictureId: number | null; change: (id: number | null) => void }) {
  const [add, { isLoading, error }] = useAddPictureMutation();
  const [fault, setFault] = useState('');
  const take = async (file: File) => {
    if (file.size > 10_000_000) return setFault(wanted);
    setFault('');
    const result = await add({ body: { base64: await base64Of(file) } });
    if (result.data) change(result.data.id);
  };
  const said = fault || problemOf(error)?.title;
  return (
    <Card pad stack aria-label="Picture" sx={{ gap: 8 }}>
      {pictureId === null ? null : (
        <Box
          component="img"
          src={`/api/catalog/pictures/${pictureId}/large`}
          alt=""
          sx={{ width: '100%', maxHeight: 220, borderRadius: '6px', objectFit: 'contain' }}
        />
      )}
      <DropFile
        label="Picture"
        choose={pictureId === null ? 'Choose a picture' : 'Change'}
        accept={pictures}
        take={(file) => void take(file)}
        refuse={() => setFault(wanted)}
      >
        <span className="quiet">{isLoading ? 'One moment…' : pictureId === null ? 'No picture. Drop one here' : 'Drop another here'}</span>
      </DropFile>
      {pictureId === null ? null : (
        <span>
          <Button size="small" onClick={() => change(null)}>
            Remove the picture
          </Button>
        </span>
      )}
      {said ? (
        <small className="late" role="alert">
          {said}
        </small>
      ) : null}
    </Card>
  );
}
