/** One marker segment of a JPEG file before its pixels: the marker's second byte, and what follows its length. */
export interface JpegSegment {
  marker: number;
  body: Uint8Array;
}

const START_OF_SCAN = 0xda;
/** Markers without a body. */
const isBare = (marker: number): boolean => marker === 0x01 || (marker >= 0xd0 && marker <= 0xd8);
const LONGEST_BODY = 0xffff - 2;

/** The segments of a JPEG file up to its pixels, and where those begin (ISO/IEC 10918-1, annex B); undefined if it is none. */
export function readJpegSegments(file: Uint8Array): { segments: JpegSegment[]; pixelsAt: number } | undefined {
  if (file[0] !== 0xff || file[1] !== 0xd8) return undefined;
  const segments: JpegSegment[] = [];
  for (let at = 2; at + 4 <= file.length;) {
    if (file[at] !== 0xff) return undefined;
    const marker = file[at + 1]!;
    if (marker === 0xff) at++;
    else if (isBare(marker)) at += 2;
    else if (marker === START_OF_SCAN) return { segments, pixelsAt: at };
    else {
      const length = (file[at + 2]! << 8) | file[at + 3]!;
      if (length < 2 || at + 2 + length > file.length) return undefined;
      segments.push({ marker, body: file.subarray(at + 4, at + 2 + length) });
      at += 2 + length;
    }
  }
  return undefined;
}

/** A JPEG file with further segments after its own leading APP0; those too long for a segment are left out. */
export function addJpegSegments(file: Uint8Array<ArrayBuffer>, added: readonly JpegSegment[]): Uint8Array<ArrayBuffer> {
  const read = readJpegSegments(file);
  if (!read) return file;
  const [first] = read.segments;
  const at = first?.marker === 0xe0 ? 2 + 4 + first.body.length : 2;
  const pieces = added
    .filter(({ body }) => body.length <= LONGEST_BODY)
    .flatMap(({ marker, body }) => {
      const length = body.length + 2;
      return [Uint8Array.of(0xff, marker, length >> 8, length & 255), body];
    });
  return joinBytes([file.subarray(0, at), ...pieces, file.subarray(at)]);
}

export function joinBytes(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}
