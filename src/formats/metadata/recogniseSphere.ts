import type { Size } from '../../core/image/rect.ts';
import type { SpherePlacement } from '../../core/sphere/placement.ts';
import { MAX_MEGAPIXELS } from '../limits.ts';
import { readFileMetadata } from './readWrite.ts';
import { readSphereTags, type SphereTags } from './sphereTags.ts';

/** How far tags may be off the picture's own proportions. */
const TOLERANCE = 0.01;

/** What a file tells of whether its picture is a sphere, or a part of one. */
export type SphereGuess =
  | { kind: 'sphere'; placement: SpherePlacement }
  /** Nothing is told, but the picture is exactly twice as wide as high. */
  | { kind: 'perhaps' }
  | { kind: 'flat' }
  /** What is told can't be true of this picture, or can't be worked on; one sentence says why. */
  | { kind: 'doubtful'; message: string };

/** Whether a file's picture, of this size, is a sphere: by its open sphere metadata, else by its ratio. */
export function recogniseSphere(file: Uint8Array, name: string, size: Size): SphereGuess {
  const { xmp } = readFileMetadata(file);
  const tags = xmp === undefined ? undefined : readSphereTags(xmp);
  if (tags === undefined) return isTwiceAsWide(size) ? { kind: 'perhaps' } : { kind: 'flat' };
  if (tags === 'broken') return doubtful(name, size, 'are incomplete');
  if (tags.ProjectionType !== 'equirectangular') {
    return doubtful(
      name,
      size,
      `tell a "${tags.ProjectionType.slice(0, 30)}" picture, which Fingo can’t look around in`,
    );
  }
  return placed(tags, name, size);
}

const isTwiceAsWide = ({ width, height }: Size): boolean => width === 2 * height;

/** Tags scaled to the picture, which may have been made smaller since they were written. */
function placed(tags: SphereTags, name: string, size: Size): SphereGuess {
  const { width, height } = size;
  const across = width / tags.CroppedAreaImageWidthPixels;
  const down = height / tags.CroppedAreaImageHeightPixels;
  const isTwice = Math.abs(tags.FullPanoWidthPixels / (2 * tags.FullPanoHeightPixels) - 1) < TOLERANCE;
  if (!(Math.abs(across / down - 1) < TOLERANCE) || !isTwice)
    return doubtful(name, size, 'don’t fit the size of its picture');
  const half = Math.round((tags.FullPanoWidthPixels * across) / 2);
  const full = { width: 2 * half, height: half };
  const left = Math.round(tags.CroppedAreaLeftPixels * across);
  const top = Math.round(tags.CroppedAreaTopPixels * across);
  if (left + width > full.width || top + height > full.height)
    return doubtful(name, size, 'place it beyond the sphere');
  if (full.width * full.height > MAX_MEGAPIXELS * 1e6) {
    const message =
      `"${name}" is part of a sphere of ${full.width} x ${full.height} px; Fingo works on up to ${MAX_MEGAPIXELS} ` +
      'megapixels. It is opened as a flat picture; to work on the sphere, save the picture smaller and open that.';
    return { kind: 'doubtful', message };
  }
  return { kind: 'sphere', placement: { full, part: { x: left, y: top, width, height } } };
}

const doubtful = (name: string, size: Size, why: string): SphereGuess => ({
  kind: 'doubtful',
  message:
    `The sphere tags of "${name}" ${why}; it is opened as a flat picture.` +
    (isTwiceAsWide(size) ? ' Choose Around if it is a whole sphere.' : ''),
});
