import type { GridSystem } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { bandCount, rowBands, rowsOfBand } from '../kernels/bands.ts';
import type { BandWork, Kernels } from '../kernels/kernels.ts';
import { ACROSS, DOWN, isInner, isKnown, SIDES } from './partRim.ts';
import { countRim, isSoft } from './softRim.ts';
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
  /** Over at least so many px differences in tone fade. */
  leastFade: number;
  /** For each pixel of the box that was copied, with which it was copied together. */
  groups: Float64Array;
  /** Whether nothing around is sharp: then every step is closed, however large, and tones are evened out far. */
  liesInSoft: boolean;
}

/** What was copied from `sources`, with its groups, which live in the kernels' scratch. */
export function copiedPart(
  {
    image,
    unknown,
    part,
    box,
    sources,
    isThing = false,
    leastFade = SHORTEST_FADE_PX,
  }: Omit<CopiedPart, 'groups' | 'liesInSoft' | 'leastFade'> & Partial<Pick<CopiedPart, 'leastFade'>>,
  kernels: Kernels,
): CopiedPart {
  const groups = kernels.scratch.doubles(box.width * box.height);
  const copied = { image, unknown, part, box, sources, isThing, leastFade, groups, liesInSoft: false };
  const bands = rowBands(box.height);
  const looked = kernels.scratch.ints(bands);
  const sharp = kernels.scratch.ints(bands);
  const outstanding = kernels.scratch.ints(bands);
  kernels.inBands(GROUPS, { copied, looked, sharp, outstanding }, bands);
  const sum = (counts: Int32Array): number => counts.reduce((total, count) => total + count, 0);
  copied.liesInSoft = !isThing && isSoft({ looked: sum(looked), sharp: sum(sharp), outstanding: sum(outstanding) });
  return copied;
}

interface GroupsWork {
  copied: CopiedPart;
  /** What is counted along the rim, of each band. */
  looked: Int32Array;
  sharp: Int32Array;
  outstanding: Int32Array;
}

/** Notes the groups of a band of the box's rows, and what lies before the rim there. */
function groupsBand({ copied, looked, sharp, outstanding }: GroupsWork, band: number): void {
  const { image, unknown, part, box, sources, groups } = copied;
  const whole = wholeSources(sources);
  const { from, to } = rowsOfBand(band, box.height);
  for (let y = from; y < to; y++) {
    const row = (y + box.y) * image.width + box.x;
    for (let x = 0; x < box.width; x++) {
      if (part[row + x]) groups[y * box.width + x] = whole.groupAt(x + box.x, y + box.y);
    }
    const rim = countRim(image, unknown, part, box, y + box.y);
    looked[band]! += rim.looked;
    sharp[band]! += rim.sharp;
    outstanding[band]! += rim.outstanding;
  }
}

export const GROUPS: BandWork<GroupsWork> = { name: 'groups', band: groupsBand };

/** Over so many px corrections fade that are to be of no consequence farther off. */
export const SHORTEST_FADE_PX = 16;

/** How strongly the correction is pulled to zero: a value for each square of a box. */
export class Screening {
  readonly box: Rect;
  readonly side: number;
  readonly fade: Float32Array;
  readonly leastFade: number;
  private readonly width: number;

  /**
   * `fade`: over how many px corrections fade, in each square of `side` px, row by row from the box's corner; of one value
   * alone, that everywhere. They fade over `leastFade` px where that is more.
   */
  constructor({ box, side, fade, leastFade }: Pick<Screening, 'box' | 'side' | 'fade' | 'leastFade'>) {
    this.box = box;
    this.side = fade.length === 1 ? Infinity : side;
    this.fade = fade;
    this.leastFade = leastFade;
    this.width = Math.ceil(box.width / this.side);
  }

  private fadeAt(x: number, y: number): number {
    const { box, side } = this;
    return this.fade[Math.floor((y - box.y) / side) * this.width + Math.floor((x - box.x) / side)]!;
  }

  /** The pull per pixel, at pixel (x, y) of the region. */
  at(x: number, y: number): number {
    return 1 / Math.max(this.leastFade, this.fadeAt(x, y)) ** 2;
  }

