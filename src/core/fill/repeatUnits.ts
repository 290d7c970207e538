import { FingoError } from '../errors.ts';
import { applyHomography, type Point } from '../geometry/homography.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Mask } from '../mask/mask.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { carriedSources } from './carriedSources.ts';
import { convergences } from './convergence.ts';
import { drawnIn, type DrawnOut } from './drawnIn.ts';
import { extentAlong, JOINT_PX, jointPixels, mappedMismatch, shiftedMismatch, type Extent } from './joints.ts';
import { mappedSources } from './mappedSources.ts';
import { straightWay, type PullWay } from './pullWays.ts';
import type { Sources } from './sources.ts';

/** One way of drawing a thing out: a strip at its rear that is repeated. */
export interface RepeatUnit {
  way: PullWay;
  /** Length of the strip along the way, and how often it is repeated. */
  step: number;
  repeats: number;
  /** Mean difference, in levels, across the joints, and a little for each repeat. */
  mismatch: number;
  /** Sources whose index is the number of steps by which a pixel is carried back. */
  sources(indexAt: (x: number, y: number) => number): Sources;
}

/** How strips are looked for. */
export const UNIT_OPTIONS = {
  /** The repeated strip is at least this share of the marked end along the pull, and at least so many px long. */
  shortestShare: 0.3,
  shortestPx: 8,
  /** A repeat may be so many px longer or shorter, and shifted sideways, so that its pattern stays in step; */
  slackPx: 10,
  sidewaysPx: 3,
  /** but no more than this share of a long pull, where perspective makes px cheap. */
  largestSlackShare: 0.25,
  /** Sideways shifts bend what should be straight: each px costs this share of the mismatch. */
  sidewaysCost: 0.04,
  /** Towards the horizon a px is a long way: so many numbers of repeats, and so many lengths to either side, are tried. */
  mostWays: 7,
  mostSteps: 60,
  /** Of strips that end less px than this apart only the better is offered. */
  apartPx: 4,
  /** What each repeat costs, in levels: longer strips hide better. */
  repeatCost: 0.15,
};
type UnitOptions = typeof UNIT_OPTIONS;

/** Strips of one size whose length divides the pull, best match first. Throws `no-donors` where there is none. */
export function straightUnits(
  image: RasterImage,
  mark: Mask,
  pull: { dx: number; dy: number },
  options = UNIT_OPTIONS,
): RepeatUnit[] {
  const { sidewaysPx, sidewaysCost, repeatCost } = options;
  const length = Math.hypot(pull.dx, pull.dy);
  const along = { x: pull.dx / length, y: pull.dy / length };
  const extent = extentAlong(mark, straightWay(pull));
  const joint = jointPixels(mark, straightWay(pull), extent);
  const units = new Map<string, RepeatUnit>();
  for (const { by, repeats } of lengthsFor(length, extent, 1, options)) {
    for (let sideways = -sidewaysPx; sideways <= sidewaysPx; sideways++) {
      const dx = Math.round(by * along.x - sideways * along.y);
      const dy = Math.round(by * along.y + sideways * along.x);
      const key = `${dx} ${dy}`;
      if (units.has(key) || (dx === 0 && dy === 0)) continue;
      const apart = shiftedMismatch(image, joint, dx, dy) * (1 + sidewaysCost * Math.abs(sideways));
      if (!Number.isFinite(apart)) continue;
      const offsets = Array.from({ length: repeats + 1 }, (_, k) => ({ dx: -k * dx, dy: -k * dy }));
      units.set(key, {
        way: straightWay({ dx, dy }),
        step: Math.hypot(dx, dy),
        repeats,
        mismatch: apart + repeatCost * repeats,
        sources: (indexAt) => carriedSources(image, new Uint8Array(image.width * image.height), offsets, indexAt),
      });
    }
  }
  const best = bestApart([...units.values()], options);
  if (best.length === 0) {
    throw new FingoError(
      'no-donors',
      'Too little of the thing is marked to go on from; mark a longer piece of its end, or pull less far.',
    );
  }
  return best;
}

