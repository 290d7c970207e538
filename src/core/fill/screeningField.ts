import type { Rect } from '../image/rect.ts';

/** Over so many px corrections fade that are to be of no consequence farther off. */
export const SHORTEST_FADE_PX = 16;

/** How strongly the correction is pulled to zero: a value for each square of a box. */
export class Screening {
  readonly box: Rect;
  readonly side: number;
  readonly fade: Float32Array;
  readonly leastFade: number;
  private readonly width: number;

  /**
   * `fade`: over how many px corrections fade, in each square of `side` px, row by row from the box's corner; of one value
   * alone, that everywhere. They fade over `leastFade` px where that is more.
   */
  constructor({ box, side, fade, leastFade }: Pick<Screening, 'box' | 'side' | 'fade' | 'leastFade'>) {
    this.box = box;
    this.side = fade.length === 1 ? Infinity : side;
    this.fade = fade;
    this.leastFade = leastFade;
    this.width = Math.ceil(box.width / this.side);
  }

  private fadeAt(x: number, y: number): number {
    const { box, side } = this;
    return this.fade[Math.floor((y - box.y) / side) * this.width + Math.floor((x - box.x) / side)]!;
  }

  /** The pull per pixel, at pixel (x, y) of the region. */
  at(x: number, y: number): number {
    return 1 / Math.max(this.leastFade, this.fadeAt(x, y)) ** 2;
  }

  /** How lively it is there: 1 where nothing would show, towards 0 where all does. */
  livelinessAt(x: number, y: number): number {
    return (SHORTEST_FADE_PX / this.fadeAt(x, y)) ** 2;
  }
}
