const BINS = 16;
const SIDE = BINS + 2;

/**
 * A smoothed histogram of colours with 16 bins a channel (encoded RGB): how often a colour occurs among what was
 * added. One bin of smoothing on each side, so that a colour near a seen one counts too.
 */
export interface ColourModel {
  add(r: number, g: number, b: number, weight: number): void;
  /** Natural logarithm of the share of this colour, never below that of a colour hardly seen at all. */
  logShare(r: number, g: number, b: number): number;
}

export function createColourModel(): ColourModel {
  const counts = new Float32Array(SIDE ** 3);
  let total = 0;
  const lower = (value: number): number => Math.max(0, Math.min(BINS - 1e-3, (value / 256) * BINS)) + 0.5;
  const visit = (r: number, g: number, b: number, each: (bin: number, weight: number) => void): void => {
    const [x, y, z] = [lower(r), lower(g), lower(b)];
    for (let corner = 0; corner < 8; corner++) {
      const i = Math.floor(x) + (corner & 1);
      const j = Math.floor(y) + ((corner >> 1) & 1);
      const k = Math.floor(z) + (corner >> 2);
      const weight = (1 - Math.abs(x - i)) * (1 - Math.abs(y - j)) * (1 - Math.abs(z - k));
      each((k * SIDE + j) * SIDE + i, weight);
    }
  };
  return {
    add(r, g, b, weight) {
      total += weight;
      visit(r, g, b, (bin, share) => (counts[bin]! += weight * share));
    },
    logShare(r, g, b) {
      let sum = 0;
      visit(r, g, b, (bin, share) => (sum += share * counts[bin]!));
      return Math.log((sum + 1e-4 * total + 1e-9) / (total + 1e-9));
    },
  };
}
