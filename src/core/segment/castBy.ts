import { areaOf, createMask, type Mask } from '../mask/mask.ts';

/** So many directions in which light may fall are tried. */
const DIRECTIONS = 48;
/** Seen in perspective, parallel ways are a fan: so many directions to either side belong together. */
const FAN = 2;
/** A shadow is at most so many times as long as what casts it. */
const LONGEST = 2.5;
/** A shadow may begin so far, as a share of its height, below what casts it. */
const FOOT_SHARE = 0.12;
/** Ways are led on so many times. */
const MAX_ROUNDS = 4;
/** It may be broken for so many px: a joint, a blade of grass. */
const LARGEST_GAP_PX = 2;
/** Beside the subject, which lends its colour to what lies there, a shadow may begin after so many px more. */
const FIRST_GAP_PX = 3;
/** Of a darkness elsewhere along the subject so much must lie along the light's ways. */
const ALONG_SHARE = 0.7;
/** How much of a shadow's outline must be one: what lies dark beside it is another's. */
const CLEANEST = 0.5;
/** A darkness that goes on above the subject for so much (of the square root of its area) lies behind it. */
const RISING_SHARE = 0.15;

/** How far a shadow reaches, in px: from what casts it, and up to which row. */
interface Limits {
  longest: number;
  top: number;
}

/**
 * The part of a darkness that a subject casts by one light: what is reached from the subject along nearly parallel ways
 * without leaving the darkness for more than a gap. Of all directions the one is taken whose part is largest and ends sideways
 * where the darkness ends, too; a darkness that goes on beside it (a building's, a row of others') is not the subject's,
 * nor is one above the subject's top, as light does not come from below.
 * Empty where no direction gives such a part. Of dark areas `elsewhere` along the subject those are added that lie along
 * ways in that direction, too.
 */
export function castBy(subject: Mask, dark: Mask, elsewhere: readonly Mask[] = []): Mask {
  const { width, height } = subject;
  let [top, bottom] = [height, 0];
  for (let i = 0; i < subject.data.length; i++) {
    if (subject.data[i]! < 128) continue;
    top = Math.min(top, Math.floor(i / width));
    bottom = Math.max(bottom, Math.floor(i / width));
  }
  const limits = { longest: LONGEST * Math.max(bottom - top + 1, 8), top };
  // What stands on the ground touches it in front of where its foot is seen to end.
  const foot = loweredBy(subject, Math.ceil(FOOT_SHARE * (bottom - top + 1)));
  let best = fanOf(foot, dark, 0, limits);
  let found = outlineOf(best, subject, dark, top);
  let towards = 0;
  for (let k = 1; k < DIRECTIONS; k++) {
    const part = fanOf(foot, dark, k, limits);
    const outline = outlineOf(part, subject, dark, top);
    if (worthOf(outline) > worthOf(found)) [best, found, towards] = [part, outline, k];
  }
  if (worthOf(found) === 0) return createMask(width, height);
  // Ways that begin in front of the subject's foot lead on from there, as long as what they reach ends as cleanly.
  for (let round = 0; round < MAX_ROUNDS; round++) {
    const start = { ...foot, data: foot.data.map((value, i) => Math.max(value, best.data[i]!)) };
    const further = fanOf(start, dark, towards, limits);
    for (let i = 0; i < further.data.length; i++) if (best.data[i]) further.data[i] = 255;
    const outline = outlineOf(further, subject, dark, top);
    if (outline.pixels === found.pixels || outline.clean < found.clean) break;
    [best, found] = [further, outline];
  }
  for (const area of elsewhere) {
    const part = fanOf(subject, area, towards, limits);
    if (areaOf(part) < ALONG_SHARE * areaOf(area)) continue;
    for (let i = 0; i < part.data.length; i++) if (area.data[i]) best.data[i] = 255;
  }
  return best;
}

/** A mask and what lies up to so many px below it. */
function loweredBy({ width, height, data }: Mask, px: number): Mask {
  const out = createMask(width, height);
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    for (let k = 0, at = i; k <= px && at < data.length; k++, at += width) out.data[at] = 255;
  }
  return out;
}

const worthOf = ({ pixels, clean }: Outline): number => (clean < CLEANEST ? 0 : pixels * clean ** 2);

/** What of a darkness lies along ways that begin at the subject, in one direction and those next to it. */
function fanOf(subject: Mask, dark: Mask, direction: number, limits: Limits): Mask {
  const out = createMask(subject.width, subject.height);
  for (let step = -FAN; step <= FAN; step++) {
    const { data } = reached(subject, dark, (2 * Math.PI * (direction + step)) / DIRECTIONS, limits);
    for (let i = 0; i < data.length; i++) if (data[i]) out.data[i] = 255;
  }
  return out;
}

/** What of a darkness lies along ways in one direction that begin at the subject. */
function reached(subject: Mask, dark: Mask, angle: number, { longest, top }: Limits): Mask {
  const { width, height } = subject;
  const out = createMask(width, height);
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  const isAcross = Math.abs(dx) >= Math.abs(dy);
  const [sx, sy] = [Math.sign(dx), Math.sign(dy)];
  const slope = isAcross ? dy / Math.abs(dx) : dx / Math.abs(dy);
  const stepLength = Math.hypot(1, slope);
  /** Px since the subject, and since the darkness was left; infinite where no way leads. */
  const length = new Float32Array(width * height).fill(Infinity);
  const gap = new Int8Array(width * height);
  const [majors, minors] = isAcross ? [width, height] : [height, width];
  const forward = isAcross ? sx > 0 : sy > 0;
  for (let m = 0; m < majors; m++) {
    const major = forward ? m : majors - 1 - m;
    const before = forward ? major - 1 : major + 1;
    for (let minor = 0; minor < minors; minor++) {
      const i = isAcross ? minor * width + major : major * width + minor;
      if (subject.data[i]! >= 128) {
        length[i] = 0;
        gap[i] = -FIRST_GAP_PX;
        out.data[i] = dark.data[i]!;
        continue;
      }
      const from = Math.round(minor - slope);
      if (before < 0 || before >= majors || from < 0 || from >= minors) continue;
      const j = isAcross ? from * width + before : before * width + from;
      const so = length[j]! + stepLength;
      if (!(so <= longest) || i < top * width) continue;
      const isDark = dark.data[i]! >= 128;
      const gone = isDark ? 0 : gap[j]! + 1;
      if (gone > LARGEST_GAP_PX) continue;
      length[i] = so;
      gap[i] = gone;
      if (isDark) out.data[i] = 255;
    }
  }
  return out;
}

interface Outline {
  pixels: number;
  /** The share of the outline, but for the subject, where the darkness ends with the part. */
  clean: number;
}

function outlineOf(part: Mask, subject: Mask, dark: Mask, top: number): Outline {
  const { width, height, data } = part;
  let [pixels, ends, goesOn, rises] = [0, 0, 0, 0];
  for (let i = 0; i < data.length; i++) {
    if (!data[i]) continue;
    pixels++;
    const x = i % width;
    for (const j of [x > 0 ? i - 1 : -1, x + 1 < width ? i + 1 : -1, i - width, i + width]) {
      if (j < 0 || j >= width * height || data[j] || subject.data[j]! >= 128) continue;
      if (dark.data[j]! < 128) ends++;
      else if (j < top * width) rises++;
      else goesOn++;
    }
  }
  if (rises > RISING_SHARE * Math.sqrt(pixels)) return { pixels, clean: 0 };
  return { pixels, clean: ends + goesOn > 0 ? ends / (ends + goesOn) : 0 };
}
