import type { Size } from '../../core/image/rect.ts';
import { combineMasks } from '../../core/mask/combine.ts';
import { separateAreas } from '../../core/mask/components.ts';
import { wholly, type Mask } from '../../core/mask/mask.ts';
import type { Mark, MarkShape } from './markSchema.ts';
import { markFromMask, maskUnder, renderMark } from './renderMark.ts';
import { foundShadows, subjectOfMark } from './subjectOfMark.ts';

const MAX_AREAS = 60;

/**
 * The separate areas of a mark, each a mark of its own, the largest first; at most 60. What was found to be a subject
 * or a shadow still is.
 */
export function areasOfMark(mark: Mark, photo: Size): Mark[] {
  const { rect, mask } = renderMark(mark, photo);
  const areas = separateAreas(mask).slice(0, MAX_AREAS);
  const own = subjectOfMark(mark);
  // What was shrunk can't be shrunk again.
  if (!own || mark.growPx < 0) return areas.map((area) => markFromMask(area, rect));
  const under = (shapes: MarkShape[]): Mask =>
    maskUnder(renderMark({ shapes, growPx: 0, smoothPx: 0, featherPx: 0 }, photo), rect);
  const parts = [
    { mask: under(own.outline.shapes), found: 'subject' as const },
    { mask: under(foundShadows(mark)), found: 'shadow' as const },
    ...(own.loose ? [{ mask: under(own.loose.shapes), found: undefined }] : []),
  ];
  return areas.map((area) => ({
    ...mark,
    shapes: parts.flatMap(({ mask: part, found }) =>
      markFromMask(combineMasks(part, wholly(area), 'onlyBoth'), rect).shapes.map((shape): MarkShape => ({
        ...shape,
        combine: 'also',
        ...(found && { found }),
      })),
    ),
  }));
}
