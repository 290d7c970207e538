import { joinBytes } from './jpegSegments.ts';

/** One chunk of a PNG file. */
export interface PngChunk {
  type: string;
  body: Uint8Array;
}

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
/** Signature and header: what is added goes right behind them. */
const AFTER_HEADER = 8 + 25;

/** The chunks of a PNG file (W3C PNG, section 5); undefined if it is none. */
export function readPngChunks(file: Uint8Array): PngChunk[] | undefined {
  if (SIGNATURE.some((value, k) => file[k] !== value)) return undefined;
  const view = new DataView(file.buffer, file.byteOffset, file.length);
  const chunks: PngChunk[] = [];
  for (let at = 8; at + 12 <= file.length;) {
    const length = view.getUint32(at);
    if (at + 12 + length > file.length) return undefined;
    chunks.push({
      type: String.fromCharCode(...file.subarray(at + 4, at + 8)),
      body: file.subarray(at + 8, at + 8 + length),
    });
    at += 12 + length;
  }
  return chunks;
}

/** A PNG file with further chunks behind its header. */
export function addPngChunks(file: Uint8Array<ArrayBuffer>, added: readonly PngChunk[]): Uint8Array<ArrayBuffer> {
  if (!readPngChunks(file)) return file;
  const pieces = added.map(({ type, body }) => {
    const piece = new Uint8Array(body.length + 12);
    const view = new DataView(piece.buffer);
    view.setUint32(0, body.length);
    piece.set(
      [...type].map((letter) => letter.charCodeAt(0)),
      4,
    );
    piece.set(body, 8);
    view.setUint32(body.length + 8, crc32(piece.subarray(4, body.length + 8)));
    return piece;
  });
  return joinBytes([file.subarray(0, AFTER_HEADER), ...pieces, file.subarray(AFTER_HEADER)]);
}

/** The check sum of a chunk (W3C PNG, annex D). */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
  }
  return ~crc >>> 0;
}
