import { paperKinds, type Papers } from '@larder/contract/papers';
import type * as contract from '@larder/contract/papers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import sharp from 'sharp';
import type { Act } from '../../act';
import { company, logo, paperWords } from '../../db/schema/index';

/** What stands on the papers of the business; kinds that nothing was written for have no words. */
export async function papers({ tx: { db } }: Act): Promise<ResponseOf<typeof contract.getPapers>> {
  const [head] = await db
    .select({ address: company.address, taxNumber: company.taxNumber, payTo: company.payTo, hasLogo: sql<boolean>`${logo.id} is not null` })
    .from(company)
    .leftJoin(logo, sql`true`);
  if (!head) throw new Error('the business has not been founded');
  const rows = await db.select().from(paperWords);
  return {
    ...head,
    words: paperKinds.map((kind) => {
      const own = rows.find((row) => row.kind === kind);
      return { kind, opening: own?.opening ?? '', closing: own?.closing ?? '' };
    }),
  };
}

export async function keepPapers({ tx: { db } }: Act, { words, ...head }: Papers): Promise<Record<string, never>> {
  const twice = words.findIndex(({ kind }, index) => words.findIndex((one) => one.kind === kind) < index);
  if (twice >= 0) throw refuseField(422, 'twice', `words.${twice}.kind`, 'The words of this kind of paper are given twice.');
  await db.update(company).set(head).where(eq(company.id, 1));
  const set = { opening: sql`excluded.opening`, closing: sql`excluded.closing` };
  if (words.length > 0) await db.insert(paperWords).values(words).onConflictDoUpdate({ target: paperWords.kind, set });
  return {};
}

const [widest, tallest] = [1000, 340];
const asPng = async (bytes: Buffer): Promise<Buffer> =>
  sharp(bytes, { limitInputPixels: 80_000_000 }).rotate().resize(widest, tallest, { fit: 'inside', withoutEnlargement: true }).png().toBuffer();

/** Keeps the picture of the business, re-encoded as a PNG that papers can take; refuses what is no picture. */
export async function keepLogo({ tx: { db } }: Act, base64: string | null): Promise<Record<string, never>> {
  if (base64 === null) {
    await db.delete(logo);
    return {};
  }
  const bytes = await asPng(Buffer.from(base64, 'base64')).catch(() => null); // the package says with an error of its own what it cannot read
  if (bytes === null) throw refuseField(422, 'no-picture', 'base64', 'This is no picture that can be read: give a PNG, JPEG, WebP or GIF.');
  const row = { id: 1, type: 'image/png' as const, bytes };
  await db.insert(logo).values(row).onConflictDoUpdate({ target: logo.id, set: row });
  return {};
}

export async function logoFile({ tx: { db } }: Act): Promise<{ type: string; name: string; bytes: Uint8Array }> {
  const [row] = await db.select({ type: logo.type, bytes: logo.bytes }).from(logo);
  if (!row) throw new Refusal(404, 'not-found', 'The business has no picture on its papers.');
  return { type: row.type, name: 'logo.png', bytes: row.bytes };
}
