/*
 * The cut of least cost through a grid; see `minimumCut` in the core, whose steps these are one by one. One cut at a
 * time in a thread: where it lies is noted in the module's variables.
 */

/** Arcs out of a node: right, left, down, up. */
export const ARCS: i32 = 4;
const FREE: u8 = 0;
const SOURCE: u8 = 1;
const SINK: u8 = 2;
const NONE: i8 = -1;
const TERMINAL: i8 = -2;
const ORPHAN: i8 = -3;

/** Nodes that arcs lead to (i32, four a node, -1 where none), their capacities and what binds to the terminals (f32). */
export let neighbours: usize = 0;
export let capacities: usize = 0;
export let terminals: usize = 0;
/** The tree of each node (u8): after the cut `SOURCE` (1) on the source's side. */
export let tree: usize = 0;

let parent: usize = 0;
let distance: usize = 0;
let stamp: usize = 0;
let isActive: usize = 0;
/** Rings: no node is in either twice. */
let queue: usize = 0;
let orphans: usize = 0;
let ringSize: i32 = 0;
let head: i32 = 0;
let tail: i32 = 0;
let firstOrphan: i32 = 0;
let lastOrphan: i32 = 0;
let time: i32 = 0;

/** Sets the cut's arrays out from `room` on, for up to `most` nodes: 55 bytes each, and up to 32 more. */
export function layOut(room: usize, most: i32): void {
  const each = (<usize>(most + 4) >> 2) << 4;
  neighbours = room;
  capacities = neighbours + ((<usize>most) << 4);
  terminals = capacities + ((<usize>most) << 4);
  distance = terminals + ((<usize>most) << 2);
  stamp = distance + ((<usize>most) << 2);
  queue = stamp + ((<usize>most) << 2);
  orphans = queue + each;
  tree = orphans + each;
  parent = tree + <usize>most;
  isActive = parent + <usize>most;
}

/** Empties the arrays for `count` nodes. */
export function clearNodes(count: i32): void {
  memory.fill(neighbours, 0xff, (<usize>count) << 4);
  memory.fill(capacities, 0, (<usize>count) << 4);
  memory.fill(terminals, 0, (<usize>count) << 2);
}

@inline
function neighbourOf(arc: i32): i32 {
  return load<i32>(neighbours + ((<usize>arc) << 2));
}

@inline
function capacityOf(arc: i32): f32 {
  return load<f32>(capacities + ((<usize>arc) << 2));
}

@inline
function addCapacity(arc: i32, flow: f32): f32 {
  const at = capacities + ((<usize>arc) << 2);
  const left = load<f32>(at) + flow;
  store<f32>(at, left);
  return left;
}

@inline
function terminalOf(node: i32): f32 {
  return load<f32>(terminals + ((<usize>node) << 2));
}

@inline
function addTerminal(node: i32, flow: f32): f32 {
  const at = terminals + ((<usize>node) << 2);
  const left = load<f32>(at) + flow;
  store<f32>(at, left);
  return left;
}

@inline
function treeOf(node: i32): u8 {
  return load<u8>(tree + <usize>node);
}

@inline
function parentOf(node: i32): i8 {
  return load<i8>(parent + <usize>node);
}

@inline
function setParent(node: i32, arc: i8): void {
  store<i8>(parent + <usize>node, arc);
}

@inline
function distanceOf(node: i32): i32 {
  return load<i32>(distance + ((<usize>node) << 2));
}

@inline
function setDistance(node: i32, to: i32): void {
  store<i32>(distance + ((<usize>node) << 2), to);
}

@inline
function stampOf(node: i32): i32 {
  return load<i32>(stamp + ((<usize>node) << 2));
}

@inline
function setStamp(node: i32, to: i32): void {
  store<i32>(stamp + ((<usize>node) << 2), to);
}

@inline
function next(place: i32): i32 {
  return place + 1 === ringSize ? 0 : place + 1;
}

function activate(node: i32): void {
  if (load<u8>(isActive + <usize>node)) return;
  store<u8>(isActive + <usize>node, 1);
  store<i32>(queue + ((<usize>tail) << 2), node);
  tail = next(tail);
}

@inline
function rest(node: i32): void {
  store<u8>(isActive + <usize>node, 0);
  head = next(head);
}

function orphan(node: i32): void {
  setParent(node, ORPHAN);
  store<i32>(orphans + ((<usize>lastOrphan) << 2), node);
  lastOrphan = next(lastOrphan);
}

/** Cuts `count` nodes apart; what is known of the arcs is used up. */
export function minimumCut(count: i32): void {
  pushAcross(count);
  memory.fill(tree, 0, <usize>count);
  memory.fill(parent, <u8>NONE, <usize>count);
  memory.fill(isActive, 0, <usize>count);
  memory.fill(distance, 0, (<usize>count) << 2);
  memory.fill(stamp, 0, (<usize>count) << 2);
  ringSize = count + 1;
  head = 0;
  tail = 0;
  firstOrphan = 0;
  lastOrphan = 0;
  time = 0;
  for (let node = 0; node < count; node++) {
    const bound = terminalOf(node);
    if (bound === 0) continue;
    store<u8>(tree + <usize>node, bound > 0 ? SOURCE : SINK);
    setParent(node, TERMINAL);
    setDistance(node, 1);
    activate(node);
  }
  grow();
}

function pushAcross(count: i32): void {
  for (let node = 0; node < count; node++) {
    for (let k = 0; k < ARCS && terminalOf(node) > 0; k++) {
      const arc = ARCS * node + k;
      const other = neighbourOf(arc);
      if (other < 0 || !(terminalOf(other) < 0)) continue;
      const flow = min(min(terminalOf(node), capacityOf(arc)), -terminalOf(other));
      addTerminal(node, -flow);
      addTerminal(other, flow);
      addCapacity(arc, -flow);
      addCapacity(ARCS * other + (k ^ 1), flow);
    }
  }
}

