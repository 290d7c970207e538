import { cropImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { separateAreas } from '../mask/components.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { boundsOf, createMask, cropMask, pasteMask, type Mask } from '../mask/mask.ts';
import { growMask } from '../mask/morphology.ts';
import { besideSubject } from './besideSubject.ts';
import { castBy } from './castBy.ts';
import { FEATURES, componentCost, type ColourMixture } from './colourMixture.ts';
import { mixtureFor } from './fitMixture.ts';
import { hasShadeOutline } from './shadeOutline.ts';
import { logDensities, shadedLogDensities } from './weighPixels.ts';

const WORK_PIXELS = 60_000;
const SAMPLES = 4000;
const COMPONENTS = 10;
/** A component of the ground is itself a shadow of another that is so much lighter, where brightening leads to it. */
const LIGHTER = 1.25;
const SAME_GROUND = 9;
/** How much likelier (logarithm) in shadow than in the light, over a neighbourhood, ground counts as shaded. */
const MIN_EVIDENCE = 1.2;
const LARGEST_EVIDENCE = 6;
const NEIGHBOURHOOD_PX = 2;
/** A shadow begins so near, in work px, to what casts it. */
const TOUCHING_PX = 5;
/** So much of the subject's height, from below, is its foot. */
const FOOT_SHARE = 0.4;
/** Bridges narrower than twice this between shadows are cut. */
const BRIDGE_PX = 2;
/** Of several dark areas those count that lie along the subject so much as this, against the one that does most. */
const WORTH_SHARE = 0.15;
/** What the subject encloses for so much of its outline (between spokes, under a seat) counts however small it is. */
const ENCLOSED_SHARE = 0.6;
/** Beside a flat thing its shadow lies along it for so much of its outline. */
const HUGGING_SHARE = 0.3;
/** Through so many px of the subject what it encloses is followed. */
const THIN_PX = 6;

/**
 * The cast shadow of a subject (128 or more in its matte), as a mask of the image's size without the subject: where,
 * around it, the same ground lies darker than elsewhere and that darkness touches the subject. The ground's colours are
 * described by a mixture from which components that are others in shadow are left out; each place is then compared in and
 * out of shadow (shadow as a ratio of intensities: A. Prati et al.: Detecting Moving Shadows, PAMI, 2003). Empty where none
 * is found.
 */
export function findShadow(picture: RasterImage, whole: Mask, kernels: Kernels): Mask {
  requireSameSize(picture, whole, 'The subject');
  const bounds = boundsOf(whole, 128);
  const reach = Math.ceil(REACH * Math.max(bounds.width, bounds.height));
  const near = intersect(inflate(bounds, reach), wholeOf(picture));
  const out = createMask(picture.width, picture.height);
  if (bounds.width > 0) pasteMask(out, near, shadowNear(cropImage(picture, near), cropMask(whole, near), kernels));
  return out;
}

/** How far around the subject, in its own sizes, its ground and its shadow are looked at. */
const REACH = 1.3;

function shadowNear(image: RasterImage, subject: Mask, kernels: Kernels): Mask {
  const factor = Math.max(1, Math.round(Math.sqrt((image.width * image.height) / WORK_PIXELS)));
  const work = reduce(image, subject, factor);
  const { width, height, features, inside } = work;
  const n = width * height;
  const lit = litGround(work, kernels);
  const found = createMask(width, height);
  if (lit) {
    const evidence = new Float32Array(n);
    const outside = new Float32Array(n);
    const around = Int32Array.from({ length: n }, (_, i) => i).filter((i) => !inside.data[i]);
    const inLight = logDensities(lit, features, around, kernels);
    const inShade = shadedLogDensities(lit, features, around, kernels);
    around.forEach((i, k) => {
      evidence[i] = Math.max(-LARGEST_EVIDENCE, Math.min(LARGEST_EVIDENCE, inShade[k]! - inLight[k]!));
      outside[i] = 1;
    });
    const smooth = kernels.blur(evidence, width, height, NEIGHBOURHOOD_PX, 2);
    // Between the parts of a subject (spokes, legs) there is little ground to go by.
    const seen = kernels.blur(outside, width, height, NEIGHBOURHOOD_PX, 2);
    for (let i = 0; i < n; i++) if (!inside.data[i] && smooth[i]! > MIN_EVIDENCE * seen[i]!) found.data[i] = 255;
  }
  const cast = createMask(width, height);
  const { beginning, elsewhere } = touching(found, inside);
  for (const area of separateAreas(castBy(inside, beginning, elsewhere), 1)) {
    if (hasShadeOutline(area, inside, features)) paint(cast, area, 255);
  }
  return besideSubject(cast, image, subject, factor);
}

interface Work {
  width: number;
  height: number;
  features: Float32Array;
  /** 255 on the subject. */
  inside: Mask;
}

function reduce(image: RasterImage, subject: Mask, factor: number): Work {
  const width = Math.floor(image.width / factor);
  const height = Math.floor(image.height / factor);
  const features = new Float32Array(width * height * FEATURES);
  const inside = createMask(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const sum = [0, 0, 0, 0];
      for (let v = y * factor; v < (y + 1) * factor; v++) {
        for (let u = x * factor; u < (x + 1) * factor; u++) {
          const i = v * image.width + u;
          for (let c = 0; c < 3; c++) sum[c]! += image.data[4 * i + c]!;
          if (subject.data[i]! >= 128) sum[3]! += 255;
        }
      }
      const [r, g, b, marked] = sum.map((value) => value / (factor * factor)) as [number, number, number, number];
      const luma = 0.299 * r + 0.587 * g + 0.114 * b;
      // Places count for nothing: a shadow may lie anywhere on its ground.
      features.set([luma, 1.2 * (b - luma), 1.2 * (r - luma), 0, 0], FEATURES * (y * width + x));
      if (marked > 32) inside.data[y * width + x] = 255;
    }
  }
  return { width, height, features, inside };
}

