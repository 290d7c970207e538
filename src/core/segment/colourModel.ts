const BINS = 16;
const SIDE = BINS + 2;

/**
 * A smoothed histogram of colours with 16 bins a channel (encoded RGB): how often a colour occurs among what was
 * added. Trilinear over neighbouring bins, so that a colour near a seen one counts too.
 */
export class ColourModel {
  private readonly counts = new Float32Array(SIDE ** 3);
  private total = 0;

  add(r: number, g: number, b: number, weight: number): void {
    const { counts } = this;
    this.total += weight;
    const [x, y, z] = [position(r), position(g), position(b)];
    const [i, j, k] = [x | 0, y | 0, z | 0];
    const [fx, fy, fz] = [x - i, y - j, z - k];
    const at = (k * SIDE + j) * SIDE + i;
    for (let corner = 0; corner < 8; corner++) {
      const share = (corner & 1 ? fx : 1 - fx) * (corner & 2 ? fy : 1 - fy) * (corner & 4 ? fz : 1 - fz);
      const bin = at + (corner & 1) + (corner & 2 ? SIDE : 0) + (corner & 4 ? SIDE * SIDE : 0);
      counts[bin]! += weight * share;
    }
  }

  /** Natural logarithm of the share of this colour, never below that of a colour hardly seen at all. */
  logShare(r: number, g: number, b: number): number {
    const { counts, total } = this;
    const [x, y, z] = [position(r), position(g), position(b)];
    const [i, j, k] = [x | 0, y | 0, z | 0];
    const [fx, fy, fz] = [x - i, y - j, z - k];
    const at = (k * SIDE + j) * SIDE + i;
    const near = (1 - fx) * counts[at]! + fx * counts[at + 1]!;
    const right = (1 - fx) * counts[at + SIDE]! + fx * counts[at + SIDE + 1]!;
    const far = at + SIDE * SIDE;
    const below = (1 - fx) * counts[far]! + fx * counts[far + 1]!;
    const both = (1 - fx) * counts[far + SIDE]! + fx * counts[far + SIDE + 1]!;
    const sum = (1 - fz) * ((1 - fy) * near + fy * right) + fz * ((1 - fy) * below + fy * both);
    return Math.log((sum + 1e-4 * total + 1e-9) / (total + 1e-9));
  }
}

/** The position of a value between bin centres; what lies out of range counts as the nearest end. */
function position(value: number): number {
  const scaled = (value / 256) * BINS;
  return (scaled < 0 ? 0 : scaled > BINS - 1e-3 ? BINS - 1e-3 : scaled) + 0.5;
}
