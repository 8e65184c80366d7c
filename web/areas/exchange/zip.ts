const entry = 0x02014b50;

/**
 * How many bytes the parts of a ZIP archive say they unpack to, by its central directory (APPNOTE 4.3.12); null when it is no archive, as
 * a workbook protected by a password is not.
 */
export function unpackedSize(bytes: Uint8Array): number | null {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let total = 0;
  let found = false;
  for (let at = 0; at + 46 <= bytes.length; at += 1) {
    if (bytes[at] !== 0x50 || view.getUint32(at, true) !== entry) continue;
    found = true;
    total += view.getUint32(at + 24, true);
    at += 45 + view.getUint16(at + 28, true) + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  return found ? total : null;
}
