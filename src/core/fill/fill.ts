import { FingoError } from '../errors.ts';
import { cropImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import { wholeOf, type Rect } from '../image/rect.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { rowBands } from '../kernels/bands.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { findPlanes, type PlaneCorners } from '../planes/findPlanes.ts';
import { translatedPreviews, withoutPreviews, within, type Task } from '../progress.ts';
import { alignPieces } from './alignPieces.ts';
import { bentAtRim } from './bentSources.ts';
import { coherentSources, type PlaceOfHole } from './coherentSources.ts';
import { cutSeams } from './cutSeams.ts';
import { measureDetail } from './detailMeasure.ts';
import { liesPastEdge } from './enclosed.ts';
import { raiseDetail } from './raiseDetail.ts';
import { handicapAmid, handicapOnPlanes, rankOf, repeatsOnPlanes, type FillMeasures } from './rank.ts';
import { matchRegion, type Match } from './matchRegion.ts';
import type { SquareShifts } from './offsetField.ts';
import { isOnSide, MIN_ON_PLANES, planParts, seenFromAll, type Part, type Side } from './parts.ts';
import { planeSources } from './planeSources.ts';
import { viewPlane } from './planeView.ts';
import { emptyBoard, previewsOn } from './preview.ts';
import { rimOutlines } from './rimBends.ts';
import { measureRim } from './rimMeasure.ts';
import { followedPaths, type RimPath } from './rimPath.ts';
import { measureSeams, seamErrorOf, type SeamSums } from './seamMeasure.ts';
import { LONGEST_FADE_PX } from './screening.ts';
import { copiedPart, SHORTEST_FADE_PX } from './seamSystem.ts';
import { shiftedSources, type Sources } from './sources.ts';
import { KNOWN_WORK, roomForSurroundings, type Surroundings } from './surroundings.ts';
import { measureTones } from './toneMeasure.ts';
import { countUses, noUses, repeatShare, usedAreas, type UsedAreas } from './usedAreas.ts';
import { onPlaneOf, type FillStrategy } from './strategy.ts';
import { makeKnown, pastePart, seenIn, type Seen } from './seen.ts';
import { softenSeams } from './softenSeams.ts';
import { closeSeams } from './transfer.ts';
import { COPY } from './wholeSources.ts';

/** Fewer donor patches for each that is to be rebuilt give takes that are all alike, with things repeated. */
const SMALLEST_CHOICE = 0.4;
/** At least this much a row counts past the picture's edge: what goes on beyond it mostly does so at its own height. */
const HEIGHT_WEIGHT_PAST_EDGE = 400;

/** On a plane without rows lie stones in no order: pieces smaller than these make stripes of them. */
const MIN_COARSENESS_WITHOUT_ROWS = 3.6;

/** Courses keep in step by themselves; more would keep what runs across them, such as a drainpipe, from going on. */
const ROWS_CHARGED_ON_PLANE = 20;

export interface FillInput {
  /** The region of the photo, as planned by `planFillRegion` (`planRegion.ts`). */
  image: RasterImage;
  /** Region size. Above 0: rebuilt; the result is mixed with the photo by coverage. */
  mark: Mask;
  /** Region size, optional. Only pixels at 255 may be copied from. */
  donors?: Mask;
  /** Planes in region coordinates; where not given, and the strategy wants some, they are found. */
  planes?: readonly PlaneCorners[];
  strategy: FillStrategy;
  seed: number;
  /** What is the same for every take of this mark in this region; what is missing is found out and written here. */
  learned?: Learned;
}

/** What is read from a mark and its surroundings whichever way it is rebuilt. */
export interface Learned {
  planes?: readonly PlaneCorners[];
  growthAdvised?: number;
}

export interface FillResult {
  /** The part of the region that was rebuilt. */
  box: Rect;
  /** RGBA of the box in the light of the place; outside the mark exactly the photo's pixels. */
  image: RasterImage;
  /** What was copied, every pixel in its own light. */
  inOwnLight: RasterImage;
  /** Of what was copied, before its detail is raised. */
  measures: FillMeasures;
  /** By what takes are ordered, the best having the lowest. */
  rank: number;
  /** The planes that were looked for or given, in region coordinates. */
  planes: readonly PlaneCorners[];
  /** Where new pixels were copied from, in region coordinates. */
  used: UsedAreas;
  /** By how many px the mark should grow to take its thing out whole; 0 where it does. */
  growthAdvised: number;
  /** Whether there was too little around the mark to rebuild it from with any variety. */
  poorSurroundings: boolean;
  /** Milliseconds by stage. */
  timings: Record<string, number>;
}

/**
 * Rebuilds the marked part of a region from the rest of it: coarse-to-fine patch completion with an approximate
 * nearest-neighbour field (C. Barnes et al.: PatchMatch, SIGGRAPH, 2009), full-resolution pixels copied through the
 * correspondence, bent so that lines meet those at the rim, seams closed in the gradient domain, and softened where things
 * end, missing detail raised. What lies on a plane is matched square on to it; places far apart, long ones and very large
 * ones are done in parts. Outside the mark no pixel changes.
 *
 * Throws `size-mismatch`, `nothing-marked` (mark empty) and `no-donors` (no whole patch of known, allowed pixels).
 * Deterministic for its input.
 */
export function* fillRegion(input: FillInput, kernels: Kernels): Task<FillResult> {
  const { image, mark, donors, strategy, learned = {} } = input;
  requireSameSize(image, mark, 'The mark');
  if (donors) requireSameSize(image, donors, 'The donor mask');
  const box = boundsOf(mark);
  if (box.width === 0) throw new FingoError('nothing-marked', 'Nothing is marked; draw around what should change.');
  const clock = stageClock();
  kernels.reset();
  const shared = kernels.share(image.data);
  const hole = kernels.share(mark.data);

  yield { stage: 'Reading the surroundings', share: 0 };
  // Past the picture's edge planes that are only found lead astray more often than they help.
  const pastEdge = liesPastEdge(mark.data, image);
  const areLookedFor = strategy.planes && !pastEdge;
  const planes = input.planes ?? (areLookedFor ? (learned.planes ??= findPlanes(image, mark.data)) : []);
  const donorBounds = donors && boundsOf(donors, 255);
  const parts = planParts(hole, box, image, planes, strategy.looks, donorBounds);
  clock.lap('planes');
  // Parts that come later see what earlier ones rebuilt; they don't copy from it.
  const several = parts.length > 1;
  const amidPlanes = parts.some(({ plane }) => plane);
  const picture = {
    width: image.width,
    height: image.height,
    data: several && shared === image.data ? shared.slice() : shared,
  };
  const unknown = several ? kernels.share(hole.slice()) : hole;
  let rebuilt = several ? cropImage(image, box) : undefined;
  let inOwnLight = several ? cropImage(image, box) : undefined;
  const seams: SeamSums[] = [];
  let onHardSeams = 0;
  const uses = noUses(image);
  const { width, height } = image;
  const growthIsKnown = learned.growthAdvised !== undefined;
  const known = { width, height, data: shared };
  const holeMask = { width, height, data: hole as Mask['data'] };
  const surroundings = roomForSurroundings(known, holeMask, box, pixelsOf(parts), growthIsKnown, kernels);
  const board = several ? emptyBoard(box) : undefined;
  let poorSurroundings = false;
  let done = 0;
  for (const planned of parts) {
    const share = planned.pixels / pixelsOf(parts);
    const giveBack = kernels.scratch.hold();
    const all = { image: picture, hole, unknown, donors };
    const rebuild = (part: Part): ReturnType<typeof rebuildPart> => {
      const seen = seenIn(part.region, all, kernels);
      const partPastEdge = liesPastEdge(seen.unknown, seen.image);
      const own = {
        ...input,
        ...seen,
        pastEdge: partPastEdge,
        leastFade: MIN_FADE_PX[amidPlanes ? 'amidPlanes' : partPastEdge ? 'pastEdge' : 'between'],
        surroundings: planned === parts[0] ? surroundings : undefined,
      };
      const rebuilding = translatedPreviews(rebuildPart(own, part, kernels, clock), part.region);
      return within(board ? previewsOn(board, rebuilding) : rebuilding, done, done + 0.97 * share);
    };
    let part = planned;
    const seesAll = part.region.width * part.region.height === width * height;
    let made = seesAll ? yield* rebuild(part) : yield* whereDonors(rebuild(part));
    if (!made || (!seesAll && made.choice < SMALLEST_CHOICE)) {
      part = seenFromAll(planned, image);
      made = yield* rebuild(part);
    }
    done += 0.97 * share;
    seams.push(made.seams);
    onHardSeams += made.onHardSeams;
    poorSurroundings ||= made.choice < SMALLEST_CHOICE;
    countUses(uses, part, made.sources);
    if (!rebuilt || !inOwnLight) {
      rebuilt = made.image;
      inOwnLight = made.copied;
    } else {
      pastePart(rebuilt, box, part, made.image);
      pastePart(inOwnLight, box, part, made.copied);
      pastePart(picture, wholeOf(image), part, made.image);
      makeKnown(unknown, part, image.width);
    }
    giveBack();
  }
  if (!rebuilt || !inOwnLight) throw new Error('A mark has at least one part.');
  const shown = { width: box.width, height: box.height, data: kernels.share(rebuilt.data) };
  const detail = measureDetail(surroundings.luma, box, shown, kernels);
  const { toneError } = measureTones(surroundings.tones, hole, width, box, shown, kernels);
  const growth = (learned.growthAdvised ??= surroundings.growth[0]!);
  const measures = {
    detailError: detail.detailError,
    ...seamErrorOf(seams),
    toneError,
    ...measureRim(picture, hole, box, shown, kernels),
    repeatShare: repeatShare(uses),
    cutLength: onHardSeams / Math.sqrt(pixelsOf(parts)),
  };
  clock.lap('measure');
  const shareOnPlanes = pixelsOf(parts.filter(({ plane }) => plane)) / pixelsOf(parts);
  const alongPlanes = shareOnPlanes >= MIN_ON_PLANES;
  // The lines of a plane are drawn sharp by themselves.
  if (!alongPlanes) {
    raiseDetail(detail, hole, image.width, box, shown.data, kernels);
    if (shown.data !== rebuilt.data) rebuilt.data.set(shown.data);
    clock.lap('detail');
  }
  const usual = pastEdge ? strategy.handicapPastEdge : handicapAmid(detail.liveliness, strategy.handicap);
  const handicap = alongPlanes ? handicapOnPlanes(shareOnPlanes, detail.detailError) : usual;
  mixIntoPhoto(image, mark, box, [rebuilt, inOwnLight]);
  clock.lap('finish');
  return {
    box,
    image: rebuilt,
    inOwnLight,
    measures,
    rank: rankOf(
      alongPlanes ? { ...measures, repeatShare: repeatsOnPlanes(measures.repeatShare) } : measures,
      handicap,
      pastEdge,
    ),
    planes,
    used: usedAreas(uses),
    growthAdvised: growth,
    poorSurroundings,
    timings: clock.timings,
  };
}

/**
 * Over how many px at least differences in tone fade. Past the picture's edge the tone of its one side is all there is to go
 * by. Between known places what lies farther off may be another thing's; where planes meet, it is.
 */
const MIN_FADE_PX = { amidPlanes: SHORTEST_FADE_PX, between: 64, pastEdge: LONGEST_FADE_PX };

const pixelsOf = (parts: readonly Part[]): number => parts.reduce((sum, { pixels }) => sum + pixels, 0);

interface PartInput extends Seen, Pick<FillInput, 'strategy' | 'seed'> {
  /** Whether what is unknown lies past the picture's edge. */
  pastEdge: boolean;
  /** Over at least so many px differences in tone fade. */
  leastFade: number;
  /** What is to be found out of the surroundings meanwhile. */
  surroundings: Surroundings | undefined;
}

/** Rebuilds one part of the hole. Returns RGBA of the part's box, meaningless outside the part. */
function* rebuildPart(
  input: PartInput,
  part: Part,
  kernels: Kernels,
  clock: StageClock,
): Task<Matched & { image: RasterImage; copied: RasterImage; seams: SeamSums; onHardSeams: number }> {
  const { image, hole, unknown } = input;
  const { box } = part;
  const giveBack = kernels.scratch.hold();
  const matched =
    (part.plane && (yield* matchOnPlane(input, part, part.plane, kernels, clock))) ??
    (part.side && (yield* whereDonors(matchInPicture(input, part, kernels, clock)))) ??
    (yield* matchInPicture(input, { ...part, side: undefined }, kernels, clock));
  // Of the match only what its sources keep is needed any more.
  giveBack();
  const pixelsOfPart = kernels.share(part.pixelsOf);
  // Where two planes meet neither their lines nor their tones have anything to do with each other.
  const seamed = part.plane ? hole : unknown;
  const { outlines } = matched;
  const met = bentAtRim(matched.sources, image, seamed, pixelsOfPart, box, outlines, input.donors?.data, kernels);
  const sources = met.shared?.(kernels) ?? met;
  clock.lap('bend');
  yield { stage: 'Copying at full resolution', share: 0.8 };
  const copied = cropImage(image, box);
  const out = kernels.share(copied.data);
  kernels.inBands(COPY, { sources, part: pixelsOfPart, box, out }, rowBands(box.height));
  if (out !== copied.data) copied.data.set(out);
  clock.lap('copy');
  yield { stage: 'Closing seams', share: 0.85 };
  const lit = out === copied.data ? copied.data.slice() : out;
  const { leastFade } = input;
  const pieces = copiedPart({ image, unknown: seamed, part: pixelsOfPart, box, sources, leastFade }, kernels);
  closeSeams(pieces, lit, kernels);
  const onHardSeams = softenSeams(pieces, lit, kernels);
  clock.lap('seams');
  const seams = measureSeams(pieces, lit, kernels);
  clock.lap('measure');
  const { width, height } = box;
  // What helpers saw ends with the next use of their memory.
  const data = lit === out ? lit.slice() : lit;
  giveBack();
  return { ...matched, image: { width, height, data }, copied, seams, onHardSeams };
}

interface Matched {
  sources: Sources;
  /** Donor patches for each patch that is to be rebuilt. */
  choice: number;
  /** Along which the part may be bent. */
  outlines: RimPath[];
}

const choiceOf = ({ level }: Match): number => level.donors.length / Math.max(1, level.targets.length);

function* matchInPicture(
  { image, hole, unknown, donors, strategy, seed, pastEdge, surroundings }: PartInput,
  { pixelsOf, box, side, isNear }: Part,
  kernels: Kernels,
  clock: StageClock,
): Task<Matched> {
  // What earlier parts rebuilt is known, but no donor.
  const allowed = unknown === hole && !side ? donors?.data : donorsOutside(hole, donors?.data);
  if (allowed && side && !donors) keepSide(allowed, side, image.width);
  const heightWeight = Math.max(strategy.heightWeight, pastEdge ? HEIGHT_WEIGHT_PAST_EDGE : 0);
  const match = yield* within(
    matchRegion(
      {
        image,
        hole: unknown,
        donors: allowed,
        chosenDonors: donors !== undefined,
        pastEdge,
        isNear,
        onPlane: false,
        box,
      },
      { ...strategy, heightWeight },
      seed,
      kernels,
    ),
    0,
    0.8,
  );
  clock.lap('match');
  const outlines = rimOutlines(pixelsOf, image.width, box, kernels);
  const findOut = kernels.beside(KNOWN_WORK, { outlines, surroundings });
  const cells = joinPieces(image, unknown, match, { pastEdge }, kernels, clock);
  findOut();
  clock.lap('measure');
  const sources = shiftedSources(image, hole, cells, match.factor);
  return { sources, choice: choiceOf(match), outlines: outlines ? followedPaths(outlines) : [] };
}

/** Undefined where there is nothing to copy from. */
function* whereDonors<Result>(task: Task<Result>): Task<Result | undefined> {
  try {
    return yield* task;
  } catch (error) {
    if (error instanceof FingoError && error.code === 'no-donors') return undefined;
    throw error;
  }
}

/** What was matched at work size, put together at full resolution. */
function joinPieces(
  image: RasterImage,
  hole: Uint8Array,
  { level, field, factor }: Match,
  place: PlaceOfHole,
  kernels: Kernels,
  clock: StageClock,
  hasRows = false,
): SquareShifts {
  const sources = coherentSources(level, field, factor, kernels, place);
  clock.lap('join');
  const aligned = alignPieces(image, hole, level.usable, sources, kernels, hasRows);
  clock.lap('align');
  const cut = cutSeams(image, hole, level.usable, aligned, kernels);
  clock.lap('cut');
  return cut;
}

/** Undefined where the plane itself offers nothing to rebuild from. */
function* matchOnPlane(
  { image, hole, unknown, donors, strategy, seed, pastEdge, surroundings }: PartInput,
  { pixelsOf, box }: Part,
  plane: PlaneCorners,
  kernels: Kernels,
  clock: StageClock,
): Task<Matched | undefined> {
  const allowed = { hole, ...(donors ? { donors: donors.data } : plane.shown && { shown: plane.shown }) };
  const onPlane = onPlaneOf(strategy);
  const view = viewPlane(image, pixelsOf, box, unknown, allowed, plane, kernels);
  clock.lap('planes');
  // A view of a plane is no place of the picture: its previews would lie askew. Boards have few donors in their rows:
  // were a second use dear, each would be pieced together from both sides in turns. Bricks would be drawn out without it.
  const match = yield* whereDonors(
    within(
      withoutPreviews(
        matchRegion(
          {
            image: view.image,
            hole: view.hole,
            chosenDonors: donors !== undefined,
            pastEdge,
            onPlane: true,
            rowsCharged: view.rowsRunOn ? undefined : ROWS_CHARGED_ON_PLANE,
            box: view.box,
          },
          view.hasRows
            ? {
                ...onPlane,
                heightWeight: onPlane.planeRowWeight,
                spread: view.rowsRunOn ? 0 : onPlane.spread,
              }
            : {
                ...onPlane,
                heightWeight: 0,
                coarseness: Math.max(MIN_COARSENESS_WITHOUT_ROWS, onPlane.coarseness),
              },
          seed,
          kernels,
        ),
      ),
      0,
      0.8,
    ),
  );
  if (!match) return undefined;
  clock.lap('match');
  const findOut = kernels.beside(KNOWN_WORK, { surroundings });
  const cells = joinPieces(view.image, view.hole, match, { onPlane: true, pastEdge }, kernels, clock, view.hasRows);
  findOut();
  clock.lap('measure');
  return { sources: planeSources(image, hole, view, cells), choice: choiceOf(match), outlines: [] };
}

/** 255 where a pixel may be copied from although parts of the hole are known by now. */
function donorsOutside(hole: Uint8Array, donors: Uint8Array | undefined): Uint8Array {
  const allowed = new Uint8Array(hole.length);
  for (let i = 0; i < hole.length; i++) allowed[i] = hole[i] === 0 && (!donors || donors[i] === 255) ? 255 : 0;
  return allowed;
}

function keepSide(allowed: Uint8Array, side: Side, width: number): void {
  for (let i = 0, y = 0; i < allowed.length; y++) {
    for (let x = 0; x < width; x++, i++) if (!isOnSide(side, x, y)) allowed[i] = 0;
  }
}

/** The result with copied pixels partly in their own light: 0 = all their own, 1 = that of the place. */
export function inLight({ image, inOwnLight }: Pick<FillResult, 'image' | 'inOwnLight'>, light: number): RasterImage {
  if (light === 1) return image;
  const data = inOwnLight.data.slice();
  if (light > 0) for (let i = 0; i < data.length; i++) data[i] = data[i]! + light * (image.data[i]! - data[i]!);
  return { ...image, data };
}

/** Mixes pictures of what was rebuilt in a box with the photo where the mark is partial. In place. */
export function mixIntoPhoto(image: RasterImage, mark: Mask, box: Rect, rebuilt: readonly RasterImage[]): void {
  for (let y = 0; y < box.height; y++) {
    const row = (y + box.y) * image.width + box.x;
    const covered = mark.data.subarray(row, row + box.width);
    for (let x = 0; x < covered.length; x++) {
      const coverage = covered[x]!;
      if (coverage === 0 || coverage === 255) continue;
      const i = 4 * (y * box.width + x);
      for (const { data } of rebuilt) {
        for (let c = 0; c < 3; c++) {
          data[i + c] = (data[i + c]! * coverage + image.data[4 * (row + x) + c]! * (255 - coverage)) / 255;
        }
      }
    }
  }
}

interface StageClock {
  lap(name: string): void;
  timings: Record<string, number>;
}

function stageClock(): StageClock {
  const timings: Record<string, number> = {};
  let last = performance.now();
  return {
    lap(name) {
      const now = performance.now();
      timings[name] = (timings[name] ?? 0) + now - last;
      last = now;
    },
    timings,
  };
}
