import { argument, floatArgument, pointer } from './control';
import { ARCS, capacities, clearNodes, layOut, minimumCut, neighbours, terminals, tree } from './minimumCut';

/*
 * One step of joining pieces; see `expandShift` in the core. Arguments: 0 width, 1 cells of the level, 2 features,
 * 3 hole, 4 usable, 5 coarse features, 6 column, 7 cells of the hole, 8 their number, 9 besides, 10 isAtRim, 11 dx,
 * 12 dy, 13 step, 14 label, 15 own, 16 tried, 17 change, 18 node, 19 room, 20 the shift, 21 cost of a
 * cell of seam, 22 slack, 24 cost of a row (f64), 26 the most that height costs (f64).
 */

const NONE: i32 = -1;
const COARSE_WEIGHT: f64 = 2;
const FREE_DETAIL: i32 = 50;
const DETAIL_SLACK: f64 = 2;
const RIM_WEIGHT: i32 = 6;
const BEYOND_RIM_WEIGHT: i32 = 3;
const OUTSIDE_COST: i32 = 60;
const MAX_MORE: f64 = 40;

let width: i32 = 0;
let lengthCost: i32 = 0;
let size: i32 = 0;
let features: usize = 0;
let column: usize = 0;
let cells: usize = 0;
let shiftX: usize = 0;
let shiftStep: usize = 0;
let label: usize = 0;
let own: usize = 0;
let tried: usize = 0;
let change: usize = 0;
let node: usize = 0;
let besides: usize = 0;

@inline
function at(plane: usize, i: i32): i32 {
  return load<i32>(plane + ((<usize>i) << 2));
}

@inline
function put(plane: usize, i: i32, value: i32): void {
  store<i32>(plane + ((<usize>i) << 2), value);
}

@inline
function single(plane: usize, i: i32): f64 {
  return <f64>load<f32>(plane + ((<usize>i) << 2));
}

@inline
function bind(i: i32, more: f64): void {
  const place = terminals + ((<usize>i) << 2);
  store<f32>(place, <f32>(<f64>load<f32>(place) + more));
}

@inline
function sourceOf(cell: i32, shift: i32): i32 {
  const x = at(column, cell) + at(shiftX, shift);
  const source = cell + at(shiftStep, shift);
  return x < 0 || x >= width || source < 0 || source >= size ? NONE : source;
}

@inline
function byteApart(i: usize, j: usize): i32 {
  return abs(<i32>load<u8>(features + i) - <i32>load<u8>(features + j));
}

function apart(cell: i32, a: i32, b: i32): i32 {
  const from = sourceOf(cell, a);
  const other = b === NONE ? cell : sourceOf(cell, b);
  if (from === NONE || other === NONE) return OUTSIDE_COST;
  const i = (<usize>from) << 2;
  const j = (<usize>other) << 2;
  return byteApart(i, j) + byteApart(i + 1, j + 1) + byteApart(i + 2, j + 2);
}

function seam(cell: i32, beside: i32, a: i32, b: i32): i32 {
  return a === b ? 0 : apart(cell, a, b) + apart(beside, a, b) + lengthCost;
}

function cellBeside(cell: i32, arc: i32): i32 {
  const across = arc === 0 ? 1 : arc === 1 ? -1 : 0;
  const down = arc === 2 ? 1 : arc === 3 ? -1 : 0;
  const x = at(column, cell) + across;
  const other = cell + down * width + across;
  return x < 0 || x >= width || other < 0 || other >= size ? NONE : other;
}

function costAlone(k: i32, shift: i32): f64 {
  const hole = pointer(3);
  const coarse = pointer(5);
  const cell = at(cells, k);
  const source = sourceOf(cell, shift);
  if (source === NONE || load<u8>(pointer(4) + <usize>source) === 0) return Infinity;
  let cost: f64 = 0;
  for (let c = 0; c < 4; c++) cost += abs(single(coarse, 4 * cell + c) - single(coarse, 4 * source + c));
  const slack = single(pointer(22), k);
  cost = COARSE_WEIGHT * max<f64>(0, cost - slack);
  cost += max<f64>(0, <f64>(apart(cell, shift, NONE) - FREE_DETAIL) - DETAIL_SLACK * slack);
  cost += min<f64>(floatArgument(26), floatArgument(24) * <f64>abs(at(pointer(12), shift)));
  if (load<u8>(pointer(10) + <usize>k) === 0) return cost;
  for (let arc = 0; arc < ARCS; arc++) {
    const rim = cellBeside(cell, arc);
    if (rim === NONE || load<u8>(hole + <usize>rim)) continue;
    cost += <f64>(RIM_WEIGHT * apart(rim, shift, NONE));
    const beyond = cellBeside(rim, arc);
    if (beyond === NONE || load<u8>(hole + <usize>beyond)) continue;
    cost += <f64>(BEYOND_RIM_WEIGHT * apart(beyond, shift, NONE));
  }
  return cost;
}

