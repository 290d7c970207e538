import type { Hole, Usable } from '../mask/byteMasks.ts';
import { ARCS, minimumCut } from '../numeric/minimumCut.ts';

/** How dear it is, against what shows along seams, to show something else coarsely. */
const COARSE_WEIGHT = 2;
/** Up to so many levels what is shown in detail is free; beyond it is a thing that does not belong. */
const FREE_DETAIL = 50;
/** What is free in detail beside that, against the slack of what is coarsely to be seen. */
const DETAIL_SLACK = 2;
/** The rim of the hole against a seam inside it, and the known cell one farther out. */
const RIM_WEIGHT = 6;
const BEYOND_RIM_WEIGHT = 3;
/** What a side of a seam counts that would lie outside the picture. */
const OUTSIDE_COST = 60;
/** A cell takes no shift that costs it by itself so much more than its own; what lies behind it is not reached then. */
const MAX_MORE = 40;

/** No cell, or no shift. */
export const NONE = -1;
/** A cell's neighbours in the order of the cut's arcs. */
const ACROSS = [1, -1, 0, 0] as const;
const DOWN = [0, 0, 1, -1] as const;

/** Bytes that a kernel's cut takes for each cell of the hole, and beyond them. */
export const CUT_ROOM = { perCell: 64, more: 64 };

/** Which shift each cell of a level's hole is copied with, and what that costs. */
export interface ShiftLabelling {
  /** Size of the level. */
  width: number;
  height: number;
  /** Of each cell of the level: four features, whether it is to be rebuilt (1), and whether it may be copied from (1). */
  features: Uint8Array;
  hole: Hole;
  usable: Usable;
  /** The features coarsely, four a cell. */
  coarse: Float32Array;
  /** How far what a piece brings to each cell of the hole may be off coarsely for nothing, in levels over all features. */
  slack: Float32Array;
  /** Its column. */
  column: Int32Array;
  /** The cells of the hole, in raster order; "cell k" below is the k-th of these. */
  cells: Int32Array;
  /** The neighbours of each in the order of the arcs, as places in `cells`; `NONE` if not of the hole. */
  besides: Int32Array;
  /** 1 for those that lie beside known ones. */
  isAtRim: Uint8Array;
  /** Where each shift leads, in cells, and what it adds to a cell's index. */
  dx: Int32Array;
  dy: Int32Array;
  step: Int32Array;
  /** What a row between a cell and its source costs, and however many rows at most. */
  heightCost: number;
  mostForHeight: number;
  /** What a seam costs per cell however well both sides agree, in whole levels. */
  lengthCost: number;
  /** The shift each cell of the hole has, and what that costs it by itself. */
  label: Int32Array;
  own: Float32Array;
  /** Room: what a cell would cost by itself with another shift, how far what that brings is from what it shows, its node. */
  tried: Float32Array;
  change: Int32Array;
  /** `NONE` between cuts. */
  node: Int32Array;
  /** Room for the cut itself, of `CUT_ROOM`. */
  room: Uint8Array;
}

/** Lets cells around those that are copied with `shift` be copied so, too, where all in all that costs less. */
export function expandShift(labelling: ShiftLabelling, shift: number): void {
  const { label, own, tried, node } = labelling;
  const nodes = cellsAround(labelling, shift);
  if (nodes.length === 0) return;
  const neighbours = new Int32Array(ARCS * nodes.length).fill(NONE);
  const capacities = new Float32Array(ARCS * nodes.length);
  const terminals = new Float32Array(nodes.length);
  for (let at = 0; at < nodes.length; at++) {
    bindNode(labelling, at, nodes[at]!, shift, { neighbours, capacities, terminals });
  }
  const keeps = minimumCut(neighbours, capacities, terminals);
  for (let at = 0; at < nodes.length; at++) {
    const k = nodes[at]!;
    node[k] = NONE;
    if (keeps[at]) continue;
    label[k] = shift;
    own[k] = tried[k]!;
  }
}

/** The cells that may take a shift over; notes their nodes and what it would cost each by itself. */
function cellsAround(labelling: ShiftLabelling, shift: number): number[] {
  const { label, besides, node, own, tried, change, cells, slack } = labelling;
  const reached: number[] = [];
  for (let k = 0; k < label.length; k++) if (label[k] === shift) reached.push(k);
  if (reached.length === 0) return [];
  const isReached = new Uint8Array(label.length);
  for (const k of reached) isReached[k] = 1;
  const nodes: number[] = [];
  // The list grows while it is walked.
  for (const from of reached) {
    for (let arc = 0; arc < ARCS; arc++) {
      const k = besides[ARCS * from + arc]!;
      if (k === NONE || isReached[k]) continue;
      isReached[k] = 1;
      const cost = costAlone(labelling, k, shift, slack[k]!);
      if (!(cost < own[k]! + MAX_MORE)) continue;
      reached.push(k);
      tried[k] = cost;
      change[k] = apart(labelling, cells[k]!, label[k]!, shift);
      node[k] = nodes.push(k) - 1;
    }
  }
  return nodes;
}

/** A cut's arcs and terminals; see `minimumCut`. */
interface CutGraph {
  neighbours: Int32Array;
  capacities: Float32Array;
  terminals: Float32Array;
}

