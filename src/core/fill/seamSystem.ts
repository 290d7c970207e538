import type { GridSystem } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Sources } from './sources.ts';

/** Inside the hole, larger steps, in levels, are edges that do not meet rather than differences in tone. */
const LARGEST_STEP = 32;
/**
 * At the rim a step this far from those around it is let go of, and one half as far still closed: a line that ends there is
 * no difference in tone, and leaves a bright or dark spot if it is taken for one. Where corrections fade far, so large a
 * step by itself is let go of, too, or one whose channels are so far apart (light changes them all alike): a thing that
 * touches the hole must not colour all of a plain ground.
 */
const LEFT_OPEN = 64;
/** Steps are compared with their mean over squares of so many px. */
const AROUND_PX = 32;
/** A thing of its own lets go of smaller steps. */
const LEFT_OPEN_BY_THING = 20;
const LARGEST_STEP_AT_RIM = 80;
/** There, too, a step so far from that so many px farther out is let go of: what the mark left of a thing ends before. */
const LEFT_OPEN_BY_REMNANT = 24;
const BEYOND_PX = 10;

const limited = (step: number, most: number): number => Math.max(-most, Math.min(most, step));

/** A part of the hole with what was copied into it. */
export interface CopiedPart {
  /** The region of the photo, and which of its pixels are not known (non-zero). */
  image: RasterImage;
  unknown: Uint8Array;
  /** Region size: non-zero where the part was copied; its box. */
  part: Uint8Array;
  box: Rect;
  sources: Sources;
  /** Whether it is a thing of its own: then what it is put beside, where that differs, has no say in its tone. */
  isThing?: boolean;
  /** For each pixel of the box that was copied, with which it was copied together. */
  groups: Float64Array;
}

/** What was copied from `sources`, with its groups. */
export function copiedPart({
  image,
  unknown,
  part,
  box,
  sources,
  isThing = false,
}: Omit<CopiedPart, 'groups'>): CopiedPart {
  const groups = new Float64Array(box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const row = (y + box.y) * image.width + box.x;
    for (let x = 0; x < box.width; x++) {
      if (part[row + x]) groups[y * box.width + x] = sources.groupAt(x + box.x, y + box.y);
    }
  }
  return { image, unknown, part, box, sources, isThing, groups };
}

/** How strongly corrections are pulled to zero per pixel in lively texture: they fade over some 1/sqrt(.004) px. */
export const STRONGEST_SCREENING = 0.004;

/** How strongly the correction is pulled to zero: a value for each square of a box. */
export class Screening {
  private readonly box: Rect;
  private readonly side: number;
  private readonly pull: Float32Array;
  private readonly width: number;

  /** `pull` has one value a square of `side` px, row by row from the box's corner; of one value alone, that everywhere. */
  constructor(box: Rect, side: number, pull: Float32Array) {
    this.box = box;
    this.side = pull.length === 1 ? Infinity : side;
    this.pull = pull;
    this.width = Math.ceil(box.width / this.side);
  }

  /** At pixel (x, y) of the region. */
  at(x: number, y: number): number {
    const { box, side } = this;
    return this.pull[Math.floor((y - box.y) / side) * this.width + Math.floor((x - box.x) / side)]!;
  }
}

/** Square blocks of pixels that share one unknown of the correction, lined up with the region's origin. */
export interface Blocks {
  side: number;
  /** Blocks left of and above the first. */
  across: number;
  top: number;
  /** Blocks across and down. */
  width: number;
  height: number;
  /** For each column of the box the block's column. */
  columns: Int32Array;
}

export function blocksOf(box: Rect, side: number): Blocks {
  const across = Math.floor(box.x / side);
  const top = Math.floor(box.y / side);
  return {
    side,
    across,
    top,
    width: Math.floor((box.x + box.width - 1) / side) - across + 1,
    height: Math.floor((box.y + box.height - 1) / side) - top + 1,
    columns: Int32Array.from({ length: box.width }, (_, k) => Math.floor((box.x + k) / side) - across),
  };
}

/** The system whose solution closes the part's seams. */
export interface SeamSystem {
  system: GridSystem;
  /** LANES values a block. */
  rightSides: Float32Array;
  /** The group that most of a block's pixels are of, and that its unknown is for; NaN where it has none. */
  blockGroups: Float64Array;
}

