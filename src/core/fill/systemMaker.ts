import type { GridSystem } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import type { CopiedPart } from './copiedPart.ts';
import { ACROSS, DOWN, isInner, isKnown, SIDES } from './partRim.ts';
import { Screening } from './screeningField.ts';
import type { Blocks } from './seamBlocks.ts';
import { AROUND_PX, rowsOf, type SystemWork } from './seamWork.ts';
import type { Sources } from './sources.ts';
import { wholeSources } from './wholeSources.ts';

/**
 * Inside the hole larger steps, in levels, are edges that do not meet rather than differences in tone: they are let go of,
 * wholly where they are twice as large.
 */
const LARGEST_STEP = 64;
/**
 * At the rim a step this far from those around it is let go of, and one half as far still closed: a line that ends there is
 * no difference in tone, and leaves a bright or dark spot if it is taken for one. Where corrections fade far, so large a
 * step by itself is let go of, too, or one whose channels are so far apart (light changes them all alike): a thing that
 * touches the hole must not colour all of a plain ground.
 */
const LEFT_OPEN = 64;
/** A thing of its own lets go of smaller steps. */
const LEFT_OPEN_BY_THING = 20;
const LARGEST_STEP_AT_RIM = 80;
/** There, too, a step so far from that so many px farther out is let go of: what the mark left of a thing ends before. */
const LEFT_OPEN_BY_REMNANT = 24;
const BEYOND_PX = 10;

const limited = (step: number, most: number): number => Math.max(-most, Math.min(most, step));

/** Makes the equations of a band's rows: of blocks beside each other, and of blocks beside what is known. */
export class SystemMaker {
  readonly from: number;
  readonly to: number;
  private readonly system: GridSystem;
  private readonly rightSides: Float32Array;
  private readonly blockGroups: Float64Array;
  private readonly copied: CopiedPart;
  private readonly sources: Sources;
  private readonly blocks: Blocks;
  private readonly screening: Screening;
  // Between centres of blocks lie `side` pixels, from a centre to the known pixel beside the block half as many.
  private readonly inner: number;
  private readonly outer: number;
  private readonly here = new Float32Array(3);
  private readonly there = new Float32Array(3);
  private readonly beside = new Float32Array(3);
  private readonly besideThere = new Float32Array(3);
  private readonly beyond = new Float32Array(3);
  private readonly step = new Float32Array(3);
  private readonly squares: number;
  private readonly sums: Float32Array;

  /** For the rows of a band, with the band's own sums. */
  constructor(work: SystemWork, band: number) {
    const { copied, blocks, screening, system, rightSides, blockGroups, squares, allSquares, sums } = work;
    const { from, to } = rowsOf(work, band);
    this.from = from;
    this.to = to;
    this.copied = copied;
    this.sources = wholeSources(copied.sources);
    this.blocks = blocks;
    this.screening = new Screening(screening);
    this.system = system;
    this.rightSides = rightSides;
    this.blockGroups = blockGroups;
    this.inner = 1 / blocks.side;
    this.outer = 2 / (blocks.side + 1);
    this.squares = squares;
    this.sums = sums.subarray(4 * allSquares * band, 4 * allSquares * (band + 1));
  }

  addRow(y: number): void {
    const { image, part, box } = this.copied;
    const { side, top, width, columns } = this.blocks;
    const { right, down, extra } = this.system;
    const { inner, from, to } = this;
    const right0 = box.x + box.width - 1;
    const bottom = box.y + box.height - 1;
    const blockRow = (Math.floor(y / side) - top) * width;
    const blockBelow = (Math.floor((y + 1) / side) - top) * width;
    const reachesUp = y === from && y > box.y;
    for (let x = box.x; x <= right0; x++) {
      const p = y * image.width + x;
      if (!part[p]) continue;
      const column = columns[x - box.x]!;
      const i = blockRow + column;
      // The band above does its own side of what joins both.
      if (reachesUp && part[p - image.width]) this.joinParts(i - width, i, x, y - 1, x, y, false, true);
      extra[i]! += this.screening.at(x, y);
      if (x < right0 && part[p + 1]) {
        const j = blockRow + columns[x + 1 - box.x]!;
        if (i !== j) {
          right[i]! += inner;
          this.joinParts(i, j, x, y, x + 1, y, true, true);
        }
      }
      if (y < bottom && part[p + image.width]) {
        const j = blockBelow + column;
        if (i !== j) {
          down[i]! += inner;
          this.joinParts(i, j, x, y, x, y + 1, true, y + 1 < to);
        }
      }
      if (isInner(part, p, image.width)) continue;
      for (let k = 0; k < SIDES; k++) {
        if (this.isKnownAt(x + ACROSS[k]!, y + DOWN[k]!)) this.meetKnown(i, x, y, x + ACROSS[k]!, y + DOWN[k]!);
      }
    }
  }

  closeRow(y: number): void {
    const { image, part, box } = this.copied;
    const { side, top, width, columns } = this.blocks;
    const blockRow = (Math.floor(y / side) - top) * width;
    for (let x = box.x; x < box.x + box.width; x++) {
      const p = y * image.width + x;
      if (!part[p] || isInner(part, p, image.width)) continue;
      for (let k = 0; k < SIDES; k++) {
        if (!this.isKnownAt(x + ACROSS[k]!, y + DOWN[k]!)) continue;
        this.joinKnown(blockRow + columns[x - box.x]!, x, y, x + ACROSS[k]!, y + DOWN[k]!);
      }
    }
  }

