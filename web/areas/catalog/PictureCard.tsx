import { useState } from 'react';
import { problemOf } from '../../kit/problem';
import { useAddPictureMutation } from './api';

/** The picture of an item: chosen or dropped here, kept small by the server. */
export function PictureCard({ pictureId, change }: { pictureId: number | null; change: (id: number | null) => void }) {
  const [add, { isLoading, error }] = useAddPictureMutation();
  const [fault, setFault] = useState('');
  const take = async (file: File | undefined) => {
    if (!file) return;
    if (!/^image\/(jpeg|png|webp|gif)$/.test(file.type) || file.size > 10_000_000) return setFault('Give a JPEG, PNG, WebP or GIF of at most 10 MB.');
    setFault('');
    const result = await add({ body: { base64: await base64Of(file) } });
    if (result.data) change(result.data.id);
  };
  const said = fault || problemOf(error)?.title;
  return (
    <section
      className="card picture"
      aria-label="Picture"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void take(event.dataTransfer.files[0]);
      }}
    >
      {pictureId === null ? (
        <span className="quiet">{isLoading ? 'One moment…' : 'No picture. Drop one here, or'}</span>
      ) : (
        <img src={`/api/catalog/pictures/${pictureId}/large`} alt="" />
      )}
      <span style={{ display: 'flex', gap: 8 }}>
        <label className="button small">
          {pictureId === null ? 'Choose a picture' : 'Change'}
          <input type="file" className="hidden" accept="image/jpeg,image/png,image/webp,image/gif" onChange={(event) => void take(event.target.files?.[0])} />
        </label>
        {pictureId === null ? null : (
          <button type="button" className="button small" onClick={() => change(null)}>
            Take away
          </button>
        )}
      </span>
      {said ? (
        <small className="late" role="alert">
          {said}
        </small>
      ) : null}
    </section>
  );
}

const base64Of = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).replace(/^[^,]*,/, ''));
    reader.onerror = () => reject(reader.error ?? new Error('the file could not be read'));
    reader.readAsDataURL(file);
  });
