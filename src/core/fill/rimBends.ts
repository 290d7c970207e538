import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { bandCount } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import { cheapestLabels } from '../numeric/cheapestLabels.ts';
import { isKnown } from './partRim.ts';
import { outlineWork, type OutlineWork, type RimPath } from './rimPath.ts';
import type { ShiftedSources } from './sources.ts';

/** How a rim is bent. The notes beside the bench on filling tell which numbers matter and what others gave. */
export const BEND_OPTIONS = {
  /** A rim is compared at about so many points for each side of its box, which bounds the time. */
  pointsASide: 500,
  /** What is moved along the rim is moved by so much of its box's mean side at most. */
  farthest: 0.08,
  /** So many of its points' distances out of the part both sides are compared over. */
  outward: 3,
  /** Differences that are larger, in levels, are no larger. */
  maxLevels: 60,
  /** What a point costs, in levels, that can't be compared, and what it costs to show one that lies round a corner. */
  notCompared: 40,
  roundACorner: 200,
  /** What it costs, in levels, that a bend changes by a step, and what each of its steps costs by itself. */
  change: 3,
  step: 0.03,
  /** A run of bends is taken if it costs this share of what none costs, or less, and so many levels less in all. */
  worthwhile: 0.95,
  minGain: 50,
  /** At this share of what any movement costs, or less, it lets a line go on; else it is texture that happens to fit. */
  ofALine: 0.6,
  /** A movement ends round a corner if it ends so far from where the path's direction leads, in its own lengths. */
  aside: 0.35,
};
type BendOptions = typeof BEND_OPTIONS;

/** Points of a node: along the rim a bend changes by at most one of its steps from node to node. */
const NODE = 3;
/** Nodes that one thread looks at in one go. */
const BAND_NODES = 64;
/** What goes along the rim is compared by its differences over twice so many points, and by its colours. */
const SLOPE = 2;

/** At a point of the rim, how far away lies what should be shown there. In px of the region. */
export interface RimBend {
  x: number;
  y: number;
  dx: number;
  dy: number;
  /** Whether lines meet there, rather than texture that happens to fit. */
  isLine: boolean;
}

/** Of each point three colours (levels) and three of their differences over `SLOPE` points to either side. */
const VALUES = 6;

/** What lies along a rim, just outside it. */
interface AlongRim {
  /** What is known there, `VALUES` a point. */
  known: Float32Array;
  /** What is copied beside it, as it goes on from the place it is copied from. */
  copied: Float32Array;
  /** 1 where both are known. */
  isTold: Uint8Array;
}

/** How far apart the points of a rim lie, in px, and by how many of them it is moved at most. */
function scaleOf({ width, height }: Rect, { pointsASide, farthest }: BendOptions): { step: number; farthest: number } {
  const step = Math.max(1, Math.round((width + height) / (2 * pointsASide)));
  return { step, farthest: Math.round((farthest * Math.sqrt(width * height)) / step) };
}

/** What is needed to follow the outlines along which a part (`width` pixels a row) may be bent; none where it may not. */
export function rimOutlines(
  part: PartMask,
  width: number,
  box: Rect,
  kernels: Pick<Kernels, 'scratch'>,
  options = BEND_OPTIONS,
): OutlineWork | undefined {
  const { step, farthest } = scaleOf(box, options);
  return farthest === 0 ? undefined : outlineWork(part, width, box, step, NODE, kernels);
}

/**
 * How what was copied into a part must be moved along its rim so that lines which run across it go on. What is known
 * just outside is compared with what the pieces go on with there, point by point along the rim; the movement that makes
 * both most alike changes slowly from point to point. Its points lie `step` px apart.
 * J. Jia, C.-K. Tang: Image Stitching Using Structure Deformation, PAMI, 2008.
 *
 * @param unknown region size; non-zero where pixels are not known
 * @param part region size; non-zero where what `sources` tell was copied
 * @param outlines the part's, followed as `rimOutlines` says
 */
export function rimBends(
  image: RasterImage,
  unknown: Hole,
  part: PartMask,
  box: Rect,
  sources: ShiftedSources,
  outlines: readonly RimPath[],
  kernels: Pick<Kernels, 'scratch' | 'inBands'>,
  options = BEND_OPTIONS,
): { bends: RimBend[]; step: number } {
  const { scratch, inBands } = kernels;
  const { step, farthest } = scaleOf(box, options);
  const bends: RimBend[] = [];
  for (const path of outlines) {
    const giveBack = scratch.hold();
    const { count } = path;
    const [x, y] = [scratch.doubles(count), scratch.doubles(count)];
    x.set(path.x);
    y.set(path.y);
    const along = readAlong(path, image, unknown, part, step, sources, options, kernels);
    const most = Math.min(farthest, count >> 2);
    const nodes = count / NODE;
    const work = { ...along, x, y, step, options, farthest: most, costs: scratch.floats(nodes * (2 * most + 1)) };
    inBands(BEND_COSTS, work, bandCount(nodes, BAND_NODES));
    addBends(path, work, bends);
    giveBack();
  }
  return { bends, step };
}

