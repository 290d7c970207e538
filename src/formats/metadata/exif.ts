const ORIENTATION = 0x0112;

/** Text of one byte a letter. */
export const latin = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));

export const startsWith = (bytes: Uint8Array, text: string): boolean =>
  latin(text).every((value, k) => bytes[k] === value);

/** Exif data whose orientation is upright (Exif 2.3, tag 0x0112 of the first directory). */
export function uprightExif(exif: Uint8Array): Uint8Array {
  const out = exif.slice();
  const view = new DataView(out.buffer);
  if (out.length < 14) return out;
  const little = view.getUint16(0) === 0x4949;
  const directory = view.getUint32(4, little);
  if (directory + 2 > out.length) return out;
  const entries = view.getUint16(directory, little);
  for (let k = 0; k < entries; k++) {
    const at = directory + 2 + 12 * k;
    if (at + 12 > out.length) break;
    if (view.getUint16(at, little) === ORIENTATION) view.setUint16(at + 8, 1, little);
  }
  return out;
}
