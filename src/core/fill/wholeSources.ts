import type { BandWork } from '../kernels/kernels.ts';
import type { Rect } from '../image/rect.ts';
import { rowsOfBand } from '../kernels/bands.ts';
import type { PartMask } from '../mask/byteMasks.ts';
import { BentSources } from './bentSources.ts';
import { PlaneSources } from './planeSources.ts';
import { ShiftedSources, type Sources } from './sources.ts';

/** Sources with their methods, which those told to another thread arrive without. */
export function wholeSources(told: Sources): Sources {
  if (typeof told.sample === 'function') return told;
  if (told.kind === 'onPlane') return new PlaneSources(told as unknown as PlaneSources);
  if (told.kind === 'bent') return new BentSources(told as unknown as BentSources);
  return new ShiftedSources(told as unknown as ShiftedSources);
}

export interface CopyWork {
  sources: Sources;
  part: PartMask;
  box: Rect;
  /** RGBA of the box. */
  out: Uint8ClampedArray;
}

/** `Sources.copy` for a band of the box's rows. */
function copyBand({ sources, part, box, out }: CopyWork, band: number): void {
  const { from, to } = rowsOfBand(band, box.height);
  const rows = { x: box.x, y: box.y + from, width: box.width, height: to - from };
  wholeSources(sources).copy(part, rows, out.subarray(4 * from * box.width, 4 * to * box.width));
}

export const COPY: BandWork<CopyWork> = { name: 'copy', band: copyBand };
