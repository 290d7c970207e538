import type { Kernels } from '../kernels/kernels.ts';
import { ARCS, minimumCut } from '../numeric/minimumCut.ts';
import type { Correspondence } from './correspondence.ts';
import type { Level } from './level.ts';
import { cheapestSources, type CellShifts } from './offsetField.ts';

/** So many of the shifts found are tried, those of most cells first; in large holes fewer, so many cells each in all. */
const MOST_SHIFTS = 100;
const MOST_CELLS_TRIED = 2_500_000;
/** What is coarsely to be seen at a place is a Gaussian of about so many cells. */
const COARSE_RADIUS = 2;
/** How dear it is, against what shows along seams, to show something else coarsely. */
const COARSE_WEIGHT = 2;
/** Up to so many levels what is shown in detail is free; beyond it is a thing that does not belong. */
const FREE_DETAIL = 50;
/** What a row between a cell and its source costs, against what it did in the match. */
const HEIGHT_SHARE = 1 / 800;
/** What a seam costs per cell however well both sides agree, in levels. */
const LENGTH_COST = 2;
/** The rim of the hole against a seam inside it, and the known cell one farther out. */
const RIM_WEIGHT = 6;
const BEYOND_RIM_WEIGHT = 3;
/** What a side of a seam counts that would lie outside the picture. */
const OUTSIDE_COST = 60;
/** A cell takes no shift that costs it by itself so much more than its own; what lies behind it is not reached then. */
const MOST_MORE = 40;

const NONE = -1;
/** A cell's neighbours in the order of the cut's arcs. */
const ACROSS = [1, -1, 0, 0] as const;
const DOWN = [0, 0, 1, -1] as const;

/**
 * One source per cell of the hole, so that neighbours are copied together wherever that shows little: from the cheapest
 * source of each cell on, the shifts found most often are taken over by cells around theirs if what then differs along
 * seams, and from what the match makes of the place coarsely, becomes less in sum. Fields of patches alone repeat small
 * pieces side by side, and prefer what is calm. Y. Pritch et al.: Shift-Map Image Editing, ICCV, 2009; K. He, J. Sun:
 * Statistics of Patch Offsets for Image Completion, ECCV, 2012; alpha expansion by Y. Boykov et al.: Fast Approximate
 * Energy Minimization via Graph Cuts, PAMI, 2001. Shifts are in pixels of a photo of which `factor` make a cell.
 */
export function coherentSources(level: Level, field: Correspondence, factor: number, kernels: Kernels): CellShifts {
  const labelling = new Labelling(level, cheapestSources(level, field), coarsely(level, kernels));
  const most = Math.min(MOST_SHIFTS, Math.ceil(MOST_CELLS_TRIED / level.holePixels.length), labelling.shifts);
  for (let shift = 0; shift < most; shift++) labelling.expand(shift);
  return labelling.sources(factor);
}

/** The level's features, four a cell, over a Gaussian of some cells. */
function coarsely({ width, height, features }: Level, kernels: Kernels): Float32Array {
  const n = width * height;
  const out = new Float32Array(4 * n);
  const plane = new Float32Array(n);
  for (let c = 0; c < 4; c++) {
    for (let i = 0; i < n; i++) plane[i] = features[4 * i + c]!;
    const smooth = kernels.blur(plane, width, height, COARSE_RADIUS, 2);
    for (let i = 0; i < n; i++) out[4 * i + c] = smooth[i]!;
  }
  return out;
}

/** Which shift each cell of a hole is copied with. A class, so that its code stays compiled from one take to the next. */
class Labelling {
  /** How many different shifts there are; they are numbered by falling number of cells. */
  readonly shifts: number;
  private readonly level: Level;
  private readonly coarse: Float32Array;
  /** Of each cell of the hole, in raster order, its neighbours in the order of the arcs; `NONE` if not of the hole. */
  private readonly besides: Int32Array;
  /** 1 for cells of the hole that lie beside known ones. */
  private readonly isAtRim: Uint8Array;
  private readonly dx: Int32Array;
  private readonly dy: Int32Array;
  /** What each shift adds to a cell's index, and the column of each cell of the level. */
  private readonly step: Int32Array;
  private readonly column: Int32Array;
  private readonly label: Int32Array;
  /** What each cell costs by itself as it is. */
  private readonly own: Float32Array;
  /** What it would cost with the shift that is tried, and how far what that brings is from what it shows now. */
  private readonly tried: Float32Array;
  private readonly change: Int32Array;
  /** Its node in the cut. */
  private readonly node: Int32Array;