/**
 * Strips that become smaller or larger with the thing's converging edges, in whichever perspective it repeats best;
 * undefined where none shows that matters for the pull. Where planes are given, only theirs are considered.
 */
export function perspectiveUnits(
  image: RasterImage,
  mark: Mask,
  pull: { dx: number; dy: number },
  planes?: readonly PlaneCorners[],
  options = UNIT_OPTIONS,
): RepeatUnit[] | undefined {
  const found = convergences(image, mark, pull, planes).flatMap((convergence) => {
    const drawn = drawnIn(convergence, mark, pull, planes !== undefined);
    const units = drawn ? unitsAlong(image, mark, drawn, options) : [];
    return units.length > 0 ? [units] : [];
  });
  return found.sort(([a], [b]) => a!.mismatch - b!.mismatch)[0];
}

function unitsAlong(
  image: RasterImage,
  mark: Mask,
  { way, length, pxThere }: DrawnOut,
  options: UnitOptions,
): RepeatUnit[] {
  const extent = extentAlong(mark, way);
  const joint = jointPixels(mark, way, extent);
  const units = lengthsFor(length, extent, pxThere, options).map(({ by, repeats }): RepeatUnit => ({
    way,
    step: by,
    repeats,
    mismatch: mappedMismatch(image, joint, way.carry(by)) + options.repeatCost * repeats,
    sources: (indexAt) =>
      mappedSources(
        image,
        Array.from({ length: repeats + 1 }, (_, k) => way.carry(-k * by)),
        indexAt,
      ),
  }));
  return bestApart(units, options);
}

/**
 * Lengths near a whole fraction of the pull, that the marked end has room for: so many px more or fewer where the pull
 * ends, to the px where it begins or ends, whichever is finer.
 */
function lengthsFor(
  length: number,
  { rear, front }: Extent,
  pxThere: number,
  { shortestShare, shortestPx, slackPx, largestSlackShare, mostWays, mostSteps }: UnitOptions,
): { by: number; repeats: number }[] {
  const longest = Math.max(shortestPx, front - rear - 2 * JOINT_PX);
  const finest = 1 / Math.max(1, pxThere);
  const most = Math.min(slackPx / pxThere, Math.max(slackPx, largestSlackShare * length));
  const shortest = Math.max(shortestPx * finest, shortestShare * longest);
  const fewest = Math.max(1, Math.ceil(length / longest));
  const last = Math.max(fewest, Math.min(fewest + mostWays, Math.floor(length / shortest)));
  const found: { by: number; repeats: number }[] = [];
  for (let repeats = fewest; repeats <= last; repeats++) {
    // Half a px of a strip's length is fine enough.
    const step = Math.max(1, repeats / 2) * finest;
    const slack = Math.min(most, mostSteps * step);
    for (let change = -slack; change <= slack; change += step) {
      const by = (length + change) / repeats;
      if (by >= shortestPx * finest && by <= longest + slackPx) found.push({ by, repeats });
    }
  }
  return found;
}

/** The best first; those close to a better one left out. */
function bestApart(units: readonly RepeatUnit[], { apartPx }: UnitOptions): RepeatUnit[] {
  const sorted = units.filter(({ mismatch }) => Number.isFinite(mismatch)).sort((a, b) => a.mismatch - b.mismatch);
  const end = ({ way, step }: RepeatUnit): Point => applyHomography(way.carry(step), 0, 0);
  return sorted.filter(
    (unit, k) =>
      !sorted.slice(0, k).some((better) => {
        const [a, b] = [end(unit), end(better)];
        return unit.way === better.way
          ? Math.abs(unit.step - better.step) < apartPx
          : Math.hypot(a.x - b.x, a.y - b.y) < apartPx;
      }),
  );
}
