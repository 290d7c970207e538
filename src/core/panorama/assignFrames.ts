import { ARCS, minimumCut } from '../numeric/minimumCut.ts';
import { halveImage } from '../image/halve.ts';
import { createImage, type RasterImage } from '../image/rasterImage.ts';
import type { Size } from '../image/rect.ts';
import type { Mask } from '../mask/mask.ts';
import { floatsBy } from '../numeric/filled.ts';

/** In place of a frame's index: nothing is there. */
export const NO_FRAME = 255;

/** What binds a pixel to a side for good; sums of it stay exact. */
const BOUND = 1e7;
/** What is asked for by hand binds more than all neighbours together. */
const ASKED = 16;
/** A seam of this length costs as much as one level of difference: it goes straight where nothing differs. */
const LENGTH_COST = 6;
/** Detail costs so much of what a difference costs: where frames agree a seam shows least in what is plain. */
const DETAIL_COST = 0.15;

/** Pixels for which a frame was asked for by hand. */
export interface PulledMask {
  frame: number;
  mask: Mask;
}

/** Fewer px than this are decided at once; more of them first at half the size, then only around the seam found there. */
const AT_ONCE_PX = 40_000;
/** So many px of the halved picture around its seam are decided anew. */
const BAND_PX = 3;

/**
 * Decides for each px which frame it is taken from: frames are joined one after the other, each along the line where it
 * differs least from what is there already, so that seams run through what has no detail and around what moved.
 * V. Kwatra et al.: Graphcut Textures, SIGGRAPH 2003, with the difference alone as cost; from coarse to fine as in
 * H. Lombaert et al.: A Multilevel Banded Graph Cuts Method, ICCV 2005.
 *
 * @param layers each frame as it lies in the panorama, all of one size, in the order of joining: transparent outside;
 *   `frame` is the index that is written down
 * @param closed whether the left edge follows the right one
 * @returns one frame's index a px, or NO_FRAME
 */
export function assignFrames(
  layers: readonly { frame: number; image: RasterImage }[],
  closed: boolean,
  pulled: readonly PulledMask[] = [],
): Uint8Array {
  const { width, height } = layers[0]!.image;
  const labels = new Uint8Array(width * height).fill(NO_FRAME);
  const there = createImage(width, height);
  const whole = new Uint32Array(there.data.buffer);
  const wanted = new Uint8Array(labels.length).fill(NO_FRAME);
  for (const { frame, mask } of pulled) {
    for (let i = 0; i < wanted.length; i++) if (mask.data[i]! >= 128) wanted[i] = frame;
  }
  for (const { frame, image } of layers) {
    const asked = new Int8Array(labels.length);
    if (pulled.length > 0) {
      for (let i = 0; i < asked.length; i++) {
        if (wanted[i] === frame) asked[i] = NEW;
        else if (wanted[i] === labels[i] && labels[i] !== NO_FRAME) asked[i] = OLD;
      }
    }
    const sides = joinAlongSeam(there, image, asked, closed);
    const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, labels.length);
    for (let i = 0; i < labels.length; i++) {
      if (sides[i] !== NEW) continue;
      labels[i] = frame;
      whole[i] = pixels[i]!;
    }
  }
  return labels;
}

/** Who shows a px: nobody, what was there, the frame that joins, or both until it is decided. */
const NOBODY = 0;
const OLD = 1;
const NEW = 2;
const BOTH = 3;

/** Decides for each px which of two pictures shows it. `asked` holds OLD or NEW where that is wanted by hand. */
function joinAlongSeam(old: RasterImage, fresh: RasterImage, asked: Int8Array, closed: boolean): Uint8Array {
  const { width, height } = old;
  const sides = new Uint8Array(width * height);
  for (let i = 0; i < sides.length; i++) {
    sides[i] = (old.data[4 * i + 3] === 255 ? OLD : 0) | (fresh.data[4 * i + 3] === 255 ? NEW : 0);
  }
  if (sides.length > AT_ONCE_PX && sides.includes(BOTH)) {
    const [half, freshHalf] = [halveImage(old), halveImage(fresh)];
    const askedHalf = new Int8Array(half.width * half.height);
    for (let y = 0, i = 0; y < height; y++) {
      for (let x = 0; x < width; x++, i++) if (asked[i]) askedHalf[(y >> 1) * half.width + (x >> 1)] = asked[i]!;
    }
    decideByHalf(sides, width, joinAlongSeam(half, freshHalf, askedHalf, closed), half);
  }
  cutBetween(sides, old, fresh, asked, closed);
  return sides;
}