  constructor(level: Level, start: CellShifts, coarse: Float32Array) {
    const { width, height, holePixels } = level;
    const count = holePixels.length;
    this.level = level;
    this.coarse = coarse;
    const place = new Int32Array(width * height).fill(NONE);
    this.label = new Int32Array(count);
    this.own = new Float32Array(count);
    this.tried = new Float32Array(count);
    this.change = new Int32Array(count);
    this.node = new Int32Array(count).fill(NONE);
    const uses = new Map<number, number>();
    const span = 2 * width;
    for (let k = 0; k < count; k++) {
      const cell = holePixels[k]!;
      place[cell] = k;
      const key = start.dy[cell]! * span + start.dx[cell]!;
      this.label[k] = key;
      uses.set(key, (uses.get(key) ?? 0) + 1);
    }
    const keys = [...uses.keys()].sort((a, b) => uses.get(b)! - uses.get(a)!);
    this.shifts = keys.length;
    this.dy = Int32Array.from(keys, (key) => Math.round(key / span));
    this.dx = Int32Array.from(keys, (key, id) => key - span * this.dy[id]!);
    this.step = Int32Array.from(this.dx, (dx, id) => this.dy[id]! * width + dx);
    this.column = new Int32Array(width * height);
    for (let cell = 0; cell < width * height; cell++) this.column[cell] = cell % width;
    this.besides = new Int32Array(ARCS * count).fill(NONE);
    this.isAtRim = new Uint8Array(count);
    for (let k = 0; k < count; k++) {
      for (let arc = 0; arc < ARCS; arc++) {
        const cell = this.beside(holePixels[k]!, arc);
        if (cell === NONE) continue;
        this.besides[ARCS * k + arc] = place[cell]!;
        if (place[cell] === NONE) this.isAtRim[k] = 1;
      }
    }
    const idOf = new Map(keys.map((key, id) => [key, id]));
    for (let k = 0; k < count; k++) {
      this.label[k] = idOf.get(this.label[k]!)!;
      this.own[k] = this.costAlone(k, this.label[k]!);
    }
  }

  /** Lets cells around those that are copied with `shift` be copied so, too, where all in all that costs less. */
  expand(shift: number): void {
    const { label, own, tried, node } = this;
    const cells = this.around(shift);
    if (cells.length === 0) return;
    const neighbours = new Int32Array(ARCS * cells.length).fill(NONE);
    const capacities = new Float32Array(ARCS * cells.length);
    const terminals = new Float32Array(cells.length);
    for (let k = 0; k < cells.length; k++) this.bind(k, cells[k]!, shift, neighbours, capacities, terminals);
    const keeps = minimumCut(neighbours, capacities, terminals);
    for (let k = 0; k < cells.length; k++) {
      const cell = cells[k]!;
      node[cell] = NONE;
      if (keeps[k]) continue;
      label[cell] = shift;
      own[cell] = tried[cell]!;
    }
  }

  sources(factor: number): CellShifts {
    const { width, height, holePixels } = this.level;
    const dx = new Int32Array(width * height);
    const dy = new Int32Array(width * height);
    for (let k = 0; k < holePixels.length; k++) {
      dx[holePixels[k]!] = factor * this.dx[this.label[k]!]!;
      dy[holePixels[k]!] = factor * this.dy[this.label[k]!]!;
    }
    return { width, height, factor, dx, dy };
  }

  /** The cells that may take a shift over; notes their nodes and what it would cost each by itself. */
  private around(shift: number): number[] {
    const { label, besides, node, own, tried, change } = this;
    const { holePixels } = this.level;
    const reached: number[] = [];
    for (let k = 0; k < label.length; k++) if (label[k] === shift) reached.push(k);
    if (reached.length === 0) return [];
    const isReached = new Uint8Array(label.length);
    for (const k of reached) isReached[k] = 1;
    const cells: number[] = [];
    // The list grows while it is walked.
    for (const from of reached) {
      for (let arc = 0; arc < ARCS; arc++) {
        const k = besides[ARCS * from + arc]!;
        if (k === NONE || isReached[k]) continue;
        isReached[k] = 1;
        const cost = this.costAlone(k, shift);
        if (!(cost < own[k]! + MOST_MORE)) continue;
        reached.push(k);
        tried[k] = cost;
        change[k] = this.apart(holePixels[k]!, label[k]!, shift);
        node[k] = cells.push(k) - 1;
      }
    }
    return cells;
  }

