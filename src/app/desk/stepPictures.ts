import type { Quad } from '../../core/geometry/insetQuad.ts';
import type { Size } from '../../core/image/rect.ts';
import type { Rendering } from '../../engine/workshop.ts';
import { composePatches } from '../../operations/composePatches.ts';
import type { Patch } from '../../operations/computation.ts';
import { kindOf } from '../../operations/kinds.ts';
import type { Step } from '../../operations/recipe.ts';
import type { DeskContext } from './deskContext.ts';
import type { RenderingDesk } from './renderingDesk.ts';

/** What is looked at of the steps as they stand. */
export interface StepPictures {
  /** The place that a step changed, before and after it, as small pictures; undefined until it has been computed. */
  stepHalves(index: number, size: Size): Promise<[ImageBitmap, ImageBitmap] | undefined>;
  /** Where the photo lies in the finished picture, if margins were added around it. */
  photoInside(): Promise<Quad | undefined>;
}

export function createStepPictures(
  { picture, workshop, project }: DeskContext,
  renderings: RenderingDesk,
): StepPictures {
  /** The whole picture as it stands, small. */
  const wholeIn = async (rendering: Rendering, size: Size): Promise<ImageBitmap> =>
    middleOf(await picture.overview(rendering, 2 * Math.max(size.width, size.height)), size);

  /** The place that a step changed in its direct view, before and after. */
  const halvesInView = async (
    before: Rendering,
    { type, params, enabled }: Step,
    size: Size,
  ): Promise<[ImageBitmap, ImageBitmap] | undefined> => {
    if (!enabled) return undefined;
    const { patches } = await workshop.apply(before, type, params, { signal: new AbortController().signal });
    const [changed] = patches;
    if (!changed) return undefined;
    const { source } = await workshop.seen(before, params.view!);
    const image = await source.crop(changed.rect);
    const halfOf = ({ data, width, height }: Patch['image']): Promise<ImageBitmap> =>
      middleOf(new ImageData(data, width, height), size);
    return Promise.all([halfOf(image), halfOf(changed.image)]);
  };

  return {
    async stepHalves(index, size) {
      await renderings.settled();
      const [before, after] = [renderings.all()[index], renderings.all()[index + 1]];
      if (before && after && before.source !== after.source) {
        return Promise.all([wholeIn(before, size), wholeIn(after, size)]);
      }
      const step = project().steps[index];
      if (!before || !after || !step) return undefined;
      if (step.params.view) return halvesInView(before, step, size);
      const changed = after.patches.slice(before.patches.length)[0];
      if (!changed) return undefined;
      const rect = changed.rect;
      const halfOf = async (rendering: Rendering): Promise<ImageBitmap> => {
        const image = await rendering.source.crop(rect);
        composePatches(image, rect, rendering.patches);
        return middleOf(new ImageData(image.data, image.width, image.height), size);
      };
      return Promise.all([halfOf(before), halfOf(after)]);
    },
    async photoInside() {
      await renderings.settled();
      const { steps } = project();
      let inside: Quad | undefined;
      for (const [index, { type, enabled, params }] of steps.entries()) {
        const before = renderings.all()[index];
        if (!before) break;
        const { photo } = before.source;
        if (enabled) inside = kindOf(type).photoInside?.(params, photo, inside) ?? inside;
      }
      return inside;
    },
  };
}

/** The middle of a picture, as large as a size of the same ratio fits in, at that size. */
function middleOf(image: ImageData | ImageBitmap, size: Size): Promise<ImageBitmap> {
  const scale = Math.max(size.width / image.width, size.height / image.height);
  const [width, height] = [size.width / scale, size.height / scale];
  return createImageBitmap(
    image,
    Math.max(0, Math.floor((image.width - width) / 2)),
    Math.max(0, Math.floor((image.height - height) / 2)),
    Math.max(1, Math.floor(width)),
    Math.max(1, Math.floor(height)),
    { resizeWidth: size.width, resizeHeight: size.height, resizeQuality: 'medium' },
  );
}