/** Adds what cell `k`, a node of the cut, costs if it keeps its shift (the source's side) or takes the other. */
function bindNode(labelling: ShiftLabelling, at: number, k: number, shift: number, graph: CutGraph): void {
  const { besides, label, node, change, cells, lengthCost } = labelling;
  const { neighbours, capacities, terminals } = graph;
  const cell = cells[k]!;
  const own = label[k]!;
  terminals[at]! += labelling.tried[k]! - labelling.own[k]!;
  for (let arc = 0; arc < ARCS; arc++) {
    const other = besides[ARCS * k + arc]!;
    if (other === NONE) continue;
    const beside = cells[other]!;
    const theirs = label[other]!;
    const there = node[other]!;
    if (there !== NONE && arc % 2 !== 0) continue;
    // Where both are nodes and show the same so far, what changes is known of each.
    const alike = own === theirs;
    const theirChange = alike && there !== NONE ? change[other]! : apart(labelling, beside, own, shift);
    const changed = change[k]! + theirChange + lengthCost;
    if (there === NONE) {
      if (theirs === shift) terminals[at]! -= changed;
      else if (alike) terminals[at]! += changed;
      else terminals[at]! += seam(labelling, cell, beside, shift, theirs) - seam(labelling, cell, beside, own, theirs);
    } else {
      const kept = seam(labelling, cell, beside, own, theirs);
      const taken = alike ? changed : apart(labelling, cell, shift, theirs) + change[other]! + lengthCost;
      terminals[at]! += taken - kept;
      terminals[there]! -= taken;
      neighbours[ARCS * at + arc] = there;
      neighbours[ARCS * there + (arc ^ 1)] = at;
      capacities[ARCS * at + arc] = Math.max(0, changed + taken - kept);
    }
  }
}

/** The cell beside one, in the direction of an arc, or `NONE` past the picture's edge. */
export function cellBeside(
  { width, column }: Pick<ShiftLabelling, 'width' | 'column'>,
  cell: number,
  arc: number,
): number {
  const x = column[cell]! + ACROSS[arc]!;
  const other = cell + DOWN[arc]! * width + ACROSS[arc]!;
  return x < 0 || x >= width || other < 0 || other >= column.length ? NONE : other;
}

/**
 * What it costs cell `k` to show what a shift brings, whatever the hole's other cells show; infinite where it may not.
 * So much `slack` is free: none for the source that a cell starts with, which took its colour from the match's mixtures.
 */
export function costAlone(labelling: ShiftLabelling, k: number, shift: number, slack: number): number {
  const { usable, hole, cells, coarse } = labelling;
  const cell = cells[k]!;
  const source = sourceOf(labelling, cell, shift);
  if (source === NONE || usable[source] === 0) return Infinity;
  let cost = 0;
  for (let c = 0; c < 4; c++) cost += Math.abs(coarse[4 * cell + c]! - coarse[4 * source + c]!);
  cost = COARSE_WEIGHT * Math.max(0, cost - slack);
  cost += Math.max(0, apart(labelling, cell, shift, NONE) - FREE_DETAIL - DETAIL_SLACK * slack);
  cost += Math.min(labelling.mostForHeight, labelling.heightCost * Math.abs(labelling.dy[shift]!));
  if (labelling.isAtRim[k] === 0) return cost;
  for (let arc = 0; arc < ARCS; arc++) {
    const rim = cellBeside(labelling, cell, arc);
    if (rim === NONE || hole[rim]) continue;
    cost += RIM_WEIGHT * apart(labelling, rim, shift, NONE);
    const beyond = cellBeside(labelling, rim, arc);
    if (beyond !== NONE && !hole[beyond]) cost += BEYOND_RIM_WEIGHT * apart(labelling, beyond, shift, NONE);
  }
  return cost;
}

/** The cell that a shift leads to, or `NONE` outside the picture. */
export function sourceOf({ width, column, dx, step }: ShiftLabelling, cell: number, shift: number): number {
  const x = column[cell]! + dx[shift]!;
  const source = cell + step[shift]!;
  return x < 0 || x >= width || source < 0 || source >= column.length ? NONE : source;
}

/** What a seam between two cells costs, copied with one shift each. */
function seam(labelling: ShiftLabelling, cell: number, beside: number, a: number, b: number): number {
  return a === b ? 0 : apart(labelling, cell, a, b) + apart(labelling, beside, a, b) + labelling.lengthCost;
}

/** How far the colours are apart that two shifts bring to a cell; `NONE` is the cell's own colour. */
export function apart(labelling: ShiftLabelling, cell: number, a: number, b: number): number {
  const from = sourceOf(labelling, cell, a);
  const other = b === NONE ? cell : sourceOf(labelling, cell, b);
  return from === NONE || other === NONE ? OUTSIDE_COST : coloursApart(labelling, from, other);
}

/** How far the colours of two cells of the level are apart, in levels over three channels. */
export function coloursApart({ features }: Pick<ShiftLabelling, 'features'>, from: number, other: number): number {
  const i = 4 * from;
  const j = 4 * other;
  return (
    Math.abs(features[i]! - features[j]!) +
    Math.abs(features[i + 1]! - features[j + 1]!) +
    Math.abs(features[i + 2]! - features[j + 2]!)
  );
}
