import { blurPlane } from '../src/core/image/boxBlur.ts';
import { requireSameSize, type RasterImage } from '../src/core/image/rasterImage.ts';
import type { Mask } from '../src/core/mask/mask.ts';

/** How far a rebuilt place is from the truth; 0 = equal, lower is better. */
export interface Fidelity {
  /** Levels by which broad tones are off: mean difference of luma smoothed over some 12 px. */
  tone: number;
  /** Octaves by which the liveliness of fine detail is off: mean |log2 ratio| of local deviation over some 6 px. */
  texture: number;
  /** Share of the truth's directed detail (board joints, edges) that is missing or stands elsewhere, tolerance 3 px. */
  lines: number;
  /** By how much steps across the rim of the mark are larger (or smaller) than in the truth, as a share. */
  seam: number;
}

export const cells = (f: Fidelity): number[] => [f.tone, f.texture, f.lines, f.seam];

/** One figure for comparing takes: each measure as a share of the flat fill's. */
export const overall = (f: Fidelity, flat: Fidelity): number =>
  cells(f).reduce((sum, value, k) => sum + value / cells(flat)[k]!, 0) / 4;

/** Compares `result` with `truth` over the marked pixels. All of one size. */
export function fidelity(result: RasterImage, truth: RasterImage, mark: Mask): Fidelity {
  requireSameSize(truth, result, 'The result');
  requireSameSize(truth, mark, 'The mark');
  const [p, q] = [lumaOf(result), lumaOf(truth)];
  return {
    tone: toneError(p, q, mark),
    texture: textureError(p, q, mark),
    lines: lineError(p, q, mark),
    seam: seamError(p, q, mark),
  };
}

type Plane = Float32Array<ArrayBuffer>;

function lumaOf({ width, height, data }: RasterImage): Plane {
  return Float32Array.from(
    { length: width * height },
    (_, i) => 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!,
  );
}

function meanInside(mark: Mask, value: (i: number) => number): number {
  let sum = 0;
  let count = 0;
  for (let i = 0; i < mark.data.length; i++) {
    if (mark.data[i]! < 128) continue;
    sum += value(i);
    count++;
  }
  return sum / Math.max(1, count);
}

function toneError(p: Plane, q: Plane, mark: Mask): number {
  const [a, b] = [p, q].map((plane) => blurPlane(plane, mark.width, mark.height, 6, 2));
  return meanInside(mark, (i) => Math.abs(a![i]! - b![i]!));
}

function textureError(p: Plane, q: Plane, mark: Mask): number {
  const deviation = (plane: Plane): Plane => {
    const mean = blurPlane(plane, mark.width, mark.height, 3, 1);
    const square = blurPlane(
      plane.map((v) => v * v),
      mark.width,
      mark.height,
      3,
      1,
    );
    return square.map((s, i) => Math.sqrt(Math.max(0, s - mean[i]! * mean[i]!)));
  };
  const [a, b] = [deviation(p), deviation(q)];
  return meanInside(mark, (i) => Math.abs(Math.log2((a[i]! + 1) / (b[i]! + 1))));
}

function lineError(p: Plane, q: Plane, mark: Mask): number {
  const { width, height } = mark;
  const directed = (plane: Plane, step: number): Plane =>
    blurPlane(
      plane.map((v, i) => Math.abs((plane[i + step] ?? v) - v)),
      width,
      height,
      3,
      1,
    );
  let missing = 0;
  let all = 0;
  for (const step of [1, width]) {
    const [a, b] = [directed(p, step), directed(q, step)];
    missing += meanInside(mark, (i) => Math.abs(a[i]! - b[i]!));
    all += meanInside(mark, (i) => b[i]!);
  }
  return missing / all;
}

function seamError(p: Plane, q: Plane, mark: Mask): number {
  const { width, height, data } = mark;
  let [result, truth] = [0, 0];
  for (let i = 0; i + width < width * height; i++) {
    for (const step of [1, width]) {
      if (data[i]! >= 128 === data[i + step]! >= 128) continue;
      result += Math.abs(p[i + step]! - p[i]!);
      truth += Math.abs(q[i + step]! - q[i]!);
    }
  }
  return Math.abs(result / truth - 1);
}
