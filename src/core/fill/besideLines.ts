import type { RasterImage } from '../image/rasterImage.ts';
import { blurPlane } from '../image/boxBlur.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { ColourModel } from '../segment/colourModel.ts';
import type { Drawn } from './drawn.ts';
import type { Part } from './parts.ts';

/** Fewer pixels than this share of a part are left to the largest of its pieces. */
const SMALLEST_SHARE = 0.03;
/** What is known so near to a piece is its rim, and what is drawn so near. */
const RIM_PX = 5;
const BESIDE_PX = 3;
/** Colours so many times (natural logarithm) rarer than the rim's usual ones are of another side. */
const FOREIGN = 2.5;
/** Pixels are told by what lies up to so far around them. */
const AROUND_PX = 3;
/** Where less than this share of what is known looks like the rim, all of it may be copied from. */
const LEAST_DONORS = 0.05;

/** Both sides look different where so much of what is known is no donor to one of them. */
const DIFFERENT = 0.3;

/**
 * The pieces into which lines that were drawn cut a part (of the whole region), each to be filled from what looks like its
 * own rim: what lies on the other side of a line is no donor. Undefined where it is not cut, or both sides look alike.
 */
export function besideLines(part: Part, drawn: Drawn, image: RasterImage, hole: Hole): Part[] | undefined {
  const { width, height } = image;
  const { labels, sizes } = piecesOf(part.pixelsOf, width);
  const large = [...sizes.keys()].filter((k) => sizes[k]! >= SMALLEST_SHARE * part.pixels);
  if (large.length < 2) return undefined;
  const largest = large.reduce((a, b) => (sizes[b]! > sizes[a]! ? b : a));
  const known = hole.length - countOf(hole);
  const pieces = large.map((piece): Part => {
    const isOwn = (label: number): boolean =>
      label === piece + 1 || (piece === largest && label > 0 && !large.includes(label - 1));
    const pixelsOf = Uint8Array.from(labels, (label, i) => (isOwn(label) ? part.pixelsOf[i]! : 0));
    const box = boundsOf({ width, height, data: pixelsOf as Mask['data'] });
    const pixels = countOf(pixelsOf);
    return {
      ...part,
      pixelsOf,
      pixels,
      box,
      donorsOf: donorsLike(rimModel(pixelsOf, box, drawn, image, hole), image, hole),
    };
  });
  const areDifferent = pieces.some(({ donorsOf }) => donorsOf && countOf(donorsOf) < (1 - DIFFERENT) * known);
  return areDifferent ? pieces : undefined;
}

const countOf = (bytes: ArrayLike<number>): number => {
  let count = 0;
  for (let i = 0; i < bytes.length; i++) if (bytes[i]) count++;
  return count;
};

/** Which of the connected pieces of a part each pixel is of, counted from 1, and how many pixels each has. */
function piecesOf(pixelsOf: Uint8Array, width: number): { labels: Int32Array; sizes: number[] } {
  const labels = new Int32Array(pixelsOf.length);
  const sizes: number[] = [];
  const stack: number[] = [];
  for (let start = 0; start < pixelsOf.length; start++) {
    if (!pixelsOf[start] || labels[start]) continue;
    const label = sizes.push(0);
    labels[start] = label;
    stack.push(start);
    while (stack.length > 0) {
      const i = stack.pop()!;
      sizes[label - 1]!++;
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : -1, x + 1 < width ? i + 1 : -1, i - width, i + width]) {
        if (j < 0 || j >= pixelsOf.length || !pixelsOf[j] || labels[j]) continue;
        labels[j] = label;
        stack.push(j);
      }
    }
  }
  return { labels, sizes };
}

/** The colours around a piece: what is known there, and what is drawn on its side of the lines. */
function rimModel(
  pixelsOf: Uint8Array,
  box: Part['box'],
  drawn: Drawn,
  { width, height, data }: RasterImage,
  hole: Hole,
): { shareAt: (i: number) => number; usual: number } {
  const model = new ColourModel();
  const colours: [number, number, number][] = [];
  const colour = new Float32Array(3);
  for (let y = Math.max(0, box.y - RIM_PX); y < Math.min(height, box.y + box.height + RIM_PX); y++) {
    for (let x = Math.max(0, box.x - RIM_PX); x < Math.min(width, box.x + box.width + RIM_PX); x++) {
      const i = y * width + x;
      const isKnown = hole[i] === 0;
      if (!isKnown && !drawn.pixelsOf[i]) continue;
      if (!isNear(pixelsOf, width, height, x, y, isKnown ? RIM_PX : BESIDE_PX)) continue;
      if (isKnown) colours.push([data[4 * i]!, data[4 * i + 1]!, data[4 * i + 2]!]);
      else if (drawn.sources.sample(drawn.sources.groupAt(x, y), x, y, colour)) {
        colours.push([colour[0]!, colour[1]!, colour[2]!]);
      }
    }
  }
  for (const [r, g, b] of colours) model.add(r, g, b, 1);
  const shares = colours.map(([r, g, b]) => model.logShare(r, g, b)).sort((a, b) => a - b);
  return {
    shareAt: (i) => model.logShare(data[4 * i]!, data[4 * i + 1]!, data[4 * i + 2]!),
    usual: shares[shares.length >> 1] ?? 0,
  };
}

/** Whether a pixel of a piece lies straight up, down, left or right of one, no farther than that. */
function isNear(pixelsOf: Uint8Array, width: number, height: number, x: number, y: number, reach: number): boolean {
  for (let far = 1; far <= reach; far++) {
    if (x >= far && pixelsOf[y * width + x - far]) return true;
    if (x + far < width && pixelsOf[y * width + x + far]) return true;
    if (y >= far && pixelsOf[(y - far) * width + x]) return true;
    if (y + far < height && pixelsOf[(y + far) * width + x]) return true;
  }
  return false;
}

/** 255 where a known pixel looks like a rim; undefined where hardly any does. */
function donorsLike(
  { shareAt, usual }: ReturnType<typeof rimModel>,
  { width, height }: RasterImage,
  hole: Hole,
): Uint8Array | undefined {
  const likeness = new Float32Array(width * height);
  const known = new Float32Array(width * height);
  for (let i = 0; i < likeness.length; i++) {
    if (hole[i]) continue;
    known[i] = 1;
    likeness[i] = shareAt(i) > usual - FOREIGN ? 1 : 0;
  }
  const [like, seen] = [likeness, known].map((plane) => blurPlane(plane, width, height, AROUND_PX, 1)) as [
    Float32Array,
    Float32Array,
  ];
  const allowed = new Uint8Array(width * height);
  let [count, all] = [0, 0];
  for (let i = 0; i < allowed.length; i++) {
    if (hole[i]) continue;
    all++;
    if (like[i]! < 0.5 * seen[i]!) continue;
    allowed[i] = 255;
    count++;
  }
  return count < LEAST_DONORS * all ? undefined : allowed;
}
