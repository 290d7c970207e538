import { lumaAt } from '../../core/image/luma.ts';
import { readFile, writeFile } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { FingoError } from '../../core/errors.ts';
import { requireSameSize, type RasterImage } from '../../core/image/rasterImage.ts';
import type { Size } from '../../core/image/rect.ts';
import { createMask, type Mask } from '../../core/mask/mask.ts';
import { withFileMetadata } from '../metadata/readWrite.ts';
import type { FileMetadata } from '../metadata/fileMetadata.ts';
import { endingsInWords, WRITABLE, type WritableFormat } from '../formats.ts';
import { brokenFile, sniffPicture } from '../sniffPicture.ts';

export interface OpenedPicture {
  bytes: Buffer<ArrayBuffer>;
  image: RasterImage;
}

/** Reads and decodes a photo: upright, sRGB, straight RGBA. */
export async function readPicture(path: string): Promise<OpenedPicture> {
  const name = basename(path);
  const bytes = await readBytes(path);
  const { format } = sniffPicture(bytes, name);
  try {
    if (format.decode) return { bytes, image: await format.decode(new Uint8Array(bytes)) };
    const { data, info } = await sharp(bytes, { failOn: 'error' })
      .rotate()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const pixels = new Uint8ClampedArray(data.buffer as ArrayBuffer, data.byteOffset, data.length);
    return { bytes, image: { width: info.width, height: info.height, data: pixels } };
  } catch {
    throw brokenFile(name);
  }
}

/** Reads a greyscale picture of the photo's size as a mask, white = marked. */
export async function readMask(path: string, photo: Size, what: string): Promise<Mask> {
  const { image } = await readPicture(path);
  requireSameSize(photo, image, what);
  return maskOf(image);
}

/** A greyscale picture as a mask, white = marked; what is transparent is not. */
export function maskOf(image: RasterImage): Mask {
  const mask = createMask(image.width, image.height);
  for (let i = 0; i < mask.data.length; i++) {
    mask.data[i] = Math.round((lumaAt(image.data, 4 * i) * image.data[4 * i + 3]!) / 255);
  }
  return mask;
}

const FULL_QUALITY = 0.92;

/** The format that a file name's ending asks for. Throws `bad-arguments` for an ending that nothing is written in. */
export function formatFor(path: string): WritableFormat {
  const ending = extname(path).toLowerCase();
  const format = WRITABLE.find(({ endings }) => endings.includes(ending));
  if (format) return format;
  throw new FingoError('bad-arguments', `"${basename(path)}" should end in ${endingsInWords()}.`);
}

/**
 * Writes a picture in the format of its file name's ending; an opaque one without an alpha channel; with the
 * metadata, where the format takes any.
 */
export async function writePicture(path: string, image: RasterImage, metadata: FileMetadata = {}): Promise<void> {
  const { width, height, data } = image;
  const { writer } = formatFor(path);
  if (writer.encode) {
    await writeBytes(path, withFileMetadata(await writer.encode(image, FULL_QUALITY), metadata));
    return;
  }
  const picture = sharp(Buffer.from(data.buffer, data.byteOffset, data.byteLength), {
    raw: { width, height, channels: 4 },
  });
  const opaque = data.every((value, i) => i % 4 !== 3 || value === 255);
  await writeEncoded(path, opaque ? picture.removeAlpha() : picture, metadata);
}

/** Writes a mask as a greyscale picture, white = marked. */
export async function writeMask(path: string, { width, height, data }: Mask): Promise<void> {
  await writeEncoded(path, sharp(data, { raw: { width, height, channels: 1 } }).toColourspace('b-w'));
}

async function writeEncoded(path: string, picture: Sharp, metadata: FileMetadata = {}): Promise<void> {
  const { sharp: encoder } = formatFor(path).writer;
  if (!encoder) throw new FingoError('bad-arguments', `A mask can’t be written as "${basename(path)}"; use .png.`);
  const buffer = await picture.toFormat(encoder.format, encoder.options).toBuffer();
  await writeBytes(path, withFileMetadata(new Uint8Array(buffer), metadata));
}

async function writeBytes(path: string, bytes: Uint8Array): Promise<void> {
  try {
    await writeFile(path, bytes);
  } catch {
    throw new FingoError('bad-arguments', `"${path}" can't be written; choose a folder that exists and is writable.`);
  }
}

async function readBytes(path: string): Promise<Buffer<ArrayBuffer>> {
  try {
    return await readFile(path);
  } catch {
    throw new FingoError('bad-arguments', `"${path}" can't be read; check the name and that the file is there.`);
  }
}
