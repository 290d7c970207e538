import type { RasterImage } from '../image/rasterImage.ts';
import { wholeOf, type Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { runOnLines } from '../lines/runOnLines.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { findPlanes, type PlaneCorners } from '../planes/findPlanes.ts';
import type { Learned } from './learned.ts';
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
  learned: Pick<Learned, 'planes' | 'lines'>;
}

/**
 * Looks for planes, if they are wanted and not given, and parts the hole. `hole` holds the mark's bytes (0 = known), where
 * other threads see them; `box` is its bounds.
 */
export function planFill(
  { image, mark, donors, planes: given, strategy, learned }: PlanInput,
  hole: Hole,
  box: Rect,
  kernels: Pick<Kernels, 'scratch'>,
): FillPlan {
  // Past the picture's edge planes that are only found lead astray more often than they help.
  const pastEdge = liesPastEdge(mark.data, image);
  const areLookedFor = strategy.planes && !pastEdge;
  const planes = given ?? (areLookedFor ? (learned.planes ??= findPlanes(image, mark.data)) : []);
  const donorBounds = donors && boundsOf(donors, 255);
  const parts = planParts(hole, box, image, planes, strategy.looks, donorBounds);
  // What runs past the picture's edge is seen from one side only; donors that were chosen are obeyed.
  const lines =
    strategy.runsOn && !pastEdge && !donors && (learned.lines ??= { drawn: runOnLines(image, hole, box, kernels) });
  if (!lines || !lines.drawn) return { pastEdge, planes, parts };
  const { pixelsOf, pixels, box: drawnBox, sources } = lines.drawn;
  const region = wholeOf(image);
  const drawn: Part = { region, pixelsOf, pixels, box: drawnBox, isNear: false, drawn: sources };
  // Between lines it is gone about as amid the whole hole.
  const left = parts.map((part) => without(part, pixelsOf, image.width)).filter((part) => part.pixels > 0);
  return { pastEdge, planes, parts: [drawn, ...left] };
}

/** A part without the pixels (not 0) of a picture `across` px wide that are drawn. */
function without(part: Part, drawn: PartMask, across: number): Part {
  const { region } = part;
  const pixelsOf = part.pixelsOf.slice();
  let pixels = 0;
  for (let y = 0; y < region.height; y++) {
    for (let x = 0; x < region.width; x++) {
      const i = y * region.width + x;
      if (!pixelsOf[i]) continue;
      if (drawn[(y + region.y) * across + x + region.x]) pixelsOf[i] = 0;
      else pixels++;
    }
  }
  const { width, height } = region;
  return { ...part, pixelsOf, pixels, box: boundsOf({ width, height, data: pixelsOf as Mask['data'] }) };
}
