import type { Drawn } from '../fill/drawn.ts';
import { mappedSources } from '../fill/mappedSources.ts';
import { applyHomography, multiplyHomographies, type Homography } from '../geometry/homography.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { boundsOf, createMask, cropMask, type Mask } from '../mask/mask.ts';
import { detailField, type DetailField } from './detailField.ts';
import { chooseMaps, type MapLabels } from './chooseMaps.ts';
import { SIDE } from './holeCells.ts';
import { findSelfMaps } from './findSelfMaps.ts';
import type { SelfMap } from './selfMap.ts';
import { fitAround } from './settleMap.ts';

/**
 * Maps are looked for in a picture reduced until a square as large as the hole is about so many px wide; where those
 * carry on too little of it, in a larger one, for what repeats may be small.
 */
const SIDES_PX = [100, 180];
const ENOUGH = 0.3;
/** Those that are used are fitted anew to a picture so many times as large. */
const FINER = 2;
/** They are looked for within so many of its widths around it, and fitted to what lies within so many of a place. */
const AROUND_SIDES = 2;
const REACH_SIDES = 1.2;
/** Where less of the hole can be carried on nothing is. */
const LEAST_SHARE = 0.15;

/**
 * Carries on through a hole (not 0, all of it in `box`) what its surroundings repeat: the steps by which they look like
 * themselves, in perspective, lead from the hole to what it shows. Undefined where nothing repeats.
 */
export function carryOn(image: RasterImage, hole: Hole, box: Rect): Drawn | undefined {
  const { width, height } = image;
  let pixels = 0;
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) if (hole[y * width + x]) pixels++;
  }
  const side = Math.sqrt(pixels);
  const around = intersect(inflate(box, Math.round(AROUND_SIDES * side)), wholeOf(image));
  const crop = cropImage(image, around);
  const unknown = cropMask({ width, height, data: hole as Mask['data'] }, around).data;
  const factors = new Set(SIDES_PX.map((px) => Math.max(1, Math.round(side / px))));
  let best: Chosen | undefined;
  for (const factor of factors) {
    const chosen = chosenAt(crop, unknown, factor, side);
    if (chosen && !(best && best.share >= chosen.share)) best = chosen;
    if (best && best.share >= ENOUGH) break;
  }
  if (!best || best.share < LEAST_SHARE) return undefined;
  const { factor, labels } = best;
  const maps = fittedFiner(crop, unknown, best).map((map) => unreduced(map, factor, around));
  return drawnBy(image, hole, box, maps, labels, factor, around);
}

/** Which maps carry a hole on, found at 1 / `factor` of a picture's size. */
interface Chosen {
  factor: number;
  maps: SelfMap[];
  labels: MapLabels;
  /** How much of the hole. */
  share: number;
}

function chosenAt(crop: RasterImage, unknown: Hole, factor: number, side: number): Chosen | undefined {
  const field = detailField(crop, unknown, factor);
  const box = holeBox(field);
  if (box.width === 0) return undefined;
  const maps = findSelfMaps(field, box, (REACH_SIDES * side) / factor);
  if (maps.length === 0) return undefined;
  const labels = chooseMaps(coloursOf(crop, field, factor), field, box, maps);
  const carried = labels.labels.reduce((sum, label) => sum + (label > 0 ? 1 : 0), 0);
  return { factor, maps, labels, share: (carried * (SIDE * factor) ** 2) / (side * side) };
}

const holeBox = ({ width, height, hole }: DetailField): Rect => boundsOf({ width, height, data: hole as Mask['data'] });

/** The maps, those that are used fitted to a larger picture. */
function fittedFiner(crop: RasterImage, unknown: Hole, { factor, maps, labels }: Chosen): Homography[] {
  const finer = Math.max(1, Math.floor(factor / FINER));
  if (finer === factor) return maps.map(({ map }) => map);
  const field = detailField(crop, unknown, finer);
  const box = holeBox(field);
  const used = new Set(labels.labels);
  const times = factor / finer;
  return maps.map((found, k) => {
    if (!used.has(k + 1)) return found.map;
    const enlarged = rescaled(found.map, times);
    return rescaled(fitAround(field, box, { ...found, map: enlarged }), 1 / times);
  });
}

/** The same map in a picture so many times as large. */
const rescaled = (map: Homography, times: number): Homography =>
  multiplyHomographies(
    [times, 0, 0, 0, times, 0, 0, 0, 1],
    multiplyHomographies(map, [1 / times, 0, 0, 0, 1 / times, 0, 0, 0, 1]),
  );

/** The map of the picture that a map of its reduced part is. */
function unreduced(map: Homography, factor: number, { x, y }: Rect): Homography {
  const into: Homography = [1 / factor, 0, -x / factor, 0, 1 / factor, -y / factor, 0, 0, 1];
  const back: Homography = [factor, 0, x, 0, factor, y, 0, 0, 1];
  return multiplyHomographies(back, multiplyHomographies(map, into));
}

/** Mean colours of reduced pixels, R, G, B, interleaved. */
function coloursOf({ width, data }: RasterImage, field: DetailField, factor: number): Float32Array {
  const colours = new Float32Array(3 * field.width * field.height);
  const share = 1 / (factor * factor);
  for (let y = 0; y < field.height * factor; y++) {
    for (let x = 0; x < field.width * factor; x++) {
      const to = 3 * (Math.floor(y / factor) * field.width + Math.floor(x / factor));
      for (let c = 0; c < 3; c++) colours[to + c]! += share * data[4 * (y * width + x) + c]!;
    }
  }
  return colours;
}

function drawnBy(
  image: RasterImage,
  hole: Hole,
  box: Rect,
  maps: readonly Homography[],
  { left, top, width: across, labels }: MapLabels,
  factor: number,
  around: Rect,
): Drawn | undefined {
  const { width, height } = image;
  const isKnown = (x: number, y: number): boolean => {
    const [u, v] = [Math.floor(x), Math.floor(y)];
    return u >= 0 && v >= 0 && u < width && v < height && !hole[v * width + u];
  };
  const cell = SIDE * factor;
  const first = { x: around.x + left * factor, y: around.y + top * factor };
  const mapAt = (x: number, y: number): number => {
    const [u, v] = [Math.floor((x - first.x) / cell), Math.floor((y - first.y) / cell)];
    return u < 0 || v < 0 || u >= across || v * across + u >= labels.length ? -1 : labels[v * across + u]! - 1;
  };
  const pixelsOf = createMask(width, height);
  let pixels = 0;
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      const map = hole[y * width + x] ? mapAt(x, y) : -1;
      if (map < 0) continue;
      const at = applyHomography(maps[map]!, x + 0.5, y + 0.5);
      if (!isKnown(at.x, at.y)) continue;
      pixelsOf.data[y * width + x] = 1;
      pixels++;
    }
  }
  if (pixels === 0) return undefined;
  const sources = mappedSources(image, maps, (x, y) => Math.max(0, mapAt(x, y)));
  return {
    pixelsOf: pixelsOf.data,
    pixels,
    box: boundsOf(pixelsOf),
    isThing: false,
    sources: {
      ...sources,
      sample(group, x, y, out) {
        const at = applyHomography(maps[group]!, x + 0.5, y + 0.5);
        return isKnown(at.x, at.y) && sources.sample(group, x, y, out);
      },
    },
  };
}
