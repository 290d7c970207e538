import type { Kernels } from '../kernels/kernels.ts';
import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { wholeOf, type Rect } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import type { Mask } from '../mask/mask.ts';
import { translatedPreviews, within, type Task } from '../progress.ts';
import { liesPastEdge } from './enclosed.ts';
import { whereDonors } from './matchPart.ts';
import { pixelsInAll, seenFromAll, type Part } from './parts.ts';
import { emptyBoard, previewsOn } from './preview.ts';
import { rebuildPart, type RebuiltPart } from './rebuildPart.ts';
import { LONGEST_FADE_PX } from './screening.ts';
import type { SeamSums } from './seamMeasure.ts';
import { SHORTEST_FADE_PX } from './screeningField.ts';
import { makeKnown, pastePart, seenIn } from './seen.ts';
import type { StageClock } from './stageClock.ts';
import type { FillStrategy } from './strategy.ts';
import { KNOWN_WORK, type Surroundings } from './surroundings.ts';
import { countUses, noUses, type SourceUses } from './usedAreas.ts';

/** Fewer donor patches for each that is to be rebuilt give takes that are all alike, with things repeated. */
const SMALLEST_CHOICE = 0.4;

/**
 * Over how many px at least differences in tone fade. Past the picture's edge the tone of its one side is all there is to go
 * by. Between known places what lies farther off may be another thing's; where planes meet, it is.
 */
const MIN_FADE_PX = { amidPlanes: SHORTEST_FADE_PX, between: 64, pastEdge: LONGEST_FADE_PX };

/** The share of the whole that is done when all parts are. */
const DONE_BY_PARTS = 0.97;

interface RebuildInput {
  image: RasterImage;
  /** The image's bytes, where other threads see them. */
  shared: RasterImage['data'];
  /** The mark's bytes likewise: 0 = known. */
  hole: Hole;
  donors: Mask | undefined;
  /** The hole's bounds. */
  box: Rect;
  parts: readonly Part[];
  strategy: FillStrategy;
  seed: number;
  /** Found out beside the joining of the first part's pieces. */
  surroundings: Surroundings;
}

/** A hole that was rebuilt, before it is judged. */
export interface Rebuilt {
  /** The region, with all parts in it if there are several. */
  picture: RasterImage;
  /** RGBA of the box, in the light of its place. */
  image: RasterImage;
  /** As it was copied. */
  inOwnLight: RasterImage;
  /** Of each part. */
  seams: SeamSums[];
  /** How many pixels lie at seams where one thing ends and another begins. */
  onHardSeams: number;
  uses: SourceUses;
  /** Some part had too few donors to be rebuilt with any variety. */
  poorSurroundings: boolean;
}

/** Rebuilds the parts of a hole one after the other, each with the others that are done around it. Throws `no-donors`. */
export function* rebuildParts(
  { image, shared, hole, donors, box, parts, strategy, seed, surroundings }: RebuildInput,
  kernels: Kernels,
  clock: StageClock,
): Task<Rebuilt> {
  const { width, height } = image;
  const several = parts.length > 1;
  const amidPlanes = parts.some(({ plane }) => plane);
  const picture = { width, height, data: several && shared === image.data ? shared.slice() : shared };
  const unknown = several ? kernels.share(hole.slice()) : hole;
  const whole = several ? { image: cropImage(image, box), copied: cropImage(image, box) } : undefined;
  let last: RebuiltPart | undefined;
  const seams: SeamSums[] = [];
  let onHardSeams = 0;
  const uses = noUses(image);
  const board = several ? emptyBoard(box) : undefined;
  let poorSurroundings = false;
  let done = 0;
  const firstMatched = parts.find(({ drawn }) => !drawn);
  if (!firstMatched) KNOWN_WORK.band({ surroundings }, 0);
  for (const planned of parts) {
    const share = DONE_BY_PARTS * (planned.pixels / pixelsInAll(parts));
    const giveBack = kernels.scratch.hold();
    const all = { image: picture, hole, unknown, donors };
    const rebuild = (part: Part): Task<RebuiltPart> => {
      const seen = seenIn(part.region, all, kernels);
      const pastEdge = liesPastEdge(seen.unknown, seen.image);
      const own = {
        ...seen,
        strategy,
        seed,
        pastEdge,
        leastFade: MIN_FADE_PX[amidPlanes ? 'amidPlanes' : pastEdge ? 'pastEdge' : 'between'],
        surroundings: planned === firstMatched ? surroundings : undefined,
      };
      const rebuilding = translatedPreviews(rebuildPart(own, part, kernels, clock), part.region);
      return within(board ? previewsOn(board, rebuilding) : rebuilding, done, done + share);
    };
    let part = planned;
    const seesAll = part.region.width * part.region.height === width * height;
    let made = seesAll ? yield* rebuild(part) : yield* whereDonors(rebuild(part));
    if (!made || (!seesAll && made.choice < SMALLEST_CHOICE)) {
      part = seenFromAll(planned, image);
      made = yield* rebuild(part);
    }
    done += share;
    seams.push(made.seams);
    onHardSeams += made.onHardSeams;
    poorSurroundings ||= made.choice < SMALLEST_CHOICE;
    countUses(uses, part, made.sources);
    if (whole) {
      pastePart(whole.image, box, part, made.image);
      pastePart(whole.copied, box, part, made.copied);
      pastePart(picture, wholeOf(image), part, made.image);
      makeKnown(unknown, part, width);
    }
    last = made;
    giveBack();
  }
  const result = whole ?? last;
  if (!result) throw new Error('A mark has at least one part.');
  return { picture, image: result.image, inOwnLight: result.copied, seams, onHardSeams, uses, poorSurroundings };
}