  /** Adds what cell `k`, a node of the cut, costs if it keeps its shift (the source's side) or takes the other. */
  private bind(
    at: number,
    k: number,
    shift: number,
    neighbours: Int32Array,
    capacities: Float32Array,
    terminals: Float32Array,
  ): void {
    const { besides, label, node, change } = this;
    const { holePixels } = this.level;
    const cell = holePixels[k]!;
    const own = label[k]!;
    terminals[at]! += this.tried[k]! - this.own[k]!;
    for (let arc = 0; arc < ARCS; arc++) {
      const other = besides[ARCS * k + arc]!;
      if (other === NONE) continue;
      const beside = holePixels[other]!;
      const theirs = label[other]!;
      const there = node[other]!;
      if (there !== NONE && arc % 2 !== 0) continue;
      // Where both are nodes and show the same so far, what changes is known of each.
      const alike = own === theirs;
      const theirChange = alike && there !== NONE ? change[other]! : this.apart(beside, own, shift);
      const changed = change[k]! + theirChange + LENGTH_COST;
      if (there === NONE) {
        if (theirs === shift) terminals[at]! -= changed;
        else if (alike) terminals[at]! += changed;
        else terminals[at]! += this.seam(cell, beside, shift, theirs) - this.seam(cell, beside, own, theirs);
      } else {
        const kept = this.seam(cell, beside, own, theirs);
        const taken = alike ? changed : this.apart(cell, shift, theirs) + change[other]! + LENGTH_COST;
        terminals[at]! += taken - kept;
        terminals[there]! -= taken;
        neighbours[ARCS * at + arc] = there;
        neighbours[ARCS * there + (arc ^ 1)] = at;
        capacities[ARCS * at + arc] = Math.max(0, changed + taken - kept);
      }
    }
  }

  /** The cell beside one, or `NONE` past the picture's edge. */
  private beside(cell: number, arc: number): number {
    const { width } = this.level;
    const x = this.column[cell]! + ACROSS[arc]!;
    const other = cell + DOWN[arc]! * width + ACROSS[arc]!;
    return x < 0 || x >= width || other < 0 || other >= this.column.length ? NONE : other;
  }

  /** What it costs cell `k` to show what a shift brings, whatever the hole's other cells show; infinite where it may not. */
  private costAlone(k: number, shift: number): number {
    const { usable, hole, holePixels } = this.level;
    const { coarse } = this;
    const cell = holePixels[k]!;
    const source = this.sourceOf(cell, shift);
    if (source === NONE || usable[source] === 0) return Infinity;
    let cost = 0;
    for (let c = 0; c < 4; c++) cost += Math.abs(coarse[4 * cell + c]! - coarse[4 * source + c]!);
    cost *= COARSE_WEIGHT;
    cost += Math.max(0, this.apart(cell, shift, NONE) - FREE_DETAIL);
    cost += HEIGHT_SHARE * this.level.heightWeight * Math.abs(this.dy[shift]!);
    if (this.isAtRim[k] === 0) return cost;
    for (let arc = 0; arc < ARCS; arc++) {
      const rim = this.beside(cell, arc);
      if (rim === NONE || hole[rim]) continue;
      cost += RIM_WEIGHT * this.apart(rim, shift, NONE);
      const beyond = this.beside(rim, arc);
      if (beyond !== NONE && !hole[beyond]) cost += BEYOND_RIM_WEIGHT * this.apart(beyond, shift, NONE);
    }
    return cost;
  }

  /** The cell that a shift leads to, or `NONE` outside the picture. */
  private sourceOf(cell: number, shift: number): number {
    const x = this.column[cell]! + this.dx[shift]!;
    const source = cell + this.step[shift]!;
    return x < 0 || x >= this.level.width || source < 0 || source >= this.column.length ? NONE : source;
  }

  /** What a seam between two cells costs, copied with one shift each. */
  private seam(cell: number, beside: number, a: number, b: number): number {
    return a === b ? 0 : this.apart(cell, a, b) + this.apart(beside, a, b) + LENGTH_COST;
  }

  /** How far the colours are apart that two shifts bring to a cell; `NONE` is the cell's own colour. */
  private apart(cell: number, a: number, b: number): number {
    const { features } = this.level;
    const from = this.sourceOf(cell, a);
    const other = b === NONE ? cell : this.sourceOf(cell, b);
    if (from === NONE || other === NONE) return OUTSIDE_COST;
    const i = 4 * from;
    const j = 4 * other;
    return (
      Math.abs(features[i]! - features[j]!) +
      Math.abs(features[i + 1]! - features[j + 1]!) +
      Math.abs(features[i + 2]! - features[j + 2]!)
    );
  }
}
