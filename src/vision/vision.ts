import type * as cvTypes from '@techstark/opencv-js';
import { isOverlap, type Overlap } from '../core/panorama/overlaps.ts';
import type { GreyFrame } from '../core/panorama/refineOverlap.ts';

/** Remarkable points of a frame. */
export interface Features {
  /** x, y, ... in px of the full frame. */
  points: Float32Array;
  /** One row of bytes for each point. */
  descriptors: Uint8Array;
}

/** Finds what frames have in common. */
export interface Vision {
  findFeatures(frame: GreyFrame): Features;
  /** What two frames show alike, if that is more than chance. */
  findOverlap(a: number, b: number, features: readonly Features[]): Overlap | undefined;
}

interface Detectors {
  AKAZE: new () => cvTypes.Feature2D & { setThreshold(threshold: number): void };
}

/** The strongest points of a frame are enough. */
const MAX_FEATURES = 2000;
/** How marked a point must be; the next is tried while there are too few. */
const THRESHOLDS = [1e-3, 1e-4, 1e-5];
const ENOUGH_FEATURES = 800;
/** A pair counts when the second best is at least this much further off (D. Lowe, IJCV 2004). */
const RATIO = 0.8;
/** Pairs may lie so far from one common plane's map, px of the full frame: lenses bend, cameras are not turned exactly. */
const APART_SHARE = 0.003;
const FEWEST_PAIRS = 12;

/**
 * Feature detection, description (AKAZE: P. Alcantarilla et al., BMVC 2013), matching and a robust first map (RANSAC:
 * M. Fischler, R. Bolles, CACM 1981) by OpenCV.
 */
export async function openVision(): Promise<Vision> {
  const { cv } = await import('./openCv.ts');
  await new Promise<void>((resolve) => {
    if ('Mat' in cv) resolve();
    else (cv as { onRuntimeInitialized?: () => void }).onRuntimeInitialized = resolve;
  });
  const matOf = (rows: number, columns: number, type: number, data: ArrayLike<number>) =>
    cv.matFromArray(rows, columns, type, data as number[]);

  return {
    findFeatures({ width, height, data, scale }) {
      const [grey, none, rows] = [matOf(height, width, cv.CV_8UC1, data), new cv.Mat(), new cv.Mat()];
      const keypoints = new cv.KeyPointVector();
      // Its types leave this one out.
      const detector = new (cv as unknown as Detectors).AKAZE();
      // Haze and evening light have points too, only fainter ones.
      for (const threshold of THRESHOLDS) {
        detector.setThreshold(threshold);
        detector.detectAndCompute(grey, none, keypoints, rows);
        if (keypoints.size() >= ENOUGH_FEATURES) break;
      }
      const count = keypoints.size();
      const order = Array.from({ length: count }, (_, k) => k).map((k) => ({ k, strength: keypoints.get(k).response }));
      order.sort((a, b) => b.strength - a.strength || a.k - b.k);
      const kept = order.slice(0, MAX_FEATURES).map(({ k }) => k);
      const bytes = rows.cols;
      const points = new Float32Array(2 * kept.length);
      const descriptors = new Uint8Array(bytes * kept.length);
      kept.forEach((k, at) => {
        const { pt } = keypoints.get(k);
        // Its coordinates are those of pixel centres counted from 0.
        points[2 * at] = (pt.x + 0.5) / scale;
        points[2 * at + 1] = (pt.y + 0.5) / scale;
        descriptors.set(rows.data.subarray(k * bytes, (k + 1) * bytes), at * bytes);
      });
      for (const used of [grey, none, rows, keypoints, detector]) used.delete();
      return { points, descriptors };
    },

    findOverlap(a, b, features) {
      const [fa, fb] = [features[a]!, features[b]!];
      const [countA, countB] = [fa.points.length / 2, fb.points.length / 2];
      if (countA < FEWEST_PAIRS || countB < FEWEST_PAIRS) return undefined;
      const rowsA = matOf(countA, fa.descriptors.length / countA, cv.CV_8UC1, fa.descriptors);
      const rowsB = matOf(countB, fb.descriptors.length / countB, cv.CV_8UC1, fb.descriptors);
      const matcher = new cv.BFMatcher(cv.NORM_HAMMING, false);
      const matches = new cv.DMatchVectorVector();
      matcher.knnMatch(rowsA, rowsB, matches, 2);
      // Of several points that want the same partner, the likest has it.
      const partner = new Map<number, { from: number; distance: number }>();
      for (let k = 0; k < matches.size(); k++) {
        const pair = matches.get(k);
        const [first, second] = [pair.get(0), pair.get(1)];
        if (second && first.distance < RATIO * second.distance) {
          const known = partner.get(first.trainIdx);
          if (!known || first.distance < known.distance)
            partner.set(first.trainIdx, { from: first.queryIdx, distance: first.distance });
        }
        pair.delete();
      }
      for (const used of [rowsA, rowsB, matcher, matches]) used.delete();
      const from: number[] = [];
      const to: number[] = [];
      for (const [bAt, { from: aAt }] of [...partner].sort(([x], [y]) => x - y)) {
        from.push(fa.points[2 * aAt]!, fa.points[2 * aAt + 1]!);
        to.push(fb.points[2 * bAt]!, fb.points[2 * bAt + 1]!);
      }
      const compared = partner.size;
      if (compared < FEWEST_PAIRS) return undefined;
      const [pointsA, pointsB] = [matOf(compared, 1, cv.CV_64FC2, from), matOf(compared, 1, cv.CV_64FC2, to)];
      const agrees = new cv.Mat();
      const apartPx = APART_SHARE * Math.max(...from, ...to);
      const map = cv.findHomography(pointsA, pointsB, cv.RANSAC, apartPx, agrees, 5000);
      const inliers = [...agrees.data].flatMap((agree, k) => (agree ? [k] : []));
      for (const used of [pointsA, pointsB, agrees, map]) used.delete();
      if (!isOverlap(inliers.length, compared)) return undefined;
      const pick = (points: number[]) =>
        Float64Array.from(inliers.flatMap((k) => [points[2 * k]!, points[2 * k + 1]!]));
      return { a, b, from: pick(from), to: pick(to), compared };
    },
  };
}