/** Decides what lies well away from the seam found at half the size. */
function decideByHalf(sides: Uint8Array, width: number, half: Uint8Array, size: Size): void {
  for (let i = 0; i < sides.length; i++) {
    if (sides[i] !== BOTH) continue;
    const x = (i % width) >> 1;
    const y = Math.floor(i / width) >> 1;
    const own = half[y * size.width + x]!;
    let isClear = own === OLD || own === NEW;
    for (let v = Math.max(0, y - BAND_PX); isClear && v <= Math.min(size.height - 1, y + BAND_PX); v++) {
      for (let u = Math.max(0, x - BAND_PX); u <= Math.min(size.width - 1, x + BAND_PX); u++) {
        const other = half[v * size.width + u]!;
        if (other !== own && other !== NOBODY) isClear = false;
      }
    }
    if (isClear) sides[i] = own;
  }
}

/** Decides all that both still show, in place. */
function cutBetween(sides: Uint8Array, old: RasterImage, fresh: RasterImage, asked: Int8Array, closed: boolean): void {
  const { nodes, neighbours, pulls } = undecided(sides, old.width, closed);
  if (nodes.length === 0) return;
  const capacities = new Float32Array(ARCS * nodes.length);
  const terminals = new Float32Array(nodes.length);
  const differences = floatsBy(
    nodes.length,
    (k) =>
      differenceAt(old.data, fresh.data, nodes[k]!, nodes[k]!) +
      DETAIL_COST * (detailAt(old, nodes[k]!) + detailAt(fresh, nodes[k]!)),
  );
  for (let node = 0; node < nodes.length; node++) {
    for (let k = ARCS * node; k < ARCS * (node + 1); k++) {
      const other = neighbours[k]!;
      if (other >= 0) capacities[k] = differences[node]! + differences[other]! + LENGTH_COST;
    }
    const by = asked[nodes[node]!];
    terminals[node] = BOUND * (by === OLD ? ASKED : by === NEW ? -ASKED : pulls[node]!);
  }
  const stays = minimumCut(neighbours, capacities, terminals);
  nodes.forEach((i, node) => void (sides[i] = stays[node] ? OLD : NEW));
}

/** Sum over the channels of how far px `i` of one picture is from px `k` of another. */
function differenceAt(a: Uint8ClampedArray, b: Uint8ClampedArray, i: number, k: number): number {
  const [p, q] = [4 * i, 4 * k];
  return Math.abs(a[p]! - b[q]!) + Math.abs(a[p + 1]! - b[q + 1]!) + Math.abs(a[p + 2]! - b[q + 2]!);
}

/** How much a px differs from those to its right and below, where they are there. */
function detailAt({ width, height, data }: RasterImage, i: number): number {
  const right = i % width < width - 1 ? i + 1 : i;
  const below = i + width < width * height ? i + width : i;
  const isThere = (k: number): boolean => data[4 * k + 3] === 255;
  return (
    (isThere(right) ? differenceAt(data, data, i, right) : 0) +
    (isThere(below) ? differenceAt(data, data, i, below) : 0)
  );
}

interface Undecided {
  nodes: Int32Array;
  neighbours: Int32Array;
  /** Neighbours of a px that show what was there, minus those that show the new frame. */
  pulls: Int8Array;
}

function undecided(sides: Uint8Array, width: number, closed: boolean): Undecided {
  const nodeOf = new Int32Array(sides.length).fill(-1);
  const found: number[] = [];
  for (let i = 0; i < sides.length; i++) if (sides[i] === BOTH) nodeOf[i] = found.push(i) - 1;
  const nodes = Int32Array.from(found);
  const neighbours = new Int32Array(ARCS * nodes.length).fill(-1);
  const pulls = new Int8Array(nodes.length);
  nodes.forEach((i, node) => {
    const x = i % width;
    const row = i - x;
    const around = [
      x + 1 < width ? i + 1 : closed ? row : -1,
      x > 0 ? i - 1 : closed ? row + width - 1 : -1,
      i + width < sides.length ? i + width : -1,
      i >= width ? i - width : -1,
    ];
    around.forEach((other, k) => {
      if (other < 0) return;
      neighbours[ARCS * node + k] = nodeOf[other]!;
      if (sides[other] === OLD) pulls[node]!++;
      else if (sides[other] === NEW) pulls[node]!--;
    });
  });
  return { nodes, neighbours, pulls };
}