/** Sets up the system; `screening` is how strongly the solution is held back at each pixel. */
export function seamSystem(copied: CopiedPart, blocks: Blocks, screening: Screening): SeamSystem {
  const maker = new SystemMaker(copied, blocks, screening);
  const { box } = copied;
  for (let y = box.y; y < box.y + box.height; y++) maker.addRow(y);
  maker.closeRim();
  return maker;
}

/** Numbers for every two neighbours of which the second is known: block, (x, y), (u, v). */
const RIM = 5;

class SystemMaker implements SeamSystem {
  readonly system: GridSystem;
  readonly rightSides: Float32Array;
  readonly blockGroups: Float64Array;
  private readonly copied: CopiedPart;
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
  private readonly squares: number;
  /** Of each square the sum of its rim's steps in three channels, and how many there are. */
  private readonly sums: Float32Array;
  private readonly rim: number[] = [];

  constructor(copied: CopiedPart, blocks: Blocks, screening: Screening) {
    const { box } = copied;
    const { width, height, side } = blocks;
    const n = width * height;
    this.copied = copied;
    this.blocks = blocks;
    this.screening = screening;
    this.system = {
      width,
      height,
      right: new Float32Array(n),
      down: new Float32Array(n),
      extra: new Float32Array(n),
    };
    this.rightSides = new Float32Array(n * LANES);
    this.blockGroups = groupsOfBlocks(copied, blocks);
    this.inner = 1 / side;
    this.outer = 2 / (side + 1);
    this.squares = Math.ceil(box.width / AROUND_PX) + 1;
    this.sums = new Float32Array(4 * this.squares * (Math.ceil(box.height / AROUND_PX) + 1));
  }

  addRow(y: number): void {
    const { image, unknown, part, box } = this.copied;
    const { side, top, width, columns } = this.blocks;
    const { right, down, extra } = this.system;
    const { inner } = this;
    const right0 = box.x + box.width - 1;
    const bottom = box.y + box.height - 1;
    const blockRow = (Math.floor(y / side) - top) * width;
    const blockBelow = (Math.floor((y + 1) / side) - top) * width;
    for (let x = box.x; x <= right0; x++) {
      const p = y * image.width + x;
      if (!part[p]) continue;
      const column = columns[x - box.x]!;
      const i = blockRow + column;
      extra[i]! += this.screening.at(x, y);
      if (x < right0 && part[p + 1]) {
        const j = blockRow + columns[x + 1 - box.x]!;
        if (i !== j) {
          right[i]! += inner;
          this.joinParts(i, j, x, y, x + 1, y);
        }
      } else if (x + 1 < image.width && unknown[p + 1] === 0) this.meetKnown(i, x, y, x + 1, y);
      if (y < bottom && part[p + image.width]) {
        const j = blockBelow + column;
        if (i !== j) {
          down[i]! += inner;
          this.joinParts(i, j, x, y, x, y + 1);
        }
      } else if (y + 1 < image.height && unknown[p + image.width] === 0) this.meetKnown(i, x, y, x, y + 1);
      if (x > 0 && unknown[p - 1] === 0) this.meetKnown(i, x, y, x - 1, y);
      if (y > 0 && unknown[p - image.width] === 0) this.meetKnown(i, x, y, x, y - 1);
    }
  }

  /** Joins the part to what is known beside it, when all rows are added. */
  closeRim(): void {
    const { rim } = this;
    for (let k = 0; k < rim.length; k += RIM) {
      this.joinKnown(rim[k]!, rim[k + 1]!, rim[k + 2]!, rim[k + 3]!, rim[k + 4]!);
    }
  }

  /** Pixel (x, y) of block i beside (u, v) of block j: copied from places that lie apart, with a step between them. */
  private joinParts(i: number, j: number, x: number, y: number, u: number, v: number): void {
    const { rightSides, here, there, beside, besideThere, inner } = this;
    const { sources } = this.copied;
    const own = this.blockGroups[i]!;
    const other = this.blockGroups[j]!;
    if (own === other) return;
    if (!sources.sample(own, u, v, beside) || !sources.sample(other, x, y, besideThere)) return;
    if (!sources.sample(own, x, y, here) || !sources.sample(other, u, v, there)) return;
    for (let c = 0; c < 3; c++) {
      const rise = inner * limited(0.5 * (besideThere[c]! - here[c]! + there[c]! - beside[c]!), LARGEST_STEP);
      rightSides[LANES * i + c]! += rise;
      rightSides[LANES * j + c]! -= rise;
    }
  }