function grow(): void {
  while (head !== tail) {
    const node = load<i32>(queue + ((<usize>head) << 2));
    const side = treeOf(node);
    if (side === FREE) {
      rest(node);
      continue;
    }
    let met = -1;
    for (let k = 0; k < ARCS; k++) {
      const other = neighbourOf(ARCS * node + k);
      if (other < 0) continue;
      const open = side === SOURCE ? capacityOf(ARCS * node + k) : capacityOf(ARCS * other + (k ^ 1));
      if (!(open > 0)) continue;
      const theirs = treeOf(other);
      if (theirs === FREE) {
        store<u8>(tree + <usize>other, side);
        setParent(other, <i8>(k ^ 1));
        setDistance(other, distanceOf(node) + 1);
        setStamp(other, stampOf(node));
        activate(other);
      } else if (theirs !== side) {
        met = k;
        break;
      } else if (stampOf(other) <= stampOf(node) && distanceOf(other) > distanceOf(node) + 1) {
        setParent(other, <i8>(k ^ 1));
        setDistance(other, distanceOf(node) + 1);
        setStamp(other, stampOf(node));
      }
    }
    if (met < 0) {
      rest(node);
      continue;
    }
    time++;
    augment(node, met);
    while (firstOrphan !== lastOrphan) {
      const left = load<i32>(orphans + ((<usize>firstOrphan) << 2));
      firstOrphan = next(firstOrphan);
      adopt(left);
    }
  }
}

function augment(node: i32, k: i32): void {
  const other = neighbourOf(ARCS * node + k);
  const fromSource = treeOf(node) === SOURCE;
  const top = fromSource ? node : other;
  const bottom = fromSource ? other : node;
  const middle = fromSource ? ARCS * node + k : ARCS * other + (k ^ 1);
  let flow = capacityOf(middle);
  let at = top;
  for (let up = parentOf(at); up !== TERMINAL; up = parentOf(at)) {
    at = neighbourOf(ARCS * at + up);
    // Of the arc that leads down again; the parent's arc is looked up by the child.
    flow = min(flow, capacityOf(ARCS * at + (up ^ 1)));
  }
  flow = min(flow, terminalOf(at));
  at = bottom;
  for (let up = parentOf(at); up !== TERMINAL; up = parentOf(at)) {
    flow = min(flow, capacityOf(ARCS * at + up));
    at = neighbourOf(ARCS * at + up);
  }
  flow = min(flow, -terminalOf(at));

  addCapacity(middle, -flow);
  addCapacity(ARCS * neighbourOf(middle) + ((middle % ARCS) ^ 1), flow);
  at = top;
  for (let arc = parentOf(at); arc !== TERMINAL; arc = parentOf(at)) {
    const up = neighbourOf(ARCS * at + arc);
    addCapacity(ARCS * at + arc, flow);
    if (addCapacity(ARCS * up + (arc ^ 1), -flow) === 0) orphan(at);
    at = up;
  }
  if (addTerminal(at, -flow) === 0) orphan(at);
  at = bottom;
  for (let arc = parentOf(at); arc !== TERMINAL; arc = parentOf(at)) {
    const up = neighbourOf(ARCS * at + arc);
    addCapacity(ARCS * up + (arc ^ 1), flow);
    if (addCapacity(ARCS * at + arc, -flow) === 0) orphan(at);
    at = up;
  }
  if (addTerminal(at, flow) === 0) orphan(at);
}

function rootDistance(node: i32): i32 {
  let total = 0;
  let at = node;
  while (stampOf(at) !== time) {
    const up = parentOf(at);
    total++;
    if (up === TERMINAL) {
      setStamp(at, time);
      setDistance(at, 1);
      total--;
      break;
    }
    if (up === ORPHAN || up === NONE) return -1;
    at = neighbourOf(ARCS * at + up);
  }
  total += distanceOf(at);
  let left = total;
  for (let walk = node; stampOf(walk) !== time; walk = neighbourOf(ARCS * walk + parentOf(walk))) {
    setStamp(walk, time);
    setDistance(walk, left--);
  }
  return total;
}

function adopt(node: i32): void {
  const side = treeOf(node);
  let best = -1;
  let bestDistance = i32.MAX_VALUE;
  for (let k = 0; k < ARCS; k++) {
    const other = neighbourOf(ARCS * node + k);
    if (other < 0 || treeOf(other) !== side) continue;
    const open = side === SOURCE ? capacityOf(ARCS * other + (k ^ 1)) : capacityOf(ARCS * node + k);
    if (!(open > 0)) continue;
    const reached = rootDistance(other);
    if (reached < 0 || reached >= bestDistance) continue;
    best = k;
    bestDistance = reached;
  }
  if (best >= 0) {
    setParent(node, <i8>best);
    setStamp(node, time);
    setDistance(node, bestDistance + 1);
    return;
  }
  for (let k = 0; k < ARCS; k++) {
    const other = neighbourOf(ARCS * node + k);
    if (other < 0 || treeOf(other) !== side) continue;
    const open = side === SOURCE ? capacityOf(ARCS * other + (k ^ 1)) : capacityOf(ARCS * node + k);
    if (open > 0) activate(other);
    if (parentOf(other) === <i8>(k ^ 1)) orphan(other);
  }
  store<u8>(tree + <usize>node, FREE);
  setParent(node, NONE);
}
