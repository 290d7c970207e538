import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import { applyHomography, areaScaleAt } from '../geometry/homography.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import { addBicubicBytes, samplesAlong } from './bicubicSample.ts';
import type { SquareShifts } from './offsetField.ts';
import type { PlaneView } from './planeView.ts';
import type { Sources } from './sources.ts';

/** What a shift of the view by (dx, dy) px is called as a group; never 0. */
const REACH = 32768;
/** Tone is corrected on blocks up to this side where the part is large; along a plane offsets change slowly. */
const LARGEST_BLOCK = 4;
const groupOf = (dx: number, dy: number): number => (dy + REACH) * 2 * REACH + dx + REACH;
const shiftOf = (group: number): { dx: number; dy: number } => ({
  dx: (group % (2 * REACH)) - REACH,
  dy: Math.floor(group / (2 * REACH)) - REACH,
});

/** Sources at offsets along the plane: copied through the view's correspondence, resampled once, from the picture. */
export function planeSources(image: RasterImage, hole: Hole, view: PlaneView, cells: SquareShifts): Sources {
  const { toView, toPicture } = view;
  const cellGroups = new Float64Array(cells.dx.length);
  for (let i = 0; i < cellGroups.length; i++) cellGroups[i] = groupOf(cells.dx[i]!, cells.dy[i]!);
  const { width, height, factor, left, top } = cells;
  return new PlaneSources({
    image,
    hole,
    view: { toView, toPicture },
    cells: { width, height, factor, left, top },
    cellGroups,
  });
}

interface PlaneData {
  image: RasterImage;
  hole: Hole;
  view: Pick<PlaneView, 'toView' | 'toPicture'>;
  cells: Omit<SquareShifts, 'dx' | 'dy'>;
  cellGroups: Float64Array;
}

export class PlaneSources implements Sources, PlaneData {
  readonly kind = 'onPlane';
  readonly largestBlock = LARGEST_BLOCK;
  readonly image: RasterImage;
  readonly hole: Hole;
  readonly view: PlaneData['view'];
  readonly cells: PlaneData['cells'];
  readonly cellGroups: Float64Array;

  constructor({ image, hole, view, cells, cellGroups }: PlaneData) {
    this.image = image;
    this.hole = hole;
    this.view = view;
    this.cells = cells;
    this.cellGroups = cellGroups;
  }

  shared({ share }: Pick<Kernels, 'share'>): Sources {
    const { image, hole, view, cells, cellGroups } = this;
    const { width, height, data } = image;
    return new PlaneSources({
      image: { width, height, data: share(data) },
      hole: share(hole),
      view,
      cells,
      cellGroups: share(cellGroups),
    });
  }

  groupAt(x: number, y: number): number {
    const { cells } = this;
    const at = applyHomography(this.view.toView, x + 0.5, y + 0.5);
    const cx = Math.max(0, Math.min(cells.width - 1, Math.floor((at.x - cells.left) / cells.factor)));
    const cy = Math.max(0, Math.min(cells.height - 1, Math.floor((at.y - cells.top) / cells.factor)));
    return this.cellGroups[cy * cells.width + cx]!;
  }

  sourceOf(x: number, y: number): { x: number; y: number } {
    const { toView, toPicture } = this.view;
    const here = applyHomography(toView, x + 0.5, y + 0.5);
    const { dx, dy } = shiftOf(this.groupAt(x, y));
    return applyHomography(toPicture, here.x + dx, here.y + dy);
  }

  sample(group: number, x: number, y: number, out: Float32Array): boolean {
    const { width, height, data } = this.image;
    const { toView, toPicture } = this.view;
    const { dx, dy } = shiftOf(group);
    const here = applyHomography(toView, x + 0.5, y + 0.5);
    const middle = applyHomography(toPicture, here.x + dx, here.y + dy);
    if (!(middle.x >= 0 && middle.y >= 0 && middle.x < width && middle.y < height)) return false;
    if (this.hole[Math.floor(middle.y) * width + Math.floor(middle.x)] !== 0) return false;
    const enlarged = Math.abs(areaScaleAt(toView, x + 0.5, y + 0.5) * areaScaleAt(toPicture, here.x + dx, here.y + dy));
    const steps = samplesAlong(enlarged);
    out.fill(0);
    for (let v = 0; v < steps; v++) {
      for (let u = 0; u < steps; u++) {
        const p = steps === 1 ? here : applyHomography(toView, x + (u + 0.5) / steps, y + (v + 0.5) / steps);
        const q = applyHomography(toPicture, p.x + dx, p.y + dy);
        addBicubicBytes(data, width, height, q.x, q.y, 1 / (steps * steps), out);
      }
    }
    return true;
  }

  /** The colour of the first pixel of the part that has one; black where none has. */
  private firstColour(part: PartMask, box: Rect): Float32Array {
    const colour = new Float32Array(3);
    for (let y = box.y; y < box.y + box.height; y++) {
      for (let x = box.x; x < box.x + box.width; x++) {
        if (part[y * this.image.width + x] && this.sample(this.groupAt(x, y), x, y, colour)) return colour;
      }
    }
    return colour;
  }

  copy(part: PartMask, box: Rect, out: Uint8ClampedArray): void {
    const { width } = this.image;
    // A pixel whose source is no place to copy from, by a trifle, shows what its neighbour does.
    const colour = this.firstColour(part, box);
    for (let y = box.y; y < box.y + box.height; y++) {
      for (let x = box.x; x < box.x + box.width; x++) {
        if (!part[y * width + x]) continue;
        this.sample(this.groupAt(x, y), x, y, colour);
        const to = 4 * ((y - box.y) * box.width + x - box.x);
        for (let c = 0; c < 3; c++) out[to + c] = colour[c]!;
        out[to + 3] = 255;
      }
    }
  }
}
