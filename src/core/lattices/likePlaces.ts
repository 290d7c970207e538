import { blurPlane } from '../image/boxBlur.ts';
import { GRAIN, type DetailField } from './detailField.ts';

/** Where a place beside the hole is seen again, in reduced px. */
export interface LikePlace {
  /** The place's middle. */
  x: number;
  y: number;
  /** How far away it is seen again. */
  dx: number;
  dy: number;
  /** How much of its detail is the same there: 1 all, 0 none. */
  agreement: number;
}

/** How places are looked for that look alike; lengths in reduced px. */
export const LIKE_OPTIONS = {
  /** The places are squares of so many px to each side of their middle, no farther from the hole than so many times that. */
  radius: 10,
  farthest: 2,
  /** So many places are looked for, so many of those like each are kept, if at least so much is the same. */
  places: 20,
  likes: 8,
  least: 0.4,
  /** No nearer to each other than this. */
  apart: 7,
};

/** Searches for squares beside a hole elsewhere in the picture: the most alike ones first. */
export function likePlaces(field: DetailField, options = LIKE_OPTIONS): LikePlace[] {
  const half = halved(field);
  const { width, height, known, squares } = half;
  const radius = options.radius >> 1;
  const side = 2 * radius + 1;
  const mean = (plane: Float32Array): Float32Array => blurPlane(plane, width, height, radius, 1);
  const wholly = mean(known);
  const energy = mean(squares);
  const whole: number[] = [];
  for (let y = radius; y < height - radius; y++) {
    for (let x = radius; x < width - radius; x++) {
      if (wholly[y * width + x]! > 0.999) whole.push(y * width + x);
    }
  }
  const chosen = placesBeside(half, whole, energy, options);
  const found: LikePlace[] = [];
  const agreements = new Float32Array(width * height);
  for (const place of chosen) {
    agreements.fill(0);
    const [px, py] = [place % width, Math.floor(place / width)];
    const own = new Float32Array(side * side);
    for (let k = 0; k < own.length; k++) {
      own[k] = half.detail[(py - radius + Math.floor(k / side)) * width + px - radius + (k % side)]!;
    }
    for (const at of whole) {
      // What has far more or less detail is not alike.
      const ratio = (energy[at]! + 1) / (energy[place]! + 1);
      if (ratio < 0.25 || ratio > 4) continue;
      let sum = 0;
      const first = at - radius * width - radius;
      for (let v = 0, k = 0; v < side; v++) {
        for (let i = first + v * width, end = i + side; i < end; i++) sum += own[k++]! * half.detail[i]!;
      }
      agreements[at] = (2 * sum) / (side * side * (energy[at]! + energy[place]! + 2 * GRAIN * GRAIN));
    }
    found.push(...peaksOf(agreements, half, place, options));
  }
  return found.sort((a, b) => b.agreement - a.agreement);
}

interface Half {
  width: number;
  height: number;
  detail: Float32Array;
  squares: Float32Array;
  known: Float32Array;
  hole: Float32Array;
}

function halved({ width, height, detail, isKnown, hole }: DetailField): Half {
  const [w, h] = [width >> 1, height >> 1];
  const small = { width: w, height: h, detail: new Float32Array(w * h) };
  const [squares, known, holes] = [new Float32Array(w * h), new Float32Array(w * h), new Float32Array(w * h)];
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      const mean = (plane: ArrayLike<number>): number =>
        (plane[i]! + plane[i + 1]! + plane[i + width]! + plane[i + width + 1]!) / 4;
      small.detail[y * w + x] = mean(detail);
      squares[y * w + x] = mean(detail) ** 2;
      known[y * w + x] = mean(isKnown) === 1 ? 1 : 0;
      holes[y * w + x] = mean(hole) > 0 ? 1 : 0;
    }
  }
  return { ...small, squares, known, hole: holes };
}

/** Squares beside the hole that show most, spread around it. */
function placesBeside(
  { width, height, hole }: Half,
  whole: readonly number[],
  energy: Float32Array,
  { radius, farthest, places, apart }: typeof LIKE_OPTIONS,
): number[] {
  const nearHole = blurPlane(hole, width, height, (farthest * radius) >> 1, 1);
  const beside = whole.filter((at) => nearHole[at]! > 1e-4).sort((a, b) => energy[b]! - energy[a]!);
  // Most telling first, ever closer together, until there are enough.
  const chosen: number[] = [];
  for (let room = 4 * apart; room >= apart && chosen.length < places; room /= 2) {
    for (const at of beside) {
      if (chosen.length >= places) break;
      if (energy[at]! < GRAIN * GRAIN) break;
      if (chosen.every((other) => distance(at, other, width) >= room / 2)) chosen.push(at);
    }
  }
  return chosen;
}

const distance = (a: number, b: number, width: number): number =>
  Math.max(Math.abs((a % width) - (b % width)), Math.abs(Math.floor(a / width) - Math.floor(b / width)));

function peaksOf(
  agreements: Float32Array,
  { width }: Half,
  place: number,
  { radius, likes, least, apart }: typeof LIKE_OPTIONS,
): LikePlace[] {
  const candidates: number[] = [];
  for (let i = width + 1; i < agreements.length - width - 1; i++) {
    const own = agreements[i]!;
    if (own < least || distance(i, place, width) < radius / 3) continue;
    const isPeak =
      own >= agreements[i - 1]! &&
      own >= agreements[i + 1]! &&
      own >= agreements[i - width]! &&
      own >= agreements[i + width]!;
    if (isPeak) candidates.push(i);
  }
  candidates.sort((a, b) => agreements[b]! - agreements[a]!);
  const kept: number[] = [];
  for (const i of candidates) {
    if (kept.length >= likes) break;
    if (kept.every((other) => distance(i, other, width) >= apart / 2)) kept.push(i);
  }
  return kept.map((i) => ({
    x: 2 * (place % width) + 1,
    y: 2 * Math.floor(place / width) + 1,
    dx: 2 * ((i % width) - (place % width)),
    dy: 2 * (Math.floor(i / width) - Math.floor(place / width)),
    agreement: agreements[i]!,
  }));
}