  private isKnownAt(u: number, v: number): boolean {
    const { image, unknown } = this.copied;
    return isKnown(unknown, image.width, image.height, u, v);
  }

  /**
   * Pixel (x, y) of block i beside (u, v) of block j: copied from places that lie apart, with a step between them. Adds
   * to one of the blocks or to both.
   */
  private joinParts(
    i: number,
    j: number,
    x: number,
    y: number,
    u: number,
    v: number,
    isForFirst: boolean,
    isForSecond: boolean,
  ): void {
    const { rightSides, here, there, beside, besideThere, step, inner, sources } = this;
    const own = this.blockGroups[i]!;
    const other = this.blockGroups[j]!;
    if (own === other) return;
    if (!sources.sample(own, x, y, here) || !sources.sample(other, u, v, there)) return;
    // Where one of the sources ends beside the seam, what lies to either side of it stands for what they differ by.
    const isTold = sources.sample(own, u, v, beside) && sources.sample(other, x, y, besideThere);
    if (!isTold && this.copied.isThing) return;
    let largest = 0;
    for (let c = 0; c < 3; c++) {
      step[c] = isTold ? 0.5 * (besideThere[c]! - here[c]! + there[c]! - beside[c]!) : there[c]! - here[c]!;
      largest = Math.max(largest, Math.abs(step[c]!));
    }
    const hold = this.copied.liesInSoft ? 1 : Math.max(0, Math.min(1, 2 - largest / LARGEST_STEP));
    for (let c = 0; c < 3; c++) {
      const rise = inner * hold * step[c]!;
      if (isForFirst) rightSides[LANES * i + c]! += rise;
      if (isForSecond) rightSides[LANES * j + c]! -= rise;
    }
  }

  private squareAt(x: number, y: number): number {
    const { box } = this.copied;
    return 4 * (Math.floor((y - box.y) / AROUND_PX) * this.squares + Math.floor((x - box.x) / AROUND_PX));
  }

  /** The step, in `step`, from what block i is copied with to the known pixel (u, v); false where it can't be told. */
  private stepToKnown(i: number, u: number, v: number, step: Float32Array): boolean {
    const { beside, sources } = this;
    const { image } = this.copied;
    if (!sources.sample(this.blockGroups[i]!, u, v, beside)) return false;
    const q = 4 * (v * image.width + u);
    for (let c = 0; c < 3; c++) step[c] = image.data[q + c]! - beside[c]!;
    return true;
  }

  /** How far the step in `here`, from (x, y) to (u, v), is from that farther out; 0 where nothing is known there. */
  private changeBeyond(i: number, x: number, y: number, u: number, v: number): number {
    const { here, beyond } = this;
    const { image } = this.copied;
    const [s, t] = [u + BEYOND_PX * (u - x), v + BEYOND_PX * (v - y)];
    if (!this.isKnownAt(s, t)) return 0;
    const isTold = this.stepToKnown(i, s, t, beyond);
    const [rim, out] = [4 * (v * image.width + u), 4 * (t * image.width + s)];
    let change = 0;
    for (let c = 0; c < 3; c++) {
      // Where the source ends before, what lies at the rim stands for it: all of this is about what is smooth.
      const step = isTold ? here[c]! - beyond[c]! : image.data[rim + c]! - image.data[out + c]!;
      change = Math.max(change, Math.abs(step));
    }
    return change;
  }

  private meetKnown(i: number, x: number, y: number, u: number, v: number): void {
    if (!this.stepToKnown(i, u, v, this.here)) return;
    const at = this.squareAt(x, y);
    for (let c = 0; c < 3; c++) this.sums[at + c]! += this.here[c]!;
    this.sums[at + 3]! += 1;
  }

  /** Pixel (x, y) of block i beside the known pixel (u, v). */
  private joinKnown(i: number, x: number, y: number, u: number, v: number): void {
    if (!this.stepToKnown(i, u, v, this.here)) return;
    const { here, sums, outer, rightSides } = this;
    const { isThing, liesInSoft } = this.copied;
    if (liesInSoft) {
      this.system.extra[i]! += outer;
      for (let c = 0; c < 3; c++) rightSides[LANES * i + c]! += outer * here[c]!;
      return;
    }
    const at = this.squareAt(x, y);
    let apart = 0;
    let [highest, lowest] = [0, 0];
    for (let c = 0; c < 3; c++) {
      highest = Math.max(highest, here[c]!);
      lowest = Math.min(lowest, here[c]!);
      apart = Math.max(apart, Math.abs(here[c]! - sums[at + c]! / sums[at + 3]!));
    }
    const lively = isThing ? 0 : this.screening.livelinessAt(x, y);
    const remnant = lively < 1 && !isThing ? (LEFT_OPEN / LEFT_OPEN_BY_REMNANT) * this.changeBeyond(i, x, y, u, v) : 0;
    const strangeness = lively * apart + (1 - lively) * Math.max(highest - lowest, remnant);
    const open = isThing ? LEFT_OPEN_BY_THING : LEFT_OPEN;
    const hold = outer * Math.max(0, Math.min(1, 2 - (2 * strangeness) / open));
    this.system.extra[i]! += hold;
    for (let c = 0; c < 3; c++) rightSides[LANES * i + c]! += hold * limited(here[c]!, LARGEST_STEP_AT_RIM);
  }
}