/** What the ground around looks like, without what is a darker version of something else in it. */
function litGround({ width, height, features, inside }: Work, kernels: Kernels): ColourMixture | undefined {
  const samples: number[] = [];
  const stride = Math.max(1, Math.round((width * height) / SAMPLES));
  for (let i = 0; i < width * height; i += stride) if (!inside.data[i]) samples.push(i);
  if (samples.length < 10 * COMPONENTS) return undefined;
  const ground = mixtureFor(features, samples, kernels, { components: COMPONENTS });
  const offsets = ground.offsets.slice();
  const relit = new Float32Array(FEATURES);
  for (let k = 0; k < ground.components; k++) {
    for (let j = 0; j < ground.components; j++) {
      const share = ground.means[k * FEATURES]! / ground.means[j * FEATURES]!;
      // The core of a shadow may be one of its lighter rim alone.
      if (ground.offsets[j] === Infinity || !(share > 0.2 && share * LIGHTER < 1)) continue;
      for (let f = 0; f < 3; f++) relit[f] = ground.means[k * FEATURES + f]! / share;
      relit[1] = relit[1]! - 0.1 * (1 - share) * relit[0]!;
      if (componentCost(ground, j, relit, 0) - ground.offsets[j]! < SAME_GROUND) offsets[k] = Infinity;
    }
  }
  return offsets.some(Number.isFinite) ? { ...ground, offsets } : undefined;
}

/** The areas without narrow bridges between them; next to the subject they may be as narrow as they like. */
function withoutBridges(found: Mask, inside: Mask): Mask {
  const either = { ...found, data: found.data.map((value, i) => Math.max(value, inside.data[i]!)) };
  const eroded = growMask(either, -BRIDGE_PX);
  return { ...eroded, data: eroded.data.map((value, i) => (inside.data[i] ? 0 : value)) };
}

interface Touching {
  /** Those areas that begin along the subject's foot, rather than passing it by, and those that it encloses. */
  beginning: Mask;
  /** Others that cling to it, as the shadow of a flat thing does wherever the light comes past. */
  elsewhere: Mask[];
}

