import type { Kernels } from '../kernels/kernels.ts';
import { ARCS } from '../numeric/minimumCut.ts';
import type { Correspondence } from './correspondence.ts';
import { cellBeside, costAlone, CUT_ROOM, NONE, type ShiftLabelling } from './expandShift.ts';
import { letGoOfCutOff } from './letGoOfCutOff.ts';
import type { Level } from './level.ts';
import { cheapestSources, type CellShifts } from './offsetField.ts';

/** So many of the shifts found are tried, those of most cells first; in large holes fewer, so many cells each in all. */
const MAX_SHIFTS = 100;
const MAX_CELLS_TRIED = 2_500_000;
/** What is coarsely to be seen at a place is a Gaussian of about so many cells. */
const COARSE_RADIUS = 2;
/** So many cells what the match makes of a place coarsely may lie beside where it belongs. */
const SLACK_CELLS = 2;
/** What a seam costs per cell, in levels; the stones and boards of a plane stay whole for longer. */
const LENGTH_COST = { inPicture: 2, onPlane: 6 };
/** What a row between a cell and its source costs, against what it did in the match. */
const HEIGHT_SHARE = 1 / 800;

export interface PlaceOfHole {
  /** Whether it is seen square on to a plane. */
  onPlane?: boolean;
  /** Whether it lies past the picture's edge; see `liesPastEdge`. */
  pastEdge?: boolean;
}

/**
 * One source per cell of the hole, so that neighbours are copied together wherever that shows little: from the cheapest
 * source of each cell on, the shifts found most often are taken over by cells around theirs if what then differs along
 * seams, and from what the match makes of the place coarsely, becomes less in sum. Fields of patches alone repeat small
 * pieces side by side, and prefer what is calm. Y. Pritch et al.: Shift-Map Image Editing, ICCV, 2009; K. He, J. Sun:
 * Statistics of Patch Offsets for Image Completion, ECCV, 2012; alpha expansion by Y. Boykov et al.: Fast Approximate
 * Energy Minimization via Graph Cuts, PAMI, 2001. `onPlane` makes seams dearer. Where edges lie the match knows but
 * roughly, and mixes colours there that nothing has but by chance: beside them what is shown may be off, though not
 * `pastEdge`, where rough knowledge is all there is. Shifts are in pixels of a photo of which `factor` make a cell.
 */
export function coherentSources(
  level: Level,
  field: Correspondence,
  factor: number,
  kernels: Kernels,
  place: PlaceOfHole = {},
): CellShifts {
  const giveBack = kernels.scratch.hold();
  const labelling = labelCells(level, cheapestSources(level, field), place, kernels);
  const shifts = labelling.step.length;
  const most = Math.min(MAX_SHIFTS, Math.ceil(MAX_CELLS_TRIED / level.holePixels.length), shifts);
  for (let shift = 0; shift < most; shift++) kernels.expand(labelling, shift);
  letGoOfCutOff(labelling, most, kernels);
  const sources = sourcesOf(labelling, factor);
  giveBack();
  return sources;
}