  private squareAt(x: number, y: number): number {
    const { box } = this.copied;
    return 4 * (Math.floor((y - box.y) / AROUND_PX) * this.squares + Math.floor((x - box.x) / AROUND_PX));
  }

  /** The step, in `step`, from what block i is copied with to the known pixel (u, v); false where it can't be told. */
  private stepToKnown(i: number, u: number, v: number, step: Float32Array): boolean {
    const { beside } = this;
    const { image, sources } = this.copied;
    if (!sources.sample(this.blockGroups[i]!, u, v, beside)) return false;
    const q = 4 * (v * image.width + u);
    for (let c = 0; c < 3; c++) step[c] = image.data[q + c]! - beside[c]!;
    return true;
  }

  /** How far the step in `here`, from (x, y) to (u, v), is from that farther out; 0 where nothing is known there. */
  private changeBeyond(i: number, x: number, y: number, u: number, v: number): number {
    const { here, beyond } = this;
    const { image, unknown } = this.copied;
    const [s, t] = [u + BEYOND_PX * (u - x), v + BEYOND_PX * (v - y)];
    if (s < 0 || t < 0 || s >= image.width || t >= image.height || unknown[t * image.width + s] !== 0) return 0;
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
    this.rim.push(i, x, y, u, v);
    if (!this.stepToKnown(i, u, v, this.here)) return;
    const at = this.squareAt(x, y);
    for (let c = 0; c < 3; c++) this.sums[at + c]! += this.here[c]!;
    this.sums[at + 3]! += 1;
  }

  /** Pixel (x, y) of block i beside the known pixel (u, v). */
  private joinKnown(i: number, x: number, y: number, u: number, v: number): void {
    if (!this.stepToKnown(i, u, v, this.here)) return;
    const { here, sums, outer, rightSides } = this;
    const { isThing } = this.copied;
    const at = this.squareAt(x, y);
    let apart = 0;
    let [highest, lowest] = [0, 0];
    for (let c = 0; c < 3; c++) {
      highest = Math.max(highest, here[c]!);
      lowest = Math.min(lowest, here[c]!);
      apart = Math.max(apart, Math.abs(here[c]! - sums[at + c]! / sums[at + 3]!));
    }
    const lively = isThing ? 0 : this.screening.at(x, y) / STRONGEST_SCREENING;
    const remnant = lively < 1 && !isThing ? (LEFT_OPEN / LEFT_OPEN_BY_REMNANT) * this.changeBeyond(i, x, y, u, v) : 0;
    const strangeness = lively * apart + (1 - lively) * Math.max(highest - lowest, remnant);
    const open = isThing ? LEFT_OPEN_BY_THING : LEFT_OPEN;
    const hold = outer * Math.max(0, Math.min(1, 2 - (2 * strangeness) / open));
    this.system.extra[i]! += hold;
    for (let c = 0; c < 3; c++) rightSides[LANES * i + c]! += hold * limited(here[c]!, LARGEST_STEP_AT_RIM);
  }
}

/** The majority of each block's pixels, by pairing off unlike ones. */
function groupsOfBlocks({ image, part, box, groups }: CopiedPart, blocks: Blocks): Float64Array {
  const { side, top, width, height, columns } = blocks;
  const found = new Float64Array(width * height).fill(NaN);
  const ahead = new Int32Array(width * height);
  for (let y = 0; y < box.height; y++) {
    const blockRow = (Math.floor((y + box.y) / side) - top) * width;
    const row = (y + box.y) * image.width + box.x;
    for (let x = 0; x < box.width; x++) {
      if (!part[row + x]) continue;
      const i = blockRow + columns[x]!;
      const group = groups[y * box.width + x]!;
      if (group === found[i]) ahead[i]!++;
      else if (ahead[i] === 0) {
        found[i] = group;
        ahead[i] = 1;
      } else ahead[i]!--;
    }
  }
  return found;
}
