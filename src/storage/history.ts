import jsonPatch, { type Operation } from 'fast-json-patch';
import { applyPatches, enablePatches, type Patch } from 'immer';
import type { Snapshot } from './projectSchema.ts';

// What undo and redo lead to is kept as how each state differs from the one next to it: forty whole states of a project
// with large marks would be written again with every change. In memory they are whole, and share what is equal.

enablePatches();

/** As stored: changes (RFC 6902) that lead from the present state back, and forth, one undo entry each. */
export interface PackedHistory {
  past: Operation[][];
  future: Operation[][];
}

/** States and what leads from one to the other, remembered: most of them are the same at the next save. */
const known = new WeakMap<Snapshot, { to: WeakRef<Snapshot>; changes: Operation[] }>();

function changesTo(from: Snapshot, to: Snapshot): Operation[] {
  const remembered = known.get(from);
  if (remembered?.to.deref() === to) return remembered.changes;
  const changes = jsonPatch.compare(from, to);
  known.set(from, { to: new WeakRef(to), changes });
  return changes;
}

/** The way through states that lead away from the present one, the nearest first. */
const packed = (present: Snapshot, nearestFirst: readonly Snapshot[]): Operation[][] =>
  nearestFirst.map((state, k) => changesTo(k === 0 ? present : nearestFirst[k - 1]!, state));

/** `past` and `future` hold the nearest state last. */
export const packHistory = (
  present: Snapshot,
  past: readonly Snapshot[],
  future: readonly Snapshot[],
): PackedHistory => ({
  past: packed(present, [...past].reverse()),
  future: packed(present, [...future].reverse()),
});

function unpacked(present: unknown, changes: readonly Operation[][]): unknown[] {
  const states: unknown[] = [];
  for (const each of changes) states.push(applyPatches((states.at(-1) ?? present) as object, each.map(asImmer)));
  return states.reverse();
}

/** The states before and after the present one, still to be checked. Throws for changes that don't fit it. */
export const unpackHistory = (present: unknown, { past, future }: PackedHistory) => ({
  past: unpacked(present, past),
  future: unpacked(present, future),
});

/** Paths are written as RFC 6901 lays down; Immer wants their parts, places in lists as numbers. */
const asImmer = (change: Operation): Patch => ({
  op: change.op as Patch['op'],
  path: change.path
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'))
    .map((part) => (/^\d+$/.test(part) ? Number(part) : part)),
  ...('value' in change && { value: change.value as unknown }),
});
