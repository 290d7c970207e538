import { blurPlane } from '../image/boxBlur.ts';
import { cropImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import { intersect, wholeOf } from '../image/rect.ts';
import { separateAreas } from '../mask/components.ts';
import { boundsOf, createMask, cropMask, pasteMask, type Mask } from '../mask/mask.ts';
import { besideSubject } from './besideSubject.ts';
import { reduceMarked, type SmallImage } from '../mask/reduceMarked.ts';
import { floatsBy } from '../numeric/filled.ts';

const WORK_PIXELS = 60_000;
/** So far to each side, in widths of the subject, the surface is looked at. */
const SIDE_SHARE = 0.5;
/** The line about which things are mirrored lies at most this share of the subject's height above its lowest point. */
const HIGHEST_LINE = 0.25;
const LOWEST_LINE_PX = 3;
/** Ripples and gloss blur what is mirrored; both are compared over so many work px. */
const BLUR_PX = 2;
/** So far around the mirrored subject, in work px, nothing of it is to show. */
const AROUND_PX = 8;
/** How like the mirrored subject what lies below the line must be (a correlation), and how strong it is at least. */
const MIN_LIKENESS = 0.6;
const FAINTEST = 0.08;
/** Fewer mirrored pixels tell nothing. */
const FEWEST_PIXELS = 60;
/** A place belongs to the reflection if it shows at least this share of what the whole does on average. */
const LOCAL_SHARE = 0.3;

/**
 * The reflection of a subject in a level surface below it (water, a polished floor), as a mask of the image's size without
 * the subject: where, mirrored about a level line near the subject's foot, its difference from the surface around shows
 * again, fainter. The line is the one about which the likeness is greatest. Empty where none is found.
 */
export function findReflection(picture: RasterImage, whole: Mask): Mask {
  requireSameSize(picture, whole, 'The subject');
  const out = createMask(picture.width, picture.height);
  const bounds = boundsOf(whole, 128);
  if (bounds.width === 0) return out;
  const side = Math.ceil(SIDE_SHARE * bounds.width) + 8;
  const near = intersect(
    { x: bounds.x - side, y: bounds.y, width: bounds.width + 2 * side, height: 2 * bounds.height + 8 },
    wholeOf(picture),
  );
  const image = cropImage(picture, near);
  const subject = cropMask(whole, near);
  const factor = Math.max(1, Math.round(Math.sqrt((near.width * near.height) / WORK_PIXELS)));
  const small = reduceMarked(image, subject, factor);
  const found = reflectionIn(small, bounds.height / factor);
  if (found) pasteMask(out, near, besideSubject(found, image, subject, factor));
  return out;
}

/** What a line mirrors: how like the subject it is, and how strong. */
interface Mirrored {
  /** The line lies half a px above row `line / 2`: pixel rows y and line - y mirror each other. */
  line: number;
  likeness: number;
  strength: number;
}

function reflectionIn(small: SmallImage, subjectHeight: number): Mask | undefined {
  const { width, height, marked } = small;
  let lowest = 0;
  for (let i = 0; i < marked.length; i++) if (marked[i]! > 0.5) lowest = Math.floor(i / width);
  const surface = surfaceRows(small);
  const smooth = blurred(small);
  let best: Mirrored | undefined;
  const first = Math.floor(2 * (lowest - HIGHEST_LINE * subjectHeight));
  for (let line = first; line <= 2 * (lowest + LOWEST_LINE_PX); line++) {
    const now = mirroredAt(small, smooth, surface, line);
    if (now && (!best || now.likeness > best.likeness)) best = now;
  }
  if (!best || best.likeness < MIN_LIKENESS || best.strength < FAINTEST) return undefined;
  const shows = new Float32Array(width * height);
  eachMirrored(small, best.line, (i, j, y) => {
    let [product, square] = [0, 0];
    for (let c = 0; c < 3; c++) {
      const own = smooth[3 * j + c]! - surface[3 * y + c]!;
      product += own * (smooth[3 * i + c]! - surface[3 * y + c]!);
      square += own * own;
    }
    shows[i] = product > LOCAL_SHARE * best.strength * square ? 1 : 0;
  });
  const even = blurPlane(shows, width, height, BLUR_PX, 2);
  const mask = createMask(width, height);
  eachMirrored(small, best.line, (i) => (mask.data[i] = even[i]! > 0.4 ? 255 : 0));
  // What begins at the subject; specks elsewhere are chance.
  const [largest] = separateAreas(mask, FEWEST_PIXELS);
  return largest;
}

/** Calls for each pixel i below the line whose mirror image j lies on the subject, and that is none of it itself. */
function eachMirrored(
  { width, height, marked }: SmallImage,
  line: number,
  visit: (i: number, j: number, y: number) => void,
): void {
  for (let y = Math.max(0, Math.floor(line / 2) + 1); y < height; y++) {
    const from = line - y;
    if (from < 0) return;
    for (let x = 0; x < width; x++) {
      const [i, j] = [y * width + x, from * width + x];
      if (marked[j]! > 0.5 && marked[i]! < 0.1) visit(i, j, y);
    }
  }
}

/**
 * How like the subject what a line mirrors is, by the correlation through zero of both differences from the surface over
 * the mirrored subject and some px around, where it is to show nothing.
 */
function mirroredAt(
  { width, height, marked }: SmallImage,
  smooth: Float32Array,
  surface: Float32Array,
  line: number,
): Mirrored | undefined {
  const ahead = new Float32Array(width * height);
  for (let y = Math.max(0, Math.floor(line / 2) + 1); y < height && line - y >= 0; y++) {
    for (let x = 0; x < width; x++) if (marked[(line - y) * width + x]! > 0.5) ahead[y * width + x] = 1;
  }
  const around = blurPlane(ahead, width, height, AROUND_PX, 1);
  let [products, own, shown, count] = [0, 0, 0, 0];
  for (let i = 0; i < ahead.length; i++) {
    if (around[i]! < 1e-6 || marked[i]! > 0.1) continue;
    const y = Math.floor(i / width);
    const j = i + (line - 2 * y) * width;
    if (j < 0 || y <= line / 2) continue;
    for (let c = 0; c < 3; c++) {
      const b = smooth[3 * i + c]! - surface[3 * y + c]!;
      shown += b * b;
      if (!ahead[i]) continue;
      const a = smooth[3 * j + c]! - surface[3 * y + c]!;
      products += a * b;
      own += a * a;
    }
    if (ahead[i]) count++;
  }
  if (count < FEWEST_PIXELS || own === 0 || shown === 0) return undefined;
  return { line, likeness: products / Math.sqrt(own * shown), strength: products / own };
}

/** The mean colour of each row beside the subject's own columns; RGB. */
function surfaceRows({ width, height, colour, marked }: SmallImage): Float32Array {
  let [left, right] = [width, -1];
  for (let i = 0; i < marked.length; i++) {
    if (marked[i]! <= 0.1) continue;
    left = Math.min(left, i % width);
    right = Math.max(right, i % width);
  }
  const rows = new Float32Array(3 * height);
  for (let y = 0; y < height; y++) {
    let count = 0;
    for (let x = 0; x < width; x++) {
      if (x >= left - 1 && x <= right + 1) continue;
      for (let c = 0; c < 3; c++) rows[3 * y + c]! += colour[3 * (y * width + x) + c]!;
      count++;
    }
    for (let c = 0; c < 3; c++) rows[3 * y + c]! /= Math.max(1, count);
  }
  return rows;
}

/** The picture's three channels, interleaved, blurred. */
function blurred({ width, height, colour }: SmallImage): Float32Array {
  const out = new Float32Array(colour.length);
  for (let c = 0; c < 3; c++) {
    const plane = floatsBy(width * height, (i) => colour[3 * i + c]!);
    const smooth = blurPlane(plane, width, height, BLUR_PX, 2);
    for (let i = 0; i < smooth.length; i++) out[3 * i + c] = smooth[i]!;
  }
  return out;
}
