import sharp from 'sharp';
import { Refusal, refuseField } from '@larder/core/refusal';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { picture } from '../../db/schema/index';

const kinds = new Set(['jpeg', 'png', 'webp', 'gif']);
const mostBytes = 10_000_000;

/** Takes in a picture: checks what it really is, re-encodes it small (which drops whatever else was in the file), and keeps it. */
export async function addPicture(act: Act, base64: string): Promise<{ id: number }> {
  const bytes = Buffer.from(base64, 'base64');
  if (bytes.length > mostBytes) throw refuseField(422, 'too-large', 'base64', 'The picture is larger than 10 MB.');
  const sizes = await encodedSmall(bytes).catch(() => null); // the package says with an error of its own what it cannot read
  if (sizes === null) throw refuseField(422, 'no-picture', 'base64', 'This is no picture that can be read: give a JPEG, PNG, WebP or GIF.');
  const [added] = await act.tx.db
    .insert(picture)
    .values({ ...sizes, addedAt: act.now.toISOString() })
    .returning({ id: picture.id });
  return { id: added?.id as number };
}

/** The picture in two sizes, or null when it is of another kind; fails when it cannot be read. */
async function encodedSmall(bytes: Buffer): Promise<{ small: Buffer; large: Buffer } | null> {
  const read = () => sharp(bytes, { limitInputPixels: 80_000_000 });
  const { format } = await read().metadata();
  if (!kinds.has(format)) return null;
  const sized = (side: number, quality: number) => read().rotate().resize(side, side, { fit: 'inside', withoutEnlargement: true }).webp({ quality }).toBuffer();
  const [small, large] = await Promise.all([sized(96, 78), sized(640, 80)]);
  return { small, large };
}

export async function pictureFile(
  { tx }: Act,
  { id, size }: { id: number; size: 'small' | 'large' },
): Promise<{ type: string; name: string; bytes: Uint8Array }> {
  const [row] = await tx.db.select({ bytes: picture[size] }).from(picture).where(eq(picture.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such picture.');
  return { type: 'image/webp', name: `${id}-${size}.webp`, bytes: row.bytes };
}
