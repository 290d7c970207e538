import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import { rowBands } from '../kernels/bands.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Task } from '../progress.ts';
import { bentAtRim } from './bentSources.ts';
import { matchInPicture, matchOnPlane, whereDonors, type Matched, type PartInput } from './matchPart.ts';
import type { Part } from './parts.ts';
import { previewOfCopied } from './preview.ts';
import { measureSeams, type SeamSums } from './seamMeasure.ts';
import { copiedPart } from './copiedPart.ts';
import { softenSeams } from './softenSeams.ts';
import type { StageClock } from './stageClock.ts';
import { closeSeams } from './transfer.ts';
import { COPY } from './wholeSources.ts';

/** A part that was rebuilt: RGBA of its box, meaningless outside the part. */
export interface RebuiltPart extends Matched {
  /** In the light of its place. */
  image: RasterImage;
  /** As it was copied. */
  copied: RasterImage;
  seams: SeamSums;
  /** How many pixels lie at seams where one thing ends and another begins. */
  onHardSeams: number;
}

/** Rebuilds one part of a hole: matched along its plane, from its side or from all around, copied, seams closed. */
export function* rebuildPart(input: PartInput, part: Part, kernels: Kernels, clock: StageClock): Task<RebuiltPart> {
  const { image, hole, unknown } = input;
  const { box } = part;
  const giveBack = kernels.scratch.hold();
  const matched: Matched =
    (part.drawn && { sources: part.drawn.sources, choice: 1, outlines: [] }) ??
    (part.plane && (yield* matchOnPlane(input, part, part.plane, kernels, clock))) ??
    ((part.side ?? part.donorsOf) && (yield* whereDonors(matchInPicture(input, part, kernels, clock)))) ??
    (yield* matchInPicture(input, { ...part, side: undefined, donorsOf: undefined }, kernels, clock));
  // Of the match only what its sources keep is needed any more.
  giveBack();
  const pixelsOfPart = kernels.share(part.pixelsOf);
  // Where two planes meet neither their lines nor their tones have anything to do with each other.
  const seamed = part.plane ? hole : unknown;
  const { outlines } = matched;
  const met = part.drawn
    ? matched.sources
    : bentAtRim(matched.sources, image, seamed, pixelsOfPart, box, outlines, input.donors?.data, kernels);
  const sources = met.shared?.(kernels) ?? met;
  clock.lap('bend');
  yield { stage: 'Copying at full resolution', share: 0.8 };
  const copied = cropImage(image, box);
  const out = kernels.share(copied.data);
  kernels.inBands(COPY, { sources, part: pixelsOfPart, box, out }, rowBands(box.height));
  if (out !== copied.data) copied.data.set(out);
  clock.lap('copy');
  const preview = part.drawn && previewOfCopied(copied, pixelsOfPart, box, image.width);
  yield { stage: 'Closing seams', share: 0.85, ...(preview && { preview }) };
  const lit = out === copied.data ? copied.data.slice() : out;
  const { leastFade } = input;
  const own = {
    image,
    unknown: seamed,
    part: pixelsOfPart,
    box,
    sources,
    leastFade,
    isThing: part.drawn?.isThing ?? false,
  };
  const pieces = copiedPart(own, kernels);
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
