import { interpolated, interpolation } from '../image/interpolate.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { ARCS, minimumCut } from '../numeric/minimumCut.ts';
import { bytesBy, floatsBy } from '../numeric/filled.ts';

/** Of larger slack the cut runs between larger squares, so that about as many are decided. */
const MAX_SQUARES = 40_000;
/** What the cut costs per step however well both grounds agree, in levels: of equal ways the shorter is taken. */
const LENGTH_COST = 1;
/** What it costs per step, in levels, to trust the subject's outline instead: at even closeness, and where takes are compared. */
const TRUST_COST = 10;
/** Binds a square that comes along in any case. */
const BOUND = 1e6;
/** From this share on a square is surely subject; what is less may have been missed, and is slack to the cut. */
const SURE = 0.95;
const NO_NODE = -1;

/** What lies over the new place, all planes of its size. */
export interface SlackScene {
  width: number;
  height: number;
  /** Shares 0..1: the subject, and all that was marked. */
  matte: Float32Array;
  mark: Float32Array;
  /** How far the ground brought along is from the ground there, in levels. */
  difference: Float32Array;
}

export interface SlackCut {
  /** How much of what was marked comes along, 0..1, before the matte. */
  brought: Float32Array;
  /** What the cut costs, in levels for each step of the subject's outline: low where it is hardly seen. */
  cost: number;
}

/**
 * How much of the old ground comes along with a subject: cut between the subject's outline and the mark's, where old and
 * new ground differ least, by a minimum cut on squares (V. Kwatra et al.: Graphcut Textures, SIGGRAPH, 2003; J. Jia et
 * al.: Drag-and-Drop Pasting, SIGGRAPH, 2006). Along the subject's outline the cut costs what little trust there is in
 * it: nothing at closeness 0, where only the subject comes, and the more the closer. Closer than even, so much of the way
 * to the mark's outline comes along in any case, all of it at 1. What comes along at one closeness does at all higher ones.
 */
export function cutSlack(scene: SlackScene, closeness: number): SlackCut {
  const squares = squaresOf(scene);
  const { columns, rows, isSlack, isSubject, cost } = squares;
  const nodeOf = new Int32Array(columns * rows).fill(NO_NODE);
  const nodes: number[] = [];
  isSlack.forEach((slack, i) => {
    if (slack) nodeOf[i] = nodes.push(i) - 1;
  });
  const trust = (TRUST_COST * closeness) / Math.max(1e-3, 1 - closeness);
  const inAnyCase = 2 * closeness - 1;
  const wayOut = inAnyCase > 0 ? waysOut(squares) : undefined;
  const neighbours = new Int32Array(nodes.length * ARCS).fill(NO_NODE);
  const capacities = new Float32Array(nodes.length * ARCS);
  const terminals = floatsBy(nodes.length, (k) => (wayOut && wayOut[nodes[k]!]! <= inAnyCase ? BOUND : 0));
  nodes.forEach((i, node) => {
    neighboursOf(squares, i).forEach((j, arc) => {
      if (j === undefined) return;
      const between = LENGTH_COST + (cost[i]! + cost[j]!) / 2;
      if (nodeOf[j] !== NO_NODE) {
        neighbours[ARCS * node + arc] = nodeOf[j]!;
        capacities[ARCS * node + arc] = between;
      } else terminals[node]! += isSubject[j] ? trust : -LENGTH_COST - cost[i]!;
    });
  });
  const sides = minimumCut(neighbours, capacities, terminals);
  const along = new Float32Array(isSubject);
  nodes.forEach((i, node) => (along[i] = sides[node]!));
  return { brought: softened(squares, along, scene), cost: cutCost(squares, along) };
}

/** What a cut around the squares that come along costs for each step of the subject's outline. */
function cutCost(squares: Squares, along: Float32Array): number {
  const { isSubject, cost } = squares;
  let [outline, sum] = [0, 0];
  along.forEach((isAlong, i) => {
    for (const j of isAlong ? neighboursOf(squares, i) : []) {
      if (j === undefined) continue;
      if (isSubject[i] && !isSubject[j]) outline++;
      if (!along[j]) sum += LENGTH_COST + (isSubject[i] ? TRUST_COST : cost[i]!);
    }
  });
  return sum / Math.max(1, outline);
}

/** The squares right, left, below and above, in the order of arcs; undefined beyond the edge. */
function neighboursOf({ columns, rows }: Squares, i: number): (number | undefined)[] {
  const x = i % columns;
  return [
    x + 1 < columns ? i + 1 : undefined,
    x > 0 ? i - 1 : undefined,
    i + columns < columns * rows ? i + columns : undefined,
    i >= columns ? i - columns : undefined,
  ];
}

interface Squares {
  columns: number;
  rows: number;
  /** In px. */
  side: number;
  isSubject: Uint8Array;
  isSlack: Uint8Array;
  /** Mean difference in the square. */
  cost: Float32Array;
}

function squaresOf({ width, height, matte, mark, difference }: SlackScene): Squares {
  let slack = 0;
  for (let i = 0; i < mark.length; i++) if (mark[i]! > 0.5 && matte[i]! < SURE) slack++;
  const side = Math.max(1, Math.ceil(Math.sqrt(slack / MAX_SQUARES)));
  const columns = Math.ceil(width / side);
  const rows = Math.ceil(height / side);
  const n = columns * rows;
  const sums = { matte: new Float32Array(n), mark: new Float32Array(n), cost: new Float32Array(n) };
  const pixels = new Float32Array(n);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / side) * columns;
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const k = row + Math.floor(x / side);
      sums.matte[k]! += matte[i]!;
      sums.mark[k]! += mark[i]!;
      sums.cost[k]! += difference[i]!;
      pixels[k]! += 1;
    }
  }
  const isSubject = bytesBy(pixels.length, (k) => (sums.matte[k]! >= SURE * pixels[k]! ? 1 : 0));
  return {
    columns,
    rows,
    side,
    isSubject,
    isSlack: bytesBy(pixels.length, (k) => (!isSubject[k] && sums.mark[k]! > 0.5 * pixels[k]! ? 1 : 0)),
    cost: sums.cost.map((sum, k) => sum / pixels[k]!),
  };
}

/** How far each square is on the way from the subject to the mark's outline, 0..1. */
function waysOut({ columns: width, rows: height, isSubject, isSlack }: Squares): Float32Array {
  const subject = { width, height, data: isSubject.map((is) => 255 * is) };
  const mark = { width, height, data: isSubject.map((is, i) => 255 * (is | isSlack[i]!)) };
  const toOutside = squaredDistanceTo(mark, false);
  const toSubject = squaredDistanceTo(subject, true);
  return floatsBy(toSubject.length, (i) => {
    const inner = Math.sqrt(toSubject[i]!);
    return inner / Math.max(1e-6, inner + Math.sqrt(toOutside[i]!));
  });
}

/** Squares as a plane of pixels, with a soft edge as wide as a square. */
function softened({ columns, rows, side }: Squares, along: Float32Array, { width, height }: SlackScene): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = interpolation((y + 0.5) / side - 0.5, rows);
    for (let x = 0; x < width; x++) {
      out[y * width + x] = interpolated(along, columns, interpolation((x + 0.5) / side - 0.5, columns), row);
    }
  }
  return out;
}
