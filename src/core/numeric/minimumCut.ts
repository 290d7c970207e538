/** Arcs out of a node, in the order right, left, down, up; the arc against `k` is `k ^ 1`. */
export const ARCS = 4;

const FREE = 0;
const SOURCE = 1;
const SINK = 2;
const NONE = -1;
/** Parents that are no arc. */
const TERMINAL = -2;
const ORPHAN = -3;

/**
 * The cut of least cost through a grid: which nodes end on the source's side (1) and which on the sink's (0). Grows one
 * search tree from each terminal and keeps both from one augmentation to the next, which on grids is far quicker than
 * looking for each path anew. Y. Boykov, V. Kolmogorov: An Experimental Comparison of Min-Cut/Max-Flow Algorithms for
 * Energy Minimization in Vision, PAMI 2004.
 *
 * @param neighbours ARCS entries a node: the node that the arc leads to, or -1; must be mutual
 * @param capacities ARCS entries a node, at least 0; used up
 * @param terminals what binds a node to the source (above 0) or the sink (below 0); used up
 */
export function minimumCut(neighbours: Int32Array, capacities: Float32Array, terminals: Float32Array): Uint8Array {
  pushAcross(neighbours, capacities, terminals);
  const { tree } = new SearchTrees(neighbours, capacities, terminals).grow();
  // What is free can't be reached from the source either.
  for (let node = 0; node < tree.length; node++) if (tree[node] !== SOURCE) tree[node] = 0;
  return tree;
}

/** Uses up ways of a single arc, from a node bound to the source to one bound to the sink: a loop finds these sooner. */
function pushAcross(neighbours: Int32Array, capacities: Float32Array, terminals: Float32Array): void {
  for (let node = 0; node < terminals.length; node++) {
    for (let k = 0; k < ARCS && terminals[node]! > 0; k++) {
      const arc = ARCS * node + k;
      const other = neighbours[arc]!;
      if (other < 0 || !(terminals[other]! < 0)) continue;
      const flow = Math.min(terminals[node]!, capacities[arc]!, -terminals[other]!);
      terminals[node]! -= flow;
      terminals[other]! += flow;
      capacities[arc]! -= flow;
      capacities[ARCS * other + (k ^ 1)]! += flow;
    }
  }
}

/** A class, since code made for closures is thrown away with them, and made anew at the next of hundreds of cuts. */
class SearchTrees {
  readonly tree: Uint8Array;
  private readonly neighbours: Int32Array;
  private readonly capacities: Float32Array;
  private readonly terminals: Float32Array;
  private readonly parent: Int8Array;
  private readonly distance: Int32Array;
  private readonly stamp: Int32Array;
  private readonly isActive: Uint8Array;
  /** A ring of active nodes: none is in it twice. */
  private readonly queue: Int32Array;
  private head = 0;
  private tail = 0;
  private readonly orphans: number[] = [];
  private time = 0;

  constructor(neighbours: Int32Array, capacities: Float32Array, terminals: Float32Array) {
    const count = terminals.length;
    this.neighbours = neighbours;
    this.capacities = capacities;
    this.terminals = terminals;
    this.tree = new Uint8Array(count);
    this.parent = new Int8Array(count).fill(NONE);
    this.distance = new Int32Array(count);
    this.stamp = new Int32Array(count);
    this.isActive = new Uint8Array(count);
    this.queue = new Int32Array(count + 1);
    for (let node = 0; node < count; node++) {
      if (terminals[node] === 0) continue;
      this.tree[node] = terminals[node]! > 0 ? SOURCE : SINK;
      this.parent[node] = TERMINAL;
      this.distance[node] = 1;
      this.activate(node);
    }
  }

  private activate(node: number): void {
    const { isActive, queue } = this;
    if (isActive[node]) return;
    isActive[node] = 1;
    queue[this.tail] = node;
    this.tail = this.next(this.tail);
  }

  private next(place: number): number {
    return place + 1 === this.queue.length ? 0 : place + 1;
  }

  /** Until no way is left between the terminals. */
  grow(): this {
    const { tree, neighbours, parent, distance, stamp, isActive, queue, orphans } = this;
    while (this.head !== this.tail) {
      const node = queue[this.head]!;
      if (tree[node] === FREE) {
        isActive[node] = 0;
        this.head = this.next(this.head);
        continue;
      }
      const side = tree[node]!;
      let met = NONE;
      for (let k = 0; k < ARCS; k++) {
        const other = neighbours[ARCS * node + k]!;
        if (other < 0 || !(this.towards(node, k, side) > 0)) continue;
        if (tree[other] === FREE) {
          tree[other] = side;
          parent[other] = k ^ 1;
          distance[other] = distance[node]! + 1;
          stamp[other] = stamp[node]!;
          this.activate(other);
        } else if (tree[other] !== side) {
          met = k;
          break;
        } else if (stamp[other]! <= stamp[node]! && distance[other]! > distance[node]! + 1) {
          // A shorter way to the terminal keeps later walks short.
          parent[other] = k ^ 1;
          distance[other] = distance[node]! + 1;
          stamp[other] = stamp[node]!;
        }
      }
      if (met === NONE) {
        isActive[node] = 0;
        this.head = this.next(this.head);
        continue;
      }
      this.time++;
      this.augment(node, met);
      // Those made on the way join the end of the list.
      for (const orphan of orphans) this.adopt(orphan);
      orphans.length = 0;
    }
    return this;
  }