/** Lists the cells that may take the shift over in `nodes`; returns how many these are. */
function listNodes(shift: i32, count: i32, nodes: usize, reached: usize, isReached: usize): i32 {
  let ends = 0;
  for (let k = 0; k < count; k++) if (at(label, k) === shift) put(reached, ends++, k);
  if (ends === 0) return 0;
  memory.fill(isReached, 0, <usize>count);
  for (let i = 0; i < ends; i++) store<u8>(isReached + <usize>at(reached, i), 1);
  let found = 0;
  for (let i = 0; i < ends; i++) {
    const from = at(reached, i);
    for (let arc = 0; arc < ARCS; arc++) {
      const k = at(besides, ARCS * from + arc);
      if (k === NONE || load<u8>(isReached + <usize>k)) continue;
      store<u8>(isReached + <usize>k, 1);
      const cost = costAlone(k, shift);
      if (!(cost < single(own, k) + MAX_MORE)) continue;
      put(reached, ends++, k);
      store<f32>(tried + ((<usize>k) << 2), <f32>cost);
      put(change, k, apart(at(cells, k), at(label, k), shift));
      put(node, k, found);
      put(nodes, found++, k);
    }
  }
  return found;
}

function bindNode(here: i32, k: i32, shift: i32): void {
  const cell = at(cells, k);
  const ours = at(label, k);
  bind(here, single(tried, k) - single(own, k));
  for (let arc = 0; arc < ARCS; arc++) {
    const other = at(besides, ARCS * k + arc);
    if (other === NONE) continue;
    const beside = at(cells, other);
    const theirs = at(label, other);
    const there = at(node, other);
    if (there !== NONE && arc % 2 !== 0) continue;
    const alike = ours === theirs;
    const theirChange = alike && there !== NONE ? at(change, other) : apart(beside, ours, shift);
    const changed = at(change, k) + theirChange + lengthCost;
    if (there === NONE) {
      if (theirs === shift) bind(here, -<f64>changed);
      else if (alike) bind(here, <f64>changed);
      else bind(here, <f64>(seam(cell, beside, shift, theirs) - seam(cell, beside, ours, theirs)));
    } else {
      const kept = seam(cell, beside, ours, theirs);
      const taken = alike ? changed : apart(cell, shift, theirs) + at(change, other) + lengthCost;
      bind(here, <f64>(taken - kept));
      bind(there, -<f64>taken);
      put(neighbours, ARCS * here + arc, there);
      put(neighbours, ARCS * there + (arc ^ 1), here);
      store<f32>(capacities + ((<usize>(ARCS * here + arc)) << 2), <f32>max(0, changed + taken - kept));
    }
  }
}

/** Lets cells around those that are copied with the shift be copied so, too, where all in all that costs less. */
export function expandShift(): void {
  const count = argument(8);
  const shift = argument(20);
  width = argument(0);
  lengthCost = argument(21);
  size = argument(1);
  features = pointer(2);
  column = pointer(6);
  cells = pointer(7);
  besides = pointer(9);
  shiftX = pointer(11);
  shiftStep = pointer(13);
  label = pointer(14);
  own = pointer(15);
  tried = pointer(16);
  change = pointer(17);
  node = pointer(18);
  const nodes = pointer(19);
  // Cells that are reached are no nodes yet: their list and marks lie where the cut will.
  const reached = nodes + ((<usize>count) << 2);
  const isReached = reached + ((<usize>count) << 2);
  const found = listNodes(shift, count, nodes, reached, isReached);
  if (found === 0) return;
  layOut(reached, count);
  clearNodes(found);
  for (let i = 0; i < found; i++) bindNode(i, at(nodes, i), shift);
  minimumCut(found);
  for (let i = 0; i < found; i++) {
    const k = at(nodes, i);
    put(node, k, NONE);
    if (load<u8>(tree + <usize>i) === 1) continue;
    put(label, k, shift);
    store<f32>(own + ((<usize>k) << 2), load<f32>(tried + ((<usize>k) << 2)));
  }
}