  /** How lively it is there: 1 where nothing would show, towards 0 where all does. */
  livelinessAt(x: number, y: number): number {
    return (SHORTEST_FADE_PX / this.fadeAt(x, y)) ** 2;
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

export function blocksOf(box: Rect, side: number, { share }: Pick<Kernels, 'share'>): Blocks {
  const across = Math.floor(box.x / side);
  const top = Math.floor(box.y / side);
  return {
    side,
    across,
    top,
    width: Math.floor((box.x + box.width - 1) / side) - across + 1,
    height: Math.floor((box.y + box.height - 1) / side) - top + 1,
    columns: share(Int32Array.from({ length: box.width }, (_, k) => Math.floor((box.x + k) / side) - across)),
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

/** Rows of blocks that one thread does in one go: so many that they are about as many rows of pixels. */
const BAND_PX = 32;

/** The system while it is made. */
interface SystemWork extends SeamSystem {
  copied: CopiedPart;
  blocks: Blocks;
  screening: Screening;
  /** Squares of AROUND_PX across, and in all. */
  squares: number;
  allSquares: number;
  /** Of each square the sum of its rim's steps in three channels, and how many there are; for each band apart. */
  sums: Float32Array;
}

/**
 * Sets up the system; `screening` is how strongly the solution is held back at each pixel. It lives in the kernels'
 * scratch.
 */
export function seamSystem(copied: CopiedPart, blocks: Blocks, screening: Screening, kernels: Kernels): SeamSystem {
  const { box } = copied;
  const { width, height } = blocks;
  const { scratch } = kernels;
  const n = width * height;
  const bands = bandCount(height, blockRows(blocks));
  const squares = Math.ceil(box.width / AROUND_PX) + 1;
  const allSquares = squares * (Math.ceil(box.height / AROUND_PX) + 1);
  const work: SystemWork = {
    copied,
    blocks,
    screening,
    system: { width, height, right: scratch.floats(n), down: scratch.floats(n), extra: scratch.floats(n) },
    rightSides: scratch.floats(n * LANES),
    blockGroups: scratch.doubles(n).fill(NaN),
    squares,
    allSquares,
    sums: scratch.floats(4 * allSquares * bands),
  };
  kernels.inBands(BLOCK_GROUPS, work, bands);
  kernels.inBands(SEAMS, work, bands);
  const { sums } = work;
  for (let at = 4 * allSquares; at < sums.length; at++) sums[at % (4 * allSquares)]! += sums[at]!;
  kernels.inBands(RIM, work, bands);
  return work;
}

const blockRows = ({ side }: Blocks): number => Math.max(1, Math.floor(BAND_PX / side));

/** The rows of the region that lie in a band of rows of blocks, `to` left out. */
function rowsOf({ copied: { box }, blocks }: SystemWork, band: number): { from: number; to: number } {
  const from = (blocks.top + band * blockRows(blocks)) * blocks.side;
  return {
    from: Math.max(box.y, from),
    to: Math.min(box.y + box.height, from + blockRows(blocks) * blocks.side),
  };
}

/** Adds what a band's blocks have to do with each other and with those above and below; sums up steps at the rim. */
function seamsBand(work: SystemWork, band: number): void {
  const maker = new SystemMaker(work, band);
  for (let y = maker.from; y < maker.to; y++) maker.addRow(y);
}

export const SEAMS: BandWork<SystemWork> = { name: 'seams', band: seamsBand };

/** Joins a band's blocks to what is known beside them, when steps at the rim are summed up. */
function rimBand(work: SystemWork, band: number): void {
  const maker = new SystemMaker(work, 0);
  const { from, to } = rowsOf(work, band);
  for (let y = from; y < to; y++) maker.closeRow(y);
}

export const RIM: BandWork<SystemWork> = { name: 'rim', band: rimBand };

class SystemMaker {
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

/** The majority of the pixels of each of a band's blocks, by pairing off unlike ones. */
function blockGroupsBand(work: SystemWork, band: number): void {
  const { image, part, box, groups } = work.copied;
  const { side, top, width, columns } = work.blocks;
  const found = work.blockGroups;
  const { from, to } = rowsOf(work, band);
  const first = (Math.floor(from / side) - top) * width;
  const ahead = new Int32Array(blockRows(work.blocks) * width);
  for (let y = from; y < to; y++) {
    const blockRow = (Math.floor(y / side) - top) * width;
    const row = y * image.width + box.x;
    for (let x = 0; x < box.width; x++) {
      if (!part[row + x]) continue;
      const i = blockRow + columns[x]!;
      const group = groups[(y - box.y) * box.width + x]!;
      if (group === found[i]) ahead[i - first]!++;
      else if (ahead[i - first] === 0) {
        found[i] = group;
        ahead[i - first] = 1;
      } else ahead[i - first]!--;
    }
  }
}

export const BLOCK_GROUPS: BandWork<SystemWork> = { name: 'blockGroups', band: blockGroupsBand };
