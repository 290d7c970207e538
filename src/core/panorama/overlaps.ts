/** Points that two frames show alike, px of the full frames: `from[2k], from[2k+1]` in `a` is `to[2k], to[2k+1]` in `b`. */
export interface Overlap {
  a: number;
  b: number;
  from: Float64Array;
  to: Float64Array;
  /** How many points of the two were compared there, those that do not agree included. */
  compared: number;
}

/** How many point pairs agree. */
export const strengthOf = ({ from }: Overlap): number => from.length / 2;

/**
 * Whether so many agreeing pairs out of those compared are more than chance (M. Brown, D. Lowe: Automatic Panoramic
 * Image Stitching using Invariant Features, IJCV 2007, section 3.2).
 */
export const isOverlap = (agreeing: number, compared: number): boolean => agreeing > 8 + 0.3 * compared;

/** Frames that hang together by their overlaps, the largest group first, each in ascending order. */
export function groupFrames(count: number, overlaps: readonly Overlap[]): number[][] {
  const groupOf = Array.from({ length: count }, (_, frame) => frame);
  for (const { a, b } of overlaps) {
    const [from, to] = [groupOf[b]!, groupOf[a]!];
    if (from !== to) groupOf.forEach((group, frame) => void (group === from && (groupOf[frame] = to)));
  }
  const groups = new Map<number, number[]>();
  groupOf.forEach((group, frame) => groups.set(group, [...(groups.get(group) ?? []), frame]));
  return [...groups.values()].sort((a, b) => b.length - a.length || a[0]! - b[0]!);
}

/** One way from a root to every frame of its group over the strongest overlaps, each after the one it is reached from. */
export function strongestTree(root: number, overlaps: readonly Overlap[]): { frame: number; over: Overlap }[] {
  const reached = new Set([root]);
  const tree: { frame: number; over: Overlap }[] = [];
  for (;;) {
    let best: Overlap | undefined;
    for (const overlap of overlaps) {
      if (reached.has(overlap.a) === reached.has(overlap.b)) continue;
      if (!best || strengthOf(overlap) > strengthOf(best)) best = overlap;
    }
    if (!best) return tree;
    const frame = reached.has(best.a) ? best.b : best.a;
    reached.add(frame);
    tree.push({ frame, over: best });
  }
}
