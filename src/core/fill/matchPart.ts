import { FingoError } from '../errors.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Donors, Hole } from '../mask/byteMasks.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { withoutPreviews, within, type Task } from '../progress.ts';
import { alignPieces } from './alignPieces.ts';
import { coherentSources, type PlaceOfHole } from './coherentSources.ts';
import { cutSeams } from './cutSeams.ts';
import { matchRegion, type Match } from './matchRegion.ts';
import type { SquareShifts } from './offsetField.ts';
import { isOnSide, type Part, type Side } from './parts.ts';
import { planeSources } from './planeSources.ts';
import { viewPlane } from './planeView.ts';
import { rimOutlines } from './rimBends.ts';
import { followedPaths, type RimPath } from './rimPath.ts';
import type { Seen } from './seen.ts';
import { shiftedSources, type Sources } from './sources.ts';
import type { StageClock } from './stageClock.ts';
import { onPlaneOf, type FillStrategy } from './strategy.ts';
import { KNOWN_WORK, type Surroundings } from './surroundings.ts';

/** At least this much a row counts past the picture's edge: what goes on beyond it mostly does so at its own height. */
const HEIGHT_WEIGHT_PAST_EDGE = 400;

/** On a plane without rows lie stones in no order: pieces smaller than these make stripes of them. */
const MIN_COARSENESS_WITHOUT_ROWS = 3.6;

/** Courses keep in step by themselves; more would keep what runs across them, such as a drainpipe, from going on. */
const ROWS_CHARGED_ON_PLANE = 20;

/** A part of a hole with what is seen around it. */
export interface PartInput extends Seen {
  strategy: FillStrategy;
  seed: number;
  /** Whether what is unknown lies past the picture's edge. */
  pastEdge: boolean;
  /** Over at least so many px differences in tone fade. */
  leastFade: number;
  /** What is to be found out of the surroundings meanwhile. */
  surroundings: Surroundings | undefined;
}

/** What a part is copied from. */
export interface Matched {
  sources: Sources;
  /** Donor patches for each patch that is to be rebuilt. */
  choice: number;
  /** Along which the part may be bent. */
  outlines: RimPath[];
}

const choiceOf = ({ level }: Match): number => level.donors.length / Math.max(1, level.targets.length);

/** Matches a part with what is seen around it. Throws `no-donors`. */
export function* matchInPicture(
  { image, hole, unknown, donors, strategy, seed, pastEdge, surroundings }: PartInput,
  { pixelsOf, box, side, donorsOf, isNear }: Part,
  kernels: Kernels,
  clock: StageClock,
): Task<Matched> {
  // What earlier parts rebuilt is known, but no donor.
  const allowed = unknown === hole && !side && !donorsOf ? donors?.data : donorsOutside(hole, donors?.data);
  if (allowed && side && !donors) keepSide(allowed, side, image.width);
  if (allowed && donorsOf && !donors) for (let i = 0; i < allowed.length; i++) allowed[i]! &= donorsOf[i]!;
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
export function* whereDonors<Result>(task: Task<Result>): Task<Result | undefined> {
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
  hole: Hole,
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

/** Matches a part square on to its plane. Undefined where the plane itself offers nothing to rebuild from. */
export function* matchOnPlane(
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
function donorsOutside(hole: Hole, donors: Donors | undefined): Uint8Array {
  const allowed = new Uint8Array(hole.length);
  for (let i = 0; i < hole.length; i++) allowed[i] = hole[i] === 0 && (!donors || donors[i] === 255) ? 255 : 0;
  return allowed;
}

function keepSide(allowed: Donors, side: Side, width: number): void {
  for (let i = 0, y = 0; i < allowed.length; y++) {
    for (let x = 0; x < width; x++, i++) if (!isOnSide(side, x, y)) allowed[i] = 0;
  }
}