  /** Capacity left along the tree between a node and the other end of its arc `k`, in the direction of the flow. */
  private towards(node: number, k: number, side: number): number {
    const { neighbours, capacities } = this;
    const at = ARCS * node + k;
    return side === SOURCE ? capacities[at]! : capacities[ARCS * neighbours[at]! + (k ^ 1)]!;
  }

  private augment(node: number, k: number): void {
    const { tree, neighbours, capacities, terminals, parent, orphans } = this;
    const other = neighbours[ARCS * node + k]!;
    const [top, bottom] = tree[node] === SOURCE ? [node, other] : [other, node];
    const middle = tree[node] === SOURCE ? ARCS * node + k : ARCS * other + (k ^ 1);
    let flow = capacities[middle]!;
    let at = top;
    for (; parent[at] !== TERMINAL; at = neighbours[ARCS * at + parent[at]!]!) {
      flow = Math.min(flow, capacities[ARCS * neighbours[ARCS * at + parent[at]!]! + (parent[at]! ^ 1)]!);
    }
    flow = Math.min(flow, terminals[at]!);
    for (at = bottom; parent[at] !== TERMINAL; at = neighbours[ARCS * at + parent[at]!]!) {
      flow = Math.min(flow, capacities[ARCS * at + parent[at]!]!);
    }
    flow = Math.min(flow, -terminals[at]!);

    const middleNode = (middle / ARCS) | 0;
    capacities[middle]! -= flow;
    capacities[ARCS * neighbours[middle]! + ((middle - ARCS * middleNode) ^ 1)]! += flow;
    for (at = top; parent[at] !== TERMINAL;) {
      const up = neighbours[ARCS * at + parent[at]!]!;
      const arc = ARCS * up + (parent[at]! ^ 1);
      capacities[ARCS * at + parent[at]!]! += flow;
      capacities[arc]! -= flow;
      if (capacities[arc] === 0) {
        parent[at] = ORPHAN;
        orphans.push(at);
      }
      at = up;
    }
    terminals[at]! -= flow;
    if (terminals[at] === 0) {
      parent[at] = ORPHAN;
      orphans.push(at);
    }
    for (at = bottom; parent[at] !== TERMINAL;) {
      const arc = ARCS * at + parent[at]!;
      const up = neighbours[arc]!;
      capacities[ARCS * up + (parent[at]! ^ 1)]! += flow;
      capacities[arc]! -= flow;
      if (capacities[arc] === 0) {
        parent[at] = ORPHAN;
        orphans.push(at);
      }
      at = up;
    }
    terminals[at]! += flow;
    if (terminals[at] === 0) {
      parent[at] = ORPHAN;
      orphans.push(at);
    }
  }

  /** How far a node is from its tree's terminal; -1 where its way there is broken. Marks the way, so that it is walked once. */
  private rootDistance(node: number): number {
    const { neighbours, parent, distance, stamp, time } = this;
    let total = 0;
    let at = node;
    while (stamp[at] !== time) {
      const up = parent[at]!;
      total++;
      if (up === TERMINAL) {
        stamp[at] = time;
        distance[at] = 1;
        total--;
        break;
      }
      if (up === ORPHAN || up === NONE) return -1;
      at = neighbours[ARCS * at + up]!;
    }
    total += distance[at]!;
    let left = total;
    for (let walk = node; stamp[walk] !== time; walk = neighbours[ARCS * walk + parent[walk]!]!) {
      stamp[walk] = time;
      distance[walk] = left--;
    }
    return total;
  }

  private adopt(node: number): void {
    const { tree, neighbours, capacities, parent, distance, stamp, orphans, time } = this;
    const side = tree[node]!;
    let [best, bestDistance] = [NONE, Infinity];
    for (let k = 0; k < ARCS; k++) {
      const other = neighbours[ARCS * node + k]!;
      if (other < 0 || tree[other] !== side) continue;
      // From the parent to the child for the source's tree, from the child to the parent for the sink's.
      const open = side === SOURCE ? capacities[ARCS * other + (k ^ 1)]! : capacities[ARCS * node + k]!;
      if (!(open > 0)) continue;
      const reached = this.rootDistance(other);
      if (reached >= 0 && reached < bestDistance) [best, bestDistance] = [k, reached];
    }
    if (best !== NONE) {
      parent[node] = best;
      stamp[node] = time;
      distance[node] = bestDistance + 1;
      return;
    }
    for (let k = 0; k < ARCS; k++) {
      const other = neighbours[ARCS * node + k]!;
      if (other < 0 || tree[other] !== side) continue;
      const open = side === SOURCE ? capacities[ARCS * other + (k ^ 1)]! : capacities[ARCS * node + k]!;
      if (open > 0) this.activate(other);
      if (parent[other] === (k ^ 1)) {
        parent[other] = ORPHAN;
        orphans.push(other);
      }
    }
    tree[node] = FREE;
    parent[node] = NONE;
  }
}
