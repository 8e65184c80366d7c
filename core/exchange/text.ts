export const encodings = ['utf-8', 'utf-8-bom', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
export type Encoding = (typeof encodings)[number];

/**
 * Which encoding bytes are in: by their byte order mark; else UTF-16 when every other byte of the beginning is zero; else UTF-8 when they
 * are well-formed UTF-8; else Windows-1252, in which any bytes are text.
 */
export function encodingOf(bytes: Uint8Array): Encoding {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return 'utf-8-bom';
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const start = bytes.slice(0, 400);
  const zeros = (parity: number) => start.filter((byte, index) => index % 2 === parity && byte === 0).length;
  if (start.length > 3 && zeros(1) > start.length / 4) return 'utf-16le';
  if (start.length > 3 && zeros(0) > start.length / 4) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'windows-1252'; // not well-formed UTF-8: every byte is a character there
  }
}

/** Whether a text holds no half of a pair of surrogates, which is no character and cannot be kept. */
export const isWellFormed = (text: string): boolean => !/\p{Surrogate}/u.test(text);

/** The text of bytes in an encoding, without its byte order mark. */
export const textOf = (bytes: Uint8Array, encoding: Encoding): string =>
  new TextDecoder(encoding === 'utf-8-bom' ? 'utf-8' : encoding).decode(bytes).replace(/^\ufeff/, '');
