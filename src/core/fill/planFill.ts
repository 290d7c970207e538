import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { findPlanes, type PlaneCorners } from '../planes/findPlanes.ts';
import { liesPastEdge } from './enclosed.ts';
import { planParts, type Part } from './parts.ts';
import type { FillStrategy } from './strategy.ts';

/** How a hole is gone about. */
export interface FillPlan {
  /** Whether it lies past the picture's edge. */
  pastEdge: boolean;
  /** The planes that were given or found, in region coordinates. */
  planes: readonly PlaneCorners[];
  /** At least one; later ones see what earlier ones rebuilt, but don't copy from it. */
  parts: Part[];
}

interface PlanInput {
  image: RasterImage;
  mark: Mask;
  donors?: Mask | undefined;
  planes?: readonly PlaneCorners[] | undefined;
  strategy: FillStrategy;
  /** What was found for another take; what is missing is written here. */
  learned: { planes?: readonly PlaneCorners[] };
}

/**
 * Looks for planes, if they are wanted and not given, and parts the hole. `hole` holds the mark's bytes (0 = known), where
 * other threads see them; `box` is its bounds.
 */
export function planFill(
  { image, mark, donors, planes: given, strategy, learned }: PlanInput,
  hole: Hole,
  box: Rect,
): FillPlan {
  // Past the picture's edge planes that are only found lead astray more often than they help.
  const pastEdge = liesPastEdge(mark.data, image);
  const areLookedFor = strategy.planes && !pastEdge;
  const planes = given ?? (areLookedFor ? (learned.planes ??= findPlanes(image, mark.data)) : []);
  const donorBounds = donors && boundsOf(donors, 255);
  return { pastEdge, planes, parts: planParts(hole, box, image, planes, strategy.looks, donorBounds) };
}