/** Every cell with the shift it starts with; shifts are numbered by falling number of cells. */
function labelCells(
  level: Level,
  start: CellShifts,
  { onPlane, pastEdge }: PlaceOfHole,
  kernels: Kernels,
): ShiftLabelling {
  const { width, height, holePixels } = level;
  const { scratch } = kernels;
  const [size, count] = [width * height, holePixels.length];
  const place = new Int32Array(size).fill(NONE);
  const label = scratch.ints(count);
  const uses = new Map<number, number>();
  const span = 2 * width;
  for (let k = 0; k < count; k++) {
    const cell = holePixels[k]!;
    place[cell] = k;
    const key = start.dy[cell]! * span + start.dx[cell]!;
    label[k] = key;
    uses.set(key, (uses.get(key) ?? 0) + 1);
  }
  const keys = [...uses.keys()].sort((a, b) => uses.get(b)! - uses.get(a)!);
  const [dx, dy, step] = [scratch.ints(keys.length), scratch.ints(keys.length), scratch.ints(keys.length)];
  keys.forEach((key, id) => {
    dy[id] = Math.round(key / span);
    dx[id] = key - span * dy[id]!;
    step[id] = dy[id]! * width + dx[id]!;
  });
  const [hole, usable] = [scratch.bytes(size), scratch.bytes(size)];
  hole.set(level.hole);
  usable.set(level.usable);
  const column = scratch.ints(size);
  for (let cell = 0; cell < size; cell++) column[cell] = cell % width;
  const labelling: ShiftLabelling = {
    width,
    height,
    features: level.features,
    hole,
    usable,
    coarse: coarsely(level, kernels),
    slack: scratch.floats(count),
    column,
    cells: holePixels,
    besides: scratch.ints(ARCS * count).fill(NONE),
    isAtRim: scratch.bytes(count),
    dx,
    dy,
    step,
    heightCost: HEIGHT_SHARE * level.heightWeight,
    mostForHeight: HEIGHT_SHARE * level.mostForHeight,
    lengthCost: onPlane ? LENGTH_COST.onPlane : LENGTH_COST.inPicture,
    label,
    own: scratch.floats(count),
    tried: scratch.floats(count),
    change: scratch.ints(count),
    node: scratch.ints(count).fill(NONE),
    room: scratch.bytes(CUT_ROOM.perCell * count + CUT_ROOM.more),
  };
  for (let k = 0; k < count; k++) {
    for (let arc = 0; arc < ARCS; arc++) {
      const cell = cellBeside(labelling, holePixels[k]!, arc);
      if (cell === NONE) continue;
      labelling.besides[ARCS * k + arc] = place[cell]!;
      if (place[cell] === NONE) labelling.isAtRim[k] = 1;
    }
  }
  if (!pastEdge) measureSlack(labelling);
  const idOf = new Map(keys.map((key, id) => [key, id]));
  for (let k = 0; k < count; k++) {
    label[k] = idOf.get(label[k]!)!;
    labelling.own[k] = costAlone(labelling, k, label[k]!, 0);
  }
  return labelling;
}

/** The level's features, four a cell, over a Gaussian of some cells. */
function coarsely({ width, height, features }: Level, kernels: Kernels): Float32Array {
  const { scratch, blurInScratch } = kernels;
  const n = width * height;
  const out = scratch.floats(4 * n);
  const giveBack = scratch.hold();
  const [luma, blue, red, texture] = [scratch.floats(n), scratch.floats(n), scratch.floats(n), scratch.floats(n)];
  for (let i = 0; i < n; i++) {
    luma[i] = features[4 * i]!;
    blue[i] = features[4 * i + 1]!;
    red[i] = features[4 * i + 2]!;
    texture[i] = features[4 * i + 3]!;
  }
  const smooth = (plane: Float32Array): Float32Array => blurInScratch(plane, width, height, COARSE_RADIUS, 2);
  const [y, b, r, t] = [smooth(luma), smooth(blue), smooth(red), smooth(texture)];
  for (let i = 0; i < n; i++) {
    out[4 * i] = y[i]!;
    out[4 * i + 1] = b[i]!;
    out[4 * i + 2] = r[i]!;
    out[4 * i + 3] = t[i]!;
  }
  giveBack();
  return out;
}

/** Beside edges so much of what is coarsely to be seen is free as it changes over `SLACK_CELLS`. */
function measureSlack({ width, height, coarse, column, cells, slack }: ShiftLabelling): void {
  for (let k = 0; k < cells.length; k++) {
    const cell = cells[k]!;
    const x = column[cell]!;
    const isInside = cell >= width && cell < width * (height - 1);
    let slope = 0;
    for (let c = 0; c < 4; c++) {
      const i = 4 * cell + c;
      const across = x > 0 && x + 1 < width ? Math.abs(coarse[i + 4]! - coarse[i - 4]!) : 0;
      const down = isInside ? Math.abs(coarse[i + 4 * width]! - coarse[i - 4 * width]!) : 0;
      slope += Math.max(across, down) / 2;
    }
    slack[k] = SLACK_CELLS * slope;
  }
}

function sourcesOf({ width, height, cells, label, dx, dy }: ShiftLabelling, factor: number): CellShifts {
  const sources = { width, height, factor, dx: new Int32Array(width * height), dy: new Int32Array(width * height) };
  for (let k = 0; k < cells.length; k++) {
    sources.dx[cells[k]!] = factor * dx[label[k]!]!;
    sources.dy[cells[k]!] = factor * dy[label[k]!]!;
  }
  return sources;
}
