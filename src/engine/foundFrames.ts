import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Size } from '../core/image/rect.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import type { Alignment } from '../core/panorama/align.ts';
import type { Camera } from '../core/panorama/camera.ts';
import type { Exposure } from '../core/panorama/exposure.ts';

/** A frame that is to be part of a panorama. Opened more than once: its pixels are not kept. */
export interface FrameFile {
  name: string;
  /** Focal length by the longer side, where the file tells it. */
  focalShare?: number | undefined;
  open(): Promise<RasterImage>;
}

/** Everything known about frames that hang together. */
export interface Found {
  files: readonly FrameFile[];
  /** By frame: its place in the order in which they came. */
  given: number[];
  sizes: Size[];
  alignment: Alignment;
  /** Straightened. */
  cameras: Camera[];
  exposure: Exposure;
  /** Frames small, equally bright. */
  even: RasterImage[];
  kernels: Kernels;
  mostPx: number;
}

/** Of a picture that was halved some times (its odd sides rounded up). */
export const scaleOf = (full: Size, halved: Size): number => 1 / 2 ** Math.round(Math.log2(full.width / halved.width));
