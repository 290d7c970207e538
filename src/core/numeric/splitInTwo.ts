/**
 * The value from which on values belong to the higher of two groups: the split between groups whose means differ most
 * for their sizes (N. Otsu: A Threshold Selection Method from Gray-Level Histograms, IEEE Trans. SMC, 1979).
 * `sorted` ascending, not empty.
 */
export function splitInTwo(sorted: Float32Array): number {
  const total = sorted.reduce((sum, value) => sum + value, 0);
  let [best, at, below] = [-1, sorted[0]!, 0];
  for (let k = 1; k < sorted.length; k++) {
    below += sorted[k - 1]!;
    const apart = (total - below) / (sorted.length - k) - below / k;
    const between = k * (sorted.length - k) * apart ** 2;
    if (between > best) [best, at] = [between, sorted[k]!];
  }
  return at;
}
