import { cropImage, pasteImage, type RasterImage } from '../../core/image/rasterImage.ts';
import { inflate, intersect, translate, wholeOf, type Rect, type Size } from '../../core/image/rect.ts';
import type { Kernels } from '../../core/kernels/kernels.ts';
import { placeSubject, type PlacedSubject } from '../../core/place/placeSubject.ts';
import { shadowRatio } from '../../core/place/shadowRatio.ts';
import { findSubjectMatte, type SubjectOptions } from '../../core/segment/findSubjectMatte.ts';
import { boundsOf, createMask, cropMask, pasteMask, wholly, type Mask } from '../../core/mask/mask.ts';
import { combineMasks } from '../../core/mask/combine.ts';
import { growMask } from '../../core/mask/morphology.ts';
import { EMPTY_MARK, type Mark } from '../marks/markSchema.ts';
import { shadowOfMark, subjectOfMark } from '../marks/subjectOfMark.ts';
import { maskUnder, renderMark } from '../marks/renderMark.ts';
import type { Memo, Patch } from '../computation.ts';
import type { Remade } from './rebuildMarked.ts';
import type { PlacingParams } from './rebuildSchema.ts';
import { footOf, shadowShift } from './shadowLanding.ts';
import { subjectFrame, subjectRegion, type SubjectParams } from './subjectRegions.ts';

/** What is placed is cut out with some px of the place around it, to which its tone is led. */
const PLACE_MARGIN_PX = 2;

/** By so many px a known outline is drawn in or out at generosity -1 or 1. */
const outlineShift = ({ width, height }: Mask): number => 0.003 * Math.max(width, height);

const matteKey = ({ mark, belongs, belongsNot }: SubjectParams, generosity: number, inputKey: string): string =>
  JSON.stringify(['matte', inputKey, mark, belongs, belongsNot, generosity]);

/** The subject's matte over `subject.rect`, remembered: as the mark knows it, or found inside the mark. */
export function subjectMatte(
  params: SubjectParams,
  photo: Size,
  subject: Patch,
  generosity: number,
  inputKey: string,
  memo: Memo,
  kernels: Kernels,
): Mask {
  const { mark, belongs, belongsNot } = params;
  const key = matteKey(params, generosity, inputKey);
  const remembered = memo.get(key) as Mask | undefined;
  if (remembered) return remembered;
  const under = (what: Mark): Mask => maskUnder(renderMark(what, photo), subject.rect);
  const find = (patch: Patch, loop: Mask, options: SubjectOptions): Mask =>
    findSubjectMatte(patch.image, loop, options, kernels);
  const own = subjectOfMark(mark);
  let known = own && under(own.outline);
  if (known && own?.loose) {
    const rect = intersect(subjectRegion(own.loose, photo), subject.rect);
    const inSubject = translate(rect, -subject.rect.x, -subject.rect.y);
    const beside = { rect, image: cropImage(subject.image, inSubject) };
    const more = createMask(known.width, known.height);
    pasteMask(more, inSubject, find(beside, maskUnder(renderMark(own.loose, photo), rect), { generosity }));
    known = combineMasks(known, combineMasks(more, under(belongsNot ?? EMPTY_MARK), 'without'), 'also');
  }
  // What was found is in the outline already; where that is known, only what a hand said corrects it.
  const said = (what = EMPTY_MARK): Mark =>
    known ? { ...what, shapes: what.shapes.filter((shape) => shape.kind !== 'raster' || !shape.found) } : what;
  const [subjects, grounds] = [said(belongs), said(belongsNot)];
  const strokes = { subject: under(subjects), ground: under(grounds) };
  const isCorrected = subjects.shapes.length > 0 || grounds.shapes.length > 0;
  const matte =
    known && !isCorrected
      ? combineMasks(growMask(known, generosity * outlineShift(known)), under(mark), 'onlyBoth')
      : find(subject, under(mark), { generosity, known, ...(isCorrected && { strokes }) });
  memo.set(key, matte, matte.data.byteLength);
  return matte;
}

/** What a rebuild made of the old place, and what tells it from others. */
export interface Cleared {
  fill: Remade;
  key: string;
}

/** A shadow is measured so many times its smoothing beyond the mark. */
const SHADOW_MARGIN = 4;