function touching(found: Mask, inside: Mask): Touching {
  const { y, height } = boundsOf(inside);
  const foot = Math.floor(y + (1 - FOOT_SHARE) * height) * inside.width;
  const near = squaredDistanceTo(inside, true);
  const reach = (TOUCHING_PX + BRIDGE_PX) ** 2;
  const areas = separateAreas(withoutBridges(found, inside), 12).map((area) => {
    let contact = 0;
    let pixels = 0;
    for (let i = 0; i < area.data.length; i++) {
      if (area.data[i]! < 128) continue;
      pixels++;
      if (i >= foot && near[i]! <= reach) contact++;
    }
    // Long contact for its size.
    return {
      area,
      worth: contact ** 2 / Math.max(1, pixels),
      isEnclosed: enclosedShare(area, inside) > ENCLOSED_SHARE,
    };
  });
  const best = Math.max(0, ...areas.map(({ worth }) => worth));
  const out = createMask(found.width, found.height);
  for (const { area, worth } of areas) if (worth > 0 && worth >= WORTH_SHARE * best) paint(out, area, 255);
  // What is seen through the subject is followed from opening to opening.
  const passingBy = { ...found, data: found.data.map((value, i) => (out.data[i] ? 0 : value)) };
  let enclosed = areas.filter(({ isEnclosed }) => isEnclosed).map(({ area }) => area);
  for (const area of enclosed) paint(passingBy, area, 0);
  for (let before = -1; before !== enclosed.length;) {
    before = enclosed.length;
    const seenThrough = enclosed.filter((area) => goesOnIn(passingBy, area, inside));
    for (const area of seenThrough) paint(passingBy, area, 255);
    enclosed = enclosed.filter((area) => !seenThrough.includes(area));
  }
  for (const area of enclosed) paint(out, area, 255);
  const beginning = growMask(out, BRIDGE_PX);
  const hugging = (dark: Mask, taken: readonly Mask[]): Mask[] => {
    const rest = { ...dark, data: dark.data.map((value, i) => (taken.some(({ data }) => data[i]) ? 0 : value)) };
    return separateAreas(rest, 12).filter((area) => {
      const share = enclosedShare(area, inside);
      return share > HUGGING_SHARE && share <= ENCLOSED_SHARE;
    });
  };
  const thick = hugging(withoutBridges(found, inside), [beginning]).map((area) => growMask(area, BRIDGE_PX));
  // Beside a flat thing a shadow may be as narrow as a bridge.
  const elsewhere = [...thick, ...hugging(found, [beginning, ...thick])];
  return { beginning, elsewhere };
}

function paint(out: Mask, area: Mask, value: number): void {
  for (let i = 0; i < out.data.length; i++) if (area.data[i]! >= 128) out.data[i] = value;
}

/**
 * Whether what a thin part of the subject parts an area from is mostly `dark`, too: then the area is a piece of a dark
 * ground that is seen through the subject.
 */
function goesOnIn(dark: Mask, area: Mask, inside: Mask): boolean {
  const { width, height } = area;
  const steps = new Uint8Array(width * height);
  const reached: number[] = [];
  const reach = (pixel: number, after: number): void => {
    if (steps[pixel]) return;
    steps[pixel] = after;
    reached.push(pixel);
  };
  for (let i = 0; i < steps.length; i++) if (area.data[i]! >= 128) reach(i, 1);
  const beyond = { dark: 0, lit: 0 };
  for (let k = 0; k < reached.length; k++) {
    const i = reached[k]!;
    const isOfArea = area.data[i] !== 0;
    if (!isOfArea && !inside.data[i]) beyond[dark.data[i] ? 'dark' : 'lit']++;
    if (steps[i]! > THIN_PX) continue;
    const x = i % width;
    for (const j of [x > 0 ? i - 1 : -1, x + 1 < width ? i + 1 : -1, i - width, i + width]) {
      if (j < 0 || j >= steps.length) continue;
      // Only through the subject, not around it.
      if (!isOfArea || inside.data[j]) reach(j, steps[i]! + 1);
    }
  }
  return beyond.dark > beyond.lit;
}

/** The share of an area's outline that runs along the subject. */
function enclosedShare({ width, height, data }: Mask, inside: Mask): number {
  let [along, all] = [0, 0];
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const x = i % width;
    for (const j of [x > 0 ? i - 1 : -1, x + 1 < width ? i + 1 : -1, i - width, i + width]) {
      if (j < 0 || j >= width * height || data[j]! >= 128) continue;
      all++;
      if (inside.data[j]) along++;
    }
  }
  return along / Math.max(1, all);
}
