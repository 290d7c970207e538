import type { Kernels } from '../kernels/kernels.ts';
import { ARCS } from '../numeric/minimumCut.ts';
import { apart, coloursApart, costAlone, NONE, sourceOf, type ShiftLabelling } from './expandShift.ts';

/** A seam is hard where both sides differ by more than so many levels, and so does what is shown there. */
const HARD = 48;
/** A thing goes on as far as what is shown differs by no more from where it was cut. */
const ALIKE = 48;
/** What is smaller is no thing, and what is larger than this share of the hole belongs there. */
const FEWEST_CELLS = 6;
const MAX_SHARE_OF_HOLE = 0.05;
/** A thing is cut off if at least this share of its outline is a hard seam. */
const CUT_SHARE = 0.1;
/** So many cells around it are put together anew with it. */
const MARGIN = 8;
/** Connected pixels are put together anew only if at most this share of its hard seams remains. */
const STAYS_HARD = 0.9;
/** What a cell may be off for nothing where the match does not count. */
const ANY_SLACK = 1e6;
/** What a cell costs by itself that is to take no shift over: none costs less. */
const FIXED = -1e9;

/**
 * Puts anew together, of the labelled cells, what is left of things that are cut off inside the hole and do not reach
 * its rim: a piece of a post in the sky. What the match made of their places is what set them there, so it does not
 * count any more: each of the first `shifts` is offered to them again, for what seams, rows and the rim cost alone. Where
 * that takes hardly any of the hard seams away, all stays as it was. Changes the labels; `own` and `slack` are of no
 * use afterwards.
 */
export function letGoOfCutOff(labelling: ShiftLabelling, shifts: number, kernels: Pick<Kernels, 'expand'>): void {
  const { label, own, slack } = labelling;
  const hard = hardSeams(labelling);
  const isFree = cutOffCells(labelling, hard);
  if (!isFree.includes(1)) return;
  for (let cell = 0; cell < MARGIN; cell++) grow(labelling, isFree);
  const before = label.slice();
  for (let k = 0; k < label.length; k++) {
    slack[k] = ANY_SLACK;
    own[k] = isFree[k] ? costAlone(labelling, k, label[k]!, ANY_SLACK) : FIXED;
  }
  for (let shift = 0; shift < shifts; shift++) kernels.expand(labelling, shift);
  const hardAfter = hardSeams(labelling);
  for (const cells of connected(labelling, isFree)) {
    const sum = (of: Uint8Array): number => cells.reduce((total, k) => total + of[k]!, 0);
    if (sum(hardAfter) > STAYS_HARD * sum(hard)) for (const k of cells) label[k] = before[k]!;
  }
}

/** The hard seams along each cell of the hole. */
function hardSeams(labelling: ShiftLabelling): Uint8Array {
  const { label, cells, besides } = labelling;
  const hard = new Uint8Array(cells.length);
  for (let k = 0; k < cells.length; k++) {
    for (let arc = 0; arc < ARCS; arc++) {
      const other = besides[ARCS * k + arc]!;
      if (other === NONE || label[other] === label[k]) continue;
      if (apart(labelling, cells[k]!, label[k]!, label[other]!) <= HARD) continue;
      if (apart(labelling, cells[other]!, label[k]!, label[other]!) <= HARD) continue;
      if (apartAsShown(labelling, k, other) > HARD) hard[k]!++;
    }
  }
  return hard;
}

/** 1 for the cells of things that are cut off and do not reach the rim. */
function cutOffCells(labelling: ShiftLabelling, hard: Uint8Array): Uint8Array {
  const { besides, isAtRim } = labelling;
  const isCutOff = new Uint8Array(hard.length);
  const isKnown = new Uint8Array(hard.length);
  const seenFrom = new Int32Array(hard.length).fill(NONE);
  const most = MAX_SHARE_OF_HOLE * hard.length;
  for (let from = 0; from < hard.length; from++) {
    if (hard[from] === 0 || isKnown[from]) continue;
    const thing = [from];
    seenFrom[from] = from;
    let [seams, outline, reachesRim] = [0, 0, false];
    // The list grows while it is walked.
    for (const k of thing) {
      if (thing.length > most) break;
      isKnown[k] = 1;
      seams += hard[k]!;
      if (isAtRim[k]) reachesRim = true;
      for (let arc = 0; arc < ARCS; arc++) {
        const other = besides[ARCS * k + arc]!;
        if (other === NONE || seenFrom[other] === from) continue;
        if (apartAsShown(labelling, other, from) > ALIKE) {
          outline++;
        } else {
          seenFrom[other] = from;
          thing.push(other);
        }
      }
    }
    if (thing.length < FEWEST_CELLS || thing.length > most || reachesRim || seams < CUT_SHARE * outline) continue;
    for (const k of thing) isCutOff[k] = 1;
  }
  return isCutOff;
}

/** Marks the cells beside marked ones, too. */
function grow({ besides }: ShiftLabelling, isMarked: Uint8Array): void {
  const was = isMarked.slice();
  for (let k = 0; k < was.length; k++) {
    if (!was[k]) continue;
    for (let arc = 0; arc < ARCS; arc++) {
      const other = besides[ARCS * k + arc]!;
      if (other !== NONE) isMarked[other] = 1;
    }
  }
}

/** Marked cells that hang together, as lists. */
function connected({ besides }: ShiftLabelling, isMarked: Uint8Array): number[][] {
  const left = isMarked.slice();
  const parts: number[][] = [];
  for (let from = 0; from < left.length; from++) {
    if (!left[from]) continue;
    left[from] = 0;
    const part = [from];
    // The list grows while it is walked.
    for (const k of part) {
      for (let arc = 0; arc < ARCS; arc++) {
        const other = besides[ARCS * k + arc]!;
        if (other === NONE || !left[other]) continue;
        left[other] = 0;
        part.push(other);
      }
    }
    parts.push(part);
  }
  return parts;
}

/** How far what two cells of the hole show is apart. */
function apartAsShown(labelling: ShiftLabelling, k: number, other: number): number {
  const { cells, label } = labelling;
  const here = sourceOf(labelling, cells[k]!, label[k]!);
  const there = sourceOf(labelling, cells[other]!, label[other]!);
  return coloursApart(labelling, here, there);
}