/** The subject's shadow over `rect`, which holds its mark and matte, `within` a part of it, remembered: R, G, B ratios. */
function shadowOf(
  { fill, key: fillKey }: Cleared,
  { rect, image }: Patch,
  source: Rect,
  mark: Mask,
  within: Mask,
  matte: Mask,
  matteKey: string,
  memo: Memo,
): Float32Array<ArrayBuffer> {
  const key = JSON.stringify(['shadow', fillKey, matteKey]);
  const remembered = memo.get(key) as Float32Array<ArrayBuffer> | undefined;
  if (remembered) return remembered;
  const bounds = boundsOf(mark);
  const radiusPx = Math.max(2, 0.01 * Math.max(bounds.width, bounds.height));
  const near = intersect(inflate(bounds, Math.ceil(SHADOW_MARGIN * radiusPx)), wholeOf(mark));
  const before = cropImage(image, near);
  const cleared = { ...before, data: before.data.slice() };
  const corner = { x: rect.x + near.x - source.x, y: rect.y + near.y - source.y };
  pasteImage(cleared, { x: fill.box.x - corner.x, y: fill.box.y - corner.y }, fill.image);
  const ratio = shadowRatio(before, cleared, cropMask(within, near), cropMask(matte, near), radiusPx);
  const inner = placedPart(mark);
  const shadow = cropRgb(ratio, near.width, translate(inner, -near.x, -near.y));
  memo.set(key, shadow, shadow.byteLength);
  return shadow;
}

/** The part of a mark's surroundings that is placed. */
const placedPart = (mark: Mask): Rect => intersect(inflate(boundsOf(mark), PLACE_MARGIN_PX), wholeOf(mark));

/**
 * Places the marked subject. `source` is the rebuild region with the subject still in it, `cleared` the same place
 * without it (its shadow is measured against that), `destination` what the subject is put onto.
 */
export function placeMarked(
  params: PlacingParams,
  photo: Size,
  source: Patch,
  cleared: Cleared | undefined,
  destination: Patch,
  generosity: number,
  inputKey: string,
  memo: Memo,
  kernels: Kernels,
): PlacedSubject {
  const { centre } = subjectFrame(params.mark, photo);
  const rect = intersect(subjectRegion(params.mark, photo), source.rect);
  const image = cropImage(source.image, translate(rect, -source.rect.x, -source.rect.y));
  const mark = maskUnder(renderMark(params.mark, photo), rect);
  const patch = { rect, image };
  const matte = subjectMatte(params, photo, patch, generosity, inputKey, memo, kernels);
  const inner = placedPart(mark);
  let shadow: Float32Array<ArrayBuffer> | undefined;
  if (params.withShadow && cleared) {
    const within = combineMasks(mark, maskUnder(renderMark(shadowOfMark(params.mark), photo), rect), 'onlyBoth');
    const key = matteKey(params, generosity, inputKey);
    const ratio = shadowOf(cleared, patch, source.rect, mark, within, matte, key, memo);
    shadow = ratio.map((share) => share ** (params.shadowStrength / 100));
  }
  const foot = footOf(matte);
  const shadowTo = shadow && shadowShift(params, photo, centre, { x: rect.x + foot.x, y: rect.y + foot.y });
  const placed = placeSubject(
    {
      at: { x: rect.x + inner.x, y: rect.y + inner.y },
      image: cropImage(image, inner),
      mark: cropMask(mark, inner),
      matte: cropMask(matte, inner),
      shadow,
    },
    destination.image,
    destination.rect,
    { placement: params.placement, centre, closeness: params.closeness / 100, light: params.light / 100, shadowTo },
    kernels,
  );
  const under = (what: Mark): Mask => maskUnder(renderMark(what, photo), placed.rect);
  if (params.inFront) putBack(placed.image, destination.image, under(params.inFront));
  // Protection counts wholly, however faintly it was painted.
  if (params.protect) putBack(placed.image, destination.image, wholly(under(params.protect)));
  return placed;
}

/** Where `kept` covers, `image` becomes what `before` was. In place. */
export function putBack(image: RasterImage, before: RasterImage, kept: Mask): void {
  for (let i = 0; i < kept.data.length; i++) {
    const share = kept.data[i]! / 255;
    if (share === 0) continue;
    for (let c = 4 * i; c < 4 * i + 4; c++) image.data[c] = share * before.data[c]! + (1 - share) * image.data[c]!;
  }
}

/** Cuts `rect` out of interleaved RGB planes of the given width. */
function cropRgb(planes: Float32Array<ArrayBuffer>, width: number, rect: Rect): Float32Array<ArrayBuffer> {
  const out = new Float32Array(3 * rect.width * rect.height);
  for (let y = 0; y < rect.height; y++) {
    const from = 3 * ((y + rect.y) * width + rect.x);
    out.set(planes.subarray(from, from + 3 * rect.width), 3 * y * rect.width);
  }
  return out;
}
