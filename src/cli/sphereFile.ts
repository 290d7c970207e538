import { basename } from 'node:path';
import { FingoError } from '../core/errors.ts';
import type { RasterImage } from '../core/image/rasterImage.ts';
import { placedOnSphere, wholeSphere } from '../core/sphere/placement.ts';
import { readFileMetadata } from '../formats/metadata/readWrite.ts';
import type { FileMetadata } from '../formats/metadata/fileMetadata.ts';
import { recogniseSphere } from '../formats/metadata/recogniseSphere.ts';
import { withSphereTags } from '../formats/metadata/sphereTags.ts';
import { readPicture } from '../formats/node/pictureFiles.ts';
import { requireSphere } from '../operations/sphere/requireSphere.ts';

export interface OpenedSphere {
  bytes: Buffer<ArrayBuffer>;
  /** The whole sphere; where the file shows nothing of it, transparent. */
  image: RasterImage;
  /** What a file of the changed sphere tells: what this one told, and that it is a sphere. */
  metadata: FileMetadata;
}

/** Reads a sphere, or a part of one. Throws `not-a-sphere` for other pictures. */
export async function readSphere(path: string): Promise<OpenedSphere> {
  const { bytes, image } = await readPicture(path);
  const guess = recogniseSphere(bytes, basename(path), image);
  if (guess.kind === 'doubtful' && image.width !== 2 * image.height) {
    throw new FingoError('not-a-sphere', guess.message);
  }
  const sphere = guess.kind === 'sphere' ? placedOnSphere(image, guess.placement) : image;
  requireSphere(sphere);
  const { xmp, exif } = readFileMetadata(bytes);
  return { bytes, image: sphere, metadata: { xmp: withSphereTags(xmp, wholeSphere(sphere)), ...(exif && { exif }) } };
}