function readAlong(
  { count, x, y, outX, outY }: RimPath,
  image: RasterImage,
  unknown: Hole,
  part: PartMask,
  step: number,
  sources: ShiftedSources,
  { outward }: BendOptions,
  { scratch }: Pick<Kernels, 'scratch'>,
): AlongRim {
  const { width, height, data } = image;
  const known = scratch.floats(VALUES * count);
  const copied = scratch.floats(VALUES * count);
  const isTold = scratch.bytes(count);
  const colour = new Float32Array(3);
  const reach = outward * step;
  for (let i = 0; i < count; i++) {
    const inside = Math.floor(y[i]! - 1.2 * step * outY[i]!) * width + Math.floor(x[i]! - 1.2 * step * outX[i]!);
    if (!part[inside]) continue;
    const group = sources.groupAt(inside % width, Math.floor(inside / width));
    let ofKnown = 0;
    let ofCopied = 0;
    for (let t = 1; t <= reach; t++) {
      const u = Math.floor(x[i]! + (t + 0.3) * outX[i]!);
      const v = Math.floor(y[i]! + (t + 0.3) * outY[i]!);
      if (!isKnown(unknown, width, height, u, v)) continue;
      ofKnown++;
      for (let c = 0; c < 3; c++) known[VALUES * i + c]! += data[4 * (v * width + u) + c]!;
      if (!sources.sample(group, u, v, colour)) continue;
      ofCopied++;
      for (let c = 0; c < 3; c++) copied[VALUES * i + c]! += colour[c]!;
    }
    if (2 * ofCopied < reach) continue;
    isTold[i] = 1;
    for (let c = 0; c < 3; c++) {
      known[VALUES * i + c]! /= ofKnown;
      copied[VALUES * i + c]! /= ofCopied;
    }
  }
  addSlopes(known);
  addSlopes(copied);
  return { known, copied, isTold };
}

/** Fills in the differences of colours along a path. */
function addSlopes(values: Float32Array): void {
  const length = values.length;
  for (let i = 0; i < length; i += VALUES) {
    const ahead = (i + VALUES * SLOPE) % length;
    const behind = (i - VALUES * SLOPE + length) % length;
    for (let c = 0; c < 3; c++) values[i + 3 + c] = values[ahead + c]! - values[behind + c]!;
  }
}

/** Movements along a path, and what they cost. */
interface BendCosts extends AlongRim {
  x: Float64Array;
  y: Float64Array;
  step: number;
  options: BendOptions;
  /** Points are moved by up to so many. */
  farthest: number;
  /** For each node those of all movements, from `farthest` against the path's direction to as many along it. */
  costs: Float32Array;
}

/** What moving the nodes of a band costs. */
function costBand({ x, y, known, copied, isTold, step, options, farthest, costs }: BendCosts, band: number): void {
  const { maxLevels, notCompared, roundACorner, aside, step: ofStep } = options;
  const count = isTold.length;
  const labels = 2 * farthest + 1;
  const end = Math.min(count, NODE * BAND_NODES * (band + 1));
  for (let i = NODE * BAND_NODES * band; i < end; i++) {
    const node = Math.floor(i / NODE) * labels;
    const ahead = (i + NODE) % count;
    const behind = (i - NODE + count) % count;
    const alongX = (x[ahead]! - x[behind]!) / (2 * NODE);
    const alongY = (y[ahead]! - y[behind]!) / (2 * NODE);
    for (let label = 0; label < labels; label++) {
      const move = label - farthest;
      const j = (i + move + count) % count;
      const size = Math.abs(move);
      let cost = notCompared;
      if (size > 0 && !isTold[i]) cost = roundACorner;
      else if (isTold[i] && isTold[j]) {
        const bentX = x[j]! - x[i]! - move * alongX;
        const bentY = y[j]! - y[i]! - move * alongY;
        const most = aside * size * step + 1;
        if (bentX * bentX + bentY * bentY > most * most) cost = roundACorner;
        else {
          cost = 0;
          for (let c = 0; c < VALUES; c++) {
            cost += Math.min(maxLevels, Math.abs(known[VALUES * i + c]! - copied[VALUES * j + c]!));
          }
          cost /= 3;
        }
      }
      costs[node + label]! += cost + ofStep * size;
    }
  }
}

export const BEND_COSTS: BandWork<BendCosts> = { name: 'bendCosts', band: costBand };

/** Adds the bends at the points of a path. */
function addBends(path: RimPath, { costs, farthest, options }: BendCosts, out: RimBend[]): void {
  const labels = 2 * farthest + 1;
  const nodes = costs.length / labels;
  const start = bestFit(costs, labels, farthest);
  const found = cheapestLabels(costs, labels, options.change, start, farthest);
  // The start does not move.
  for (let k = 1, from = 1, without = 0, usual = 0, cost = 0; k <= nodes; k++) {
    const node = (start + k) % nodes;
    const own = costs.subarray(node * labels, (node + 1) * labels);
    if (found[node] !== farthest) {
      without += own[farthest]!;
      usual += meanOf(own);
      cost += own[found[node]!]!;
      continue;
    }
    if (cost <= options.worthwhile * without && without - cost >= options.minGain) {
      for (let j = from; j < k; j++) {
        const moved = (start + j) % nodes;
        addNode(path, moved, found[moved]! - farthest, cost <= options.ofALine * usual, out);
      }
    }
    [from, without, usual, cost] = [k + 1, 0, 0, 0];
  }
}

/** Adds the points of a node, moved by as many along the path. */
function addNode({ count, x, y }: RimPath, node: number, move: number, isLine: boolean, out: RimBend[]): void {
  for (let i = NODE * node; i < NODE * (node + 1); i++) {
    const j = (i + move + count) % count;
    out.push({ x: x[i]!, y: y[i]!, dx: x[j]! - x[i]!, dy: y[j]! - y[i]!, isLine });
  }
}

const meanOf = (values: Float32Array): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/** The node around which what is copied fits best as it is. */
function bestFit(costs: Float32Array, labels: number, unmoved: number): number {
  const nodes = costs.length / labels;
  const around = 4;
  let best = 0;
  let least = Infinity;
  for (let node = 0; node < nodes; node++) {
    let sum = 0;
    for (let k = -around; k <= around; k++) sum += costs[((node + k + nodes) % nodes) * labels + unmoved]!;
    if (sum < least) [least, best] = [sum, node];
  }
  return best;
}
