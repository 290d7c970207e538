import { ARCS, minimumCut } from '../numeric/minimumCut.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Mask } from '../mask/mask.ts';

/** In place of a frame's index: nothing is there. */
export const NO_FRAME = 255;

/** What binds a pixel to a side for good; sums of it stay exact. */
const BOUND = 1e7;
/** A seam of this length costs as much as one level of difference: it goes straight where nothing differs. */
const LENGTH_COST = 6;

/** Pixels for which a frame was asked for by hand. */
export interface PulledMask {
  frame: number;
  mask: Mask;
}

/**
 * Decides for each px which frame it is taken from: frames are joined one after the other, each along the line where it
 * differs least from what is there already, so that seams run through what has no detail and around what moved.
 * V. Kwatra et al.: Graphcut Textures, SIGGRAPH 2003, with the difference alone as cost.
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
  const picture = new Uint8ClampedArray(4 * labels.length);
  const wanted = new Uint8Array(labels.length).fill(NO_FRAME);
  for (const { frame, mask } of pulled) {
    for (let i = 0; i < wanted.length; i++) if (mask.data[i]! >= 128) wanted[i] = frame;
  }
  const whole = new Uint32Array(picture.buffer);
  for (const { frame, image } of layers) {
    const grid = overlapGrid(labels, image, closed);
    const { nodes, neighbours } = grid;
    const capacities = new Float32Array(ARCS * nodes.length);
    const terminals = new Float32Array(nodes.length);
    const differences = Float32Array.from(nodes, (i) => differenceAt(picture, image.data, 4 * i));
    for (let node = 0; node < nodes.length; node++) {
      for (let k = 0; k < ARCS; k++) {
        const other = neighbours[ARCS * node + k]!;
        if (other >= 0) capacities[ARCS * node + k] = differences[node]! + differences[other]! + LENGTH_COST;
      }
      terminals[node] = BOUND * grid.pulls[node]!;
      const asked = wanted[nodes[node]!]!;
      if (asked === frame) terminals[node] = -16 * BOUND;
      else if (asked === labels[nodes[node]!]) terminals[node] = 16 * BOUND;
    }
    const stays = minimumCut(neighbours, capacities, terminals);
    const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, labels.length);
    const isTaken = new Uint8Array(labels.length);
    nodes.forEach((i, node) => void (isTaken[i] = 1 - stays[node]!));
    for (let i = 0; i < labels.length; i++) {
      if (!isTaken[i] && !(labels[i] === NO_FRAME && image.data[4 * i + 3] === 255)) continue;
      labels[i] = frame;
      whole[i] = pixels[i]!;
    }
  }
  return labels;
}

const differenceAt = (a: Uint8ClampedArray, b: Uint8ClampedArray, i: number): number =>
  Math.abs(a[i]! - b[i]!) + Math.abs(a[i + 1]! - b[i + 1]!) + Math.abs(a[i + 2]! - b[i + 2]!);

interface OverlapGrid {
  /** The px that both show. */
  nodes: Int32Array;
  neighbours: Int32Array;
  /** Sides next to a px that only what was there shows, minus those that only the new frame shows. */
  pulls: Int8Array;
}

function overlapGrid(labels: Uint8Array, { data, width }: RasterImage, closed: boolean): OverlapGrid {
  const nodeOf = new Int32Array(labels.length).fill(-1);
  const found: number[] = [];
  for (let i = 0; i < labels.length; i++) {
    if (labels[i] !== NO_FRAME && data[4 * i + 3] === 255) nodeOf[i] = found.push(i) - 1;
  }
  const nodes = Int32Array.from(found);
  const neighbours = new Int32Array(ARCS * nodes.length).fill(-1);
  const pulls = new Int8Array(nodes.length);
  nodes.forEach((i, node) => {
    const x = i % width;
    const row = i - x;
    const around = [
      x + 1 < width ? i + 1 : closed ? row : -1,
      x > 0 ? i - 1 : closed ? row + width - 1 : -1,
      i + width < labels.length ? i + width : -1,
      i >= width ? i - width : -1,
    ];
    around.forEach((other, k) => {
      if (other < 0) return;
      neighbours[ARCS * node + k] = nodeOf[other]!;
      if (nodeOf[other]! >= 0) return;
      const [isOld, isNew] = [labels[other] !== NO_FRAME, data[4 * other + 3] === 255];
      pulls[node]! += Number(isOld) - Number(isNew);
    });
  });
  return { nodes, neighbours, pulls };
}
