import { ARCS, minimumCut } from '../numeric/minimumCut.ts';
import { cellsBeside, type HoleCells } from './holeCells.ts';

/** What labels of a hole's cells cost. */
export interface LabelCosts {
  /** Of each label what it costs each cell of the hole. */
  own: readonly Float32Array[];
  /** What it costs that one of two cells beside each other has label `a`, the other `b`. */
  seam(a: number, b: number, cell: number, other: number): number;
}

/**
 * Lets a label take over cells of the hole where that costs less in all; tells whether any was. Alpha expansion:
 * Y. Boykov et al., PAMI, 2001; pairs that no cut can express are cut off: C. Rother et al., CVPR, 2005.
 */
export function expandLabel(label: number, labels: Uint8Array, { own, seam }: LabelCosts, hole: HoleCells): boolean {
  const { cells, numberOf } = hole;
  const neighbours = new Int32Array(ARCS * cells.length).fill(-1);
  const capacities = new Float32Array(ARCS * cells.length);
  // The source's side keeps its label, the sink's takes the new one.
  const terminals = new Float32Array(cells.length);
  for (const [k, cell] of cells.entries()) {
    terminals[k]! += own[label]![k]! - own[labels[k]!]![k]!;
    const beside = cellsBeside(hole, cell);
    for (const arc of [0, 2]) {
      const other = beside[arc]!;
      const j = other < 0 ? -1 : numberOf[other]!;
      if (j < 0) continue;
      const kept = seam(labels[k]!, labels[j]!, cell, other);
      const onlyOtherTakes = seam(labels[k]!, label, cell, other);
      const onlyThisTakes = seam(label, labels[j]!, cell, other);
      terminals[k]! += onlyThisTakes - kept;
      terminals[j]! -= onlyThisTakes;
      neighbours[ARCS * k + arc] = j;
      neighbours[ARCS * j + (arc ^ 1)] = k;
      capacities[ARCS * k + arc] = Math.max(0, onlyOtherTakes + onlyThisTakes - kept);
    }
  }
  const keeps = minimumCut(neighbours, capacities, terminals);
  let changed = false;
  for (let k = 0; k < cells.length; k++) {
    if (keeps[k] || labels[k] === label) continue;
    labels[k] = label;
    changed = true;
  }
  return changed;
}
