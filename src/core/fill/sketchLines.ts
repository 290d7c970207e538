import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { RunOnLine } from '../lines/runOnLine.ts';
import { drawFound, drawLines, findOutlines, runOnLines } from '../lines/runOnLines.ts';
import { boundsOf } from '../mask/mask.ts';
import type { FillInput } from './fill.ts';
import { requireMarked } from './requireMarked.ts';

/** The lines that run on through a mark, drawn; all else as it is. */
export interface LineSketch {
  box: Rect;
  /** RGBA of the box. */
  image: RasterImage;
  /** Those that were set, else those that were found. */
  lines: readonly RunOnLine[];
}

/** Draws nothing but what runs on through the mark, to be looked at before the rest is rebuilt. Throws `nothing-marked`. */
export function sketchLines(
  { image, mark, lines, learned = {} }: Pick<FillInput, 'image' | 'mark' | 'lines' | 'learned'>,
  kernels: Pick<Kernels, 'scratch'>,
): LineSketch {
  const box = boundsOf(mark);
  requireMarked(box);
  const outlines = (learned.outlines ??= findOutlines(image, mark.data, box, kernels));
  const drawn = lines
    ? drawLines(lines, outlines, image, mark.data, box)
    : (learned.lines ??= { drawn: drawFound(outlines, image, mark.data, box) }).drawn;
  const sketch = cropImage(image, box);
  if (drawn) drawn.sources.copy(drawn.pixelsOf, box, sketch.data);
  return { box, image: sketch, lines: lines ?? runOnLines(outlines) };
}
