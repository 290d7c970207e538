import type { RasterImage } from '../image/rasterImage.ts';
import { wholeOf, type Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { RunOnLine } from '../lines/runOnLine.ts';
import { findOutlines, type Outlines } from '../lines/runOnLines.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { findPlanes, type PlaneCorners } from '../planes/findPlanes.ts';
import { besideLines } from './besideLines.ts';
import { drawnFirst } from './drawnFirst.ts';
import type { Learned } from './learned.ts';
import { liesPastEdge } from './enclosed.ts';
import { pixelsInAll, planParts, type Part } from './parts.ts';
import type { FillStrategy } from './strategy.ts';

/** How a hole is gone about. */
export interface FillPlan {
  /** Whether it lies past the picture's edge. */
  pastEdge: boolean;
  /** The planes that were given or found, in region coordinates. */
  planes: readonly PlaneCorners[];
  outlines: Outlines;
  /** At least one; later ones see what earlier ones rebuilt, but don't copy from it. */
  parts: Part[];
}

interface PlanInput {
  image: RasterImage;
  mark: Mask;
  donors?: Mask | undefined;
  planes?: readonly PlaneCorners[] | undefined;
  /** The lines that run on, where they were set: they are drawn first, and no others. */
  lines?: readonly RunOnLine[] | undefined;
  strategy: FillStrategy;
  /** What was found for another take; what is missing is written here. */
  learned: Learned;
}

/**
 * Looks for planes, if they are wanted and not given, and parts the hole. `hole` holds the mark's bytes (0 = known), where
 * other threads see them; `box` is its bounds.
 */
export function planFill(input: PlanInput, hole: Hole, box: Rect, kernels: Pick<Kernels, 'scratch'>): FillPlan {
  const { image, mark, donors, planes: given, strategy, learned } = input;
  // Past the picture's edge planes that are only found lead astray more often than they help.
  const pastEdge = liesPastEdge(mark.data, image);
  const areLookedFor = strategy.planes && !pastEdge;
  const planes = given ?? (areLookedFor ? (learned.planes ??= findPlanes(image, mark.data)) : []);
  const donorBounds = donors && boundsOf(donors, 255);
  const parts = planParts(hole, box, image, planes, strategy.looks, donorBounds);
  const outlines = (learned.outlines ??= findOutlines(image, hole, box, kernels));
  // Donors and planes that were chosen are obeyed.
  const runsOn = donors || given ? 'not' : strategy.runsOn;
  const place = { image, hole, box, outlines, pastEdge, learned };
  const first = drawnFirst(place, input.lines, { runsOn });
  const region = wholeOf(image);
  const drawn: Part[] = [];
  let left = parts;
  for (const each of first.drawn) {
    const { pixelsOf, pixels, box: drawnBox } = each;
    const part: Part = { region, pixelsOf, pixels, box: drawnBox, isNear: false, drawn: each };
    drawn.push(drawn.reduce((own, { pixelsOf: taken }) => without(own, taken, image.width), part));
    // Between what is drawn it is gone about as amid the whole hole.
    left = left.map((own) => without(own, pixelsOf, image.width));
  }
  // Where both sides of lines that were set look different each is filled from what looks like itself, whatever planes say.
  const whole = { region, pixelsOf: bytesIn(hole), pixels: pixelsInAll(parts), box, isNear: false };
  const { set } = first;
  const sides = set && besideLines(without(whole, set.pixelsOf, image.width), set, image, hole);
  return { pastEdge, planes, outlines, parts: [...drawn, ...(sides ?? left)].filter((part) => part.pixels > 0) };
}

const bytesIn = (hole: Hole): Uint8Array => Uint8Array.from(hole, (value) => (value ? 1 : 0));

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
